import { jest } from '@jest/globals';
import { openLine } from './open-line';

/** The browser's own line to a server. */
class Line extends EventTarget {
  static all: Line[] = [];
  closed = false;
  constructor(readonly url: string) {
    super();
    Line.all.push(this);
  }
  close(): void {
    this.closed = true;
  }
  tells(type: string, data?: unknown): void {
    this.dispatchEvent(new MessageEvent(type, { data: JSON.stringify(data) }));
  }
}
const lines = () => Line.all.filter((line) => !line.closed);
const told: string[] = [];
const hears = {
  open: () => void told.push('open'),
  news: (marks: object) => void told.push(`news of ${Object.keys(marks).join()}`),
  lost: () => void told.push('lost'),
};
const mark = { value: 'done', clock: 1, device: 'd', at: '2026-12-12T21:00:00.000Z' };
/** Somebody looks at the page, or at another. */
function look(here: boolean): void {
  Object.defineProperty(document, 'hidden', { value: !here, configurable: true });
  document.dispatchEvent(new Event('visibilitychange'));
}

let hangUp: () => void;
beforeEach(() => {
  jest.useFakeTimers();
  Object.assign(globalThis, { EventSource: Line });
  Line.all = [];
  told.length = 0;
  hangUp = openLine('/walk', hears);
});
afterEach(() => {
  hangUp();
  Reflect.deleteProperty(document, 'hidden');
  Reflect.deleteProperty(globalThis, 'EventSource');
  jest.useRealTimers();
});

describe('an open line', () => {
  it('tells what others say, and nothing that is no mark', () => {
    const [line] = Line.all;
    line!.tells('open');
    line!.tells('marks', { 'work/one/p/a': mark });
    line!.tells('marks', { 'work/one/p/a': 'nonsense' });
    expect([line!.url, ...told]).toEqual(['/walk', 'open', 'news of work/one/p/a']);
  });

  it('is lost when it gives no sign of life, and opened anew', () => {
    jest.advanceTimersByTime(11_000);
    Line.all[0]!.tells('beat');
    jest.advanceTimersByTime(11_000);
    expect(told).toEqual([]);
    jest.advanceTimersByTime(1_001);
    expect([told, lines().length, Line.all.length]).toEqual([['lost'], 1, 2]);
  });

  it('waits before it is opened anew where it broke off', () => {
    Line.all[0]!.tells('error');
    expect([told, lines().length]).toEqual([['lost'], 0]);
    jest.advanceTimersByTime(1_999);
    expect(lines()).toHaveLength(0);
    jest.advanceTimersByTime(1);
    expect(lines()).toHaveLength(1);
  });

  it('hangs up while nobody sees the page, whatever happens, and is opened when somebody does', () => {
    look(false);
    expect([told, lines().length]).toEqual([['lost'], 0]);
    dispatchEvent(new Event('online'));
    dispatchEvent(new Event('offline'));
    jest.advanceTimersByTime(60_000);
    expect(Line.all).toHaveLength(1);
    look(true);
    expect(lines()).toHaveLength(1);
    lines()[0]!.tells('open');
    expect(told.at(-1)).toBe('open');
  });

  it('is over when one hangs up', () => {
    hangUp();
    look(false);
    look(true);
    jest.advanceTimersByTime(60_000);
    expect([told, lines().length]).toEqual([[], 0]);
  });
});
