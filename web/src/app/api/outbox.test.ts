import { jest } from '@jest/globals';
import { ApiError } from './client';
import { Outbox } from './outbox';

describe('what waits to be told', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  const later = (ms: number) => jest.advanceTimersByTimeAsync(ms);

  function box(troubles: Record<string, number> = {}) {
    const sent: string[] = [];
    const outbox = new Outbox<string>(async (of, what) => {
      sent.push(`${of} ${what}`);
      const status = troubles[of];
      if (status !== undefined) throw new ApiError(status, 'no');
    });
    return { outbox, sent, troubles };
  }

  it('is sent once, of each thing the last', async () => {
    const { outbox, sent } = box();
    outbox.put('a', 'first', 400);
    outbox.put('b', 'only', 400);
    outbox.put('a', 'second', 400);
    expect(outbox.get('a')).toBe('second');
    await later(399);
    expect(sent).toEqual([]);
    await later(60_000);
    expect(sent).toEqual(['a second', 'b only']);
    expect(outbox.get('a')).toBeUndefined();
  });

  it.each([0, 503, 401])('is sent again after %i, and keeps nothing else back', async (status) => {
    const { outbox, sent, troubles } = box({ a: status });
    outbox.put('a', '1');
    outbox.put('b', '2');
    await later(1);
    expect(sent).toEqual(['a 1', 'b 2']);
    delete troubles['a'];
    await later(60_000);
    expect(sent).toEqual(['a 1', 'b 2', 'a 1']);
  });

  it('is let go where it is refused', async () => {
    const { outbox, sent } = box({ a: 404 });
    outbox.put('a', '1');
    await later(60_000);
    expect(sent).toEqual(['a 1']);
  });

  it('is sent at once when it is closed, and not again', async () => {
    const { outbox, sent } = box({ a: 0 });
    outbox.put('a', '1', 400);
    outbox.close();
    await later(60_000);
    expect(sent).toEqual(['a 1']);
  });

  it('never overtakes what was sent before it', async () => {
    const sent: string[] = [];
    const answers: (() => void)[] = [];
    const outbox = new Outbox<string>(async (_, what) => {
      sent.push(what);
      await new Promise<void>((on) => answers.push(on));
    });
    outbox.put('a', 'older');
    await later(1);
    outbox.put('a', 'newer');
    await later(60_000);
    expect(sent).toEqual(['older']);
    answers[0]!();
    await later(1);
    expect(sent).toEqual(['older', 'newer']);
    answers[1]!();
    await later(60_000);
    expect(sent).toHaveLength(2);
    expect(outbox.get('a')).toBeUndefined();
  });

  it('is kept until it is told, and sent when there is somebody to send it again', async () => {
    const disk = new Map<string, string>();
    const kept = {
      read: () => new Map(disk),
      write: (waiting: ReadonlyMap<string, string>) => {
        disk.clear();
        for (const [of, what] of waiting) disk.set(of, what);
      },
    };
    const away = new Outbox<string>(async () => {
      throw new ApiError(0, 'no');
    }, kept);
    away.put('a', '1', 400);
    away.close();
    await later(1);
    expect([...disk]).toEqual([['a', '1']]);
    const sent: string[] = [];
    const back = new Outbox<string>(async (of, what) => void sent.push(`${of} ${what}`), kept);
    await later(60_000);
    expect(sent).toEqual(['a 1']);
    expect(back.get('a')).toBeUndefined();
    expect(disk.size).toBe(0);
  });
});
