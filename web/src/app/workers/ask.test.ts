import { workerOver } from '../../testing/worker';
import { ask, Cancelled } from './ask';
import { told } from './told';

interface Sums {
  sum(values: number[]): Promise<number>;
  never(): Promise<number>;
  fails(): Promise<number>;
}

const worker = () =>
  workerOver({
    sum: (values: number[]) => values.reduce((a, b) => a + b, 0),
    never: () => new Promise<number>(() => undefined),
    fails: () => Promise.reject(new Error('No such patch.')),
  });

describe('a worker that is asked one thing', () => {
  it('answers, and is ended', async () => {
    const { fake, state } = worker();
    expect(await ask<Sums, number>(fake, (of) => of.sum([1, 2, 4]))).toBe(7);
    expect(state.ended).toBe(true);
  });

  it('passes on what it throws', async () => {
    const { fake, state } = worker();
    await expect(ask<Sums, number>(fake, (of) => of.fails())).rejects.toThrow('No such patch.');
    expect(state.ended).toBe(true);
  });

  it('is ended in the middle when nobody wants the answer any more', async () => {
    const { fake, state } = worker();
    const work = new AbortController();
    const answer = ask<Sums, number>(fake, (of) => of.never(), work.signal);
    work.abort();
    await expect(answer).rejects.toBeInstanceOf(Cancelled);
    expect(state.ended).toBe(true);
    await expect(
      ask<Sums, number>(worker().fake, (of) => of.never(), work.signal),
    ).rejects.toBeInstanceOf(Cancelled);
  });

  it('says so when it cannot be loaded', async () => {
    const { fake, errors } = worker();
    const answer = ask<Sums, number>(fake, (of) => of.never());
    errors.dispatchEvent(new Event('error'));
    await expect(answer).rejects.toThrow('could not be loaded');
  });
});

describe('progress', () => {
  it('is told when there is something to tell, and never stops the work', () => {
    const shares: number[] = [];
    const asked = told((done) => shares.push(done));
    expect([0, 0.004, 0.02, 0.025, 0.5, 1].map(asked)).toEqual(Array(6).fill(false));
    expect(shares).toEqual([0.02, 0.5, 1]);
  });
});
