import { workerOver } from '../../testing/worker';
import { remote, Resting } from './resting';

/** Workers that were begun, in order, each of its kind. */
const begun: (ReturnType<typeof workerOver> & { kind: string })[] = [];
const rest = (most?: number) =>
  new Resting((kind: 'sum' | 'turn') => {
    const one = workerOver({ said: () => `${kind} ${begun.length}` });
    begun.push({ ...one, kind });
    return one.fake;
  }, most);
const ended = (): boolean[] => begun.map((one) => one.state.ended);

beforeEach(() => begun.splice(0));
afterEach(() => begun.forEach((one) => one.fake.terminate()));

describe('workers that rest', () => {
  it('go on with the next work of their kind, and with no other', () => {
    const workers = rest();
    const first = workers.start('sum');
    workers.rest(first);
    expect(workers.start('turn')).not.toBe(first);
    expect(workers.start('sum')).toBe(first);
    expect(workers.start('sum')).not.toBe(first);
    expect(begun.map((one) => one.kind)).toEqual(['sum', 'turn', 'sum']);
    expect(ended()).toEqual([false, false, false]);
  });

  it('answer whoever asks next', async () => {
    const workers = rest();
    for (let n = 0; n < 3; n++) {
      const worker = workers.start('sum');
      expect(await remote<{ said(): string }>(worker).said()).toBe('sum 1');
      workers.rest(worker);
    }
    expect(begun).toHaveLength(1);
  });

  it('are few: the one that rested longest ends', () => {
    const workers = rest(2);
    const three = [workers.start('sum'), workers.start('turn'), workers.start('sum')];
    three.forEach((worker) => workers.rest(worker));
    expect(ended()).toEqual([true, false, false]);
    expect(workers.start('turn')).toBe(three[1]);
  });

  it('do not rest when they failed, or are somebody else’s', () => {
    const workers = rest();
    const failed = workers.start('sum');
    begun[0]!.errors.dispatchEvent(new Event('error'));
    workers.rest(failed);
    expect(ended()).toEqual([true]);
    expect(workers.start('sum')).not.toBe(failed);
    const other = workerOver({});
    workers.rest(other.fake);
    expect(other.state.ended).toBe(true);
  });

  it('that fail while they rest are asked nothing more', () => {
    const workers = rest();
    const failed = workers.start('sum');
    workers.rest(failed);
    begun[0]!.errors.dispatchEvent(new Event('error'));
    expect(workers.start('sum')).not.toBe(failed);
  });
});
