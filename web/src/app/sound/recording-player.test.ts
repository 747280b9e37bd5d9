import { jest } from '@jest/globals';
import { RecordingPlayer } from './recording-player';

/** The sound of a machine, whose clock runs or stands still. */
class Machine {
  static opened: Machine[] = [];
  static runs: boolean[] = [];
  private readonly began = Date.now();
  private readonly runs = Machine.runs.shift() ?? true;
  closed = false;
  readonly state = 'running';
  readonly destination = {};
  readonly copied: number[] = [];

  constructor() {
    Machine.opened.push(this);
  }
  get currentTime(): number {
    return this.runs ? (Date.now() - this.began) / 1000 : 0;
  }
  resume = async () => undefined;
  async close(): Promise<void> {
    this.closed = true;
  }
  createBuffer() {
    return { copyToChannel: (_: unknown, i: number) => this.copied.push(i) };
  }
}
class Source {
  static last: Source;
  onended: (() => void) | null = null;
  started = 0;
  stopped = 0;
  constructor() {
    Source.last = this;
  }
  connect = <T>(to: T): T => to;
  start = () => void this.started++;
  stop = () => void this.stopped++;
}
class Gain {
  connect = <T>(to: T): T => to;
}

const SECOND = [new Float32Array(48000)];
const told: string[] = [];
const player = () => new RecordingPlayer((why) => told.push(why));

beforeEach(() => {
  jest.useFakeTimers();
  Object.assign(globalThis, {
    AudioContext: Machine,
    AudioBufferSourceNode: Source,
    GainNode: Gain,
  });
  [Machine.opened, Machine.runs] = [[], []];
  told.length = 0;
});
afterEach(() => {
  jest.useRealTimers();
  for (const name of ['AudioContext', 'AudioBufferSourceNode', 'GainNode'])
    Reflect.deleteProperty(globalThis, name);
});

describe('what was rendered', () => {
  it('plays to its end, and says how far it is', () => {
    const its = player();
    its.play([SECOND[0]!, SECOND[0]!], 48000, 1);
    expect([its.playing(), Machine.opened[0]!.copied]).toEqual([true, [0, 1]]);
    jest.advanceTimersByTime(600);
    expect(its.at()).toBeCloseTo(0.6, 6);
    Source.last.onended!();
    expect([its.playing(), its.at(), told.length]).toEqual([false, 0, 0]);
  });

  it('plays one at a time, on one sound of the machine', () => {
    const its = player();
    its.play(SECOND, 48000, 1);
    const first = Source.last;
    its.play(SECOND, 48000, 1);
    expect([first.stopped, first.onended, Source.last.started]).toEqual([1, null, 1]);
    expect(Machine.opened).toHaveLength(1);
    its.play([], 48000, 1);
    expect(its.playing()).toBe(false);
  });

  it('opens the sound of the machine anew where it stands still', () => {
    Machine.runs = [false, true];
    const its = player();
    its.play(SECOND, 48000, 1);
    jest.advanceTimersByTime(1900);
    expect(Machine.opened).toHaveLength(1);
    jest.advanceTimersByTime(200);
    expect(Machine.opened.map((m) => m.closed)).toEqual([true, false]);
    jest.advanceTimersByTime(5000);
    expect([its.playing(), Machine.opened.length, told.length]).toEqual([true, 2, 0]);
  });

  it('is not said to play where none comes out: that is told, and can be tried again', () => {
    Machine.runs = [false, false, true];
    const its = player();
    its.play(SECOND, 48000, 1);
    jest.advanceTimersByTime(6000);
    expect([its.playing(), Machine.opened.length]).toEqual([false, 2]);
    expect(told).toEqual([expect.stringContaining('no sound')]);
    its.play(SECOND, 48000, 1);
    jest.advanceTimersByTime(600);
    expect([its.playing(), told.length]).toEqual([true, 1]);
  });
});
