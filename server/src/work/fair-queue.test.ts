import { Busy, FairQueue } from './fair-queue';

/** Things that are done when one says so, and in which order they began. */
function bench(queue: FairQueue) {
  const began: string[] = [];
  const ends = new Map<string, () => void>();
  const ask = (who: string, what: string, gone?: AbortSignal): Promise<string> =>
    queue.run(
      who,
      () => {
        began.push(what);
        return new Promise((done) => ends.set(what, () => done(what)));
      },
      gone,
    );
  const end = async (what: string): Promise<void> => {
    ends.get(what)!();
    await new Promise((done) => setImmediate(done));
  };
  return { began, ask, end };
}

describe('a queue', () => {
  it('serves those who ask in turn, whoever asked for most', async () => {
    const { began, ask, end } = bench(new FairQueue(10, 60_000));
    const all = [ask('a', 'a1'), ask('a', 'a2'), ask('a', 'a3'), ask('b', 'b1'), ask('c', 'c1')];
    all.push(ask('b', 'b2'));
    for (const what of ['a1', 'a2', 'b1', 'c1', 'a3', 'b2']) {
      expect(began.at(-1)).toBe(what);
      await end(what);
    }
    expect(await Promise.all(all)).toEqual(['a1', 'a2', 'a3', 'b1', 'c1', 'b2']);
    expect(began).toEqual(['a1', 'a2', 'b1', 'c1', 'a3', 'b2']);
  });

  it('refuses who has too much waiting, and nobody else', async () => {
    const { ask, end } = bench(new FairQueue(2, 60_000));
    const all = [ask('a', 'a1'), ask('a', 'a2'), ask('a', 'a3')];
    await expect(ask('a', 'a4')).rejects.toThrow(Busy);
    all.push(ask('b', 'b1'));
    for (const what of ['a1', 'a2', 'b1', 'a3']) await end(what);
    expect(await Promise.all(all)).toEqual(['a1', 'a2', 'a3', 'b1']);
  });

  it('refuses what waited too long or was given up, and goes on', async () => {
    const { began, ask, end } = bench(new FairQueue(10, 1));
    const first = ask('a', 'first');
    await expect(ask('a', 'late')).rejects.toThrow('others were served first');
    await end('first');
    expect(await first).toBe('first');
    const queue = bench(new FairQueue(10, 60_000));
    const running = queue.ask('a', 'running');
    const gone = new AbortController();
    const given = queue.ask('a', 'given up', gone.signal);
    gone.abort();
    await expect(given).rejects.toThrow(Busy);
    const last = queue.ask('b', 'last');
    await queue.end('running');
    await queue.end('last');
    expect([await running, await last]).toEqual(['running', 'last']);
    expect([began, queue.began]).toEqual([['first'], ['running', 'last']]);
  });

  it('goes on after what failed', async () => {
    const queue = new FairQueue(10, 60_000);
    await expect(queue.run('a', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(await queue.run('a', () => Promise.resolve(3))).toBe(3);
  });
});
