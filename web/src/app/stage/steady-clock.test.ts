import { SteadyClock } from './steady-clock';

describe('a clock of a break', () => {
  let [wall, own] = [1_000_000, 0];
  const pass = (ms: number, jump = 0): void => {
    wall += ms + jump;
    own += ms;
  };
  const clock = (): SteadyClock =>
    new SteadyClock(
      () => wall,
      () => own,
    );

  it('goes on as it went when the wall clock is set, on or back', () => {
    const one = clock();
    const began = one.now();
    pass(500);
    expect(one.now() - began).toBe(500);
    for (const jump of [3_600_000, -7_200_000]) {
      pass(500, jump);
      one.now();
    }
    expect(one.now() - began).toBe(1500);
    expect(one.jumped).toBe(-3_600_000);
  });

  it('counts a jump when one says that it was time', () => {
    const one = clock();
    const began = one.now();
    pass(500, 60_000);
    expect(one.now() - began).toBe(500);
    one.count();
    expect(one.now() - began).toBe(60_500);
    expect(one.jumped).toBe(0);
  });

  it('follows a wall clock that is trimmed a little', () => {
    const one = clock();
    const began = one.now();
    for (let i = 0; i < 10; i++) {
      pass(500, 20);
      one.now();
    }
    expect(one.now() - began).toBe(5200);
  });
});
