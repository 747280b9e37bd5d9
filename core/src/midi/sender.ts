import type { Pattern } from '../pattern/pattern';
import { PatternRun } from '../sequence/run';
import { Act } from '../sound/key-feed';
import { CLOCKS } from './clock';
import { writeMidi } from './message';

/** A message with the quarter note at which it is due. */
export interface DueMessage {
  beat: number;
  bytes: number[];
}

/**
 * What patterns send to a listening instrument: notes, and a clock of 24 messages a quarter note, in order. It is asked
 * ahead of time, so that whoever sends can say when each message is due.
 */
export class MidiSender {
  readonly run: PatternRun;
  private clocks = 0;
  private begun = false;

  constructor(
    patterns: readonly Pattern[],
    seed = 1,
    private readonly sends: { notes: boolean; clock: boolean } = { notes: true, clock: true },
  ) {
    this.run = new PatternRun(patterns, seed);
  }

  /** Everything that is due before a quarter note and has not been told yet. */
  advance(until: number): DueMessage[] {
    const due: DueMessage[] = [];
    if (!this.begun && this.sends.clock) due.push({ beat: 0, bytes: [0xfa] });
    this.begun = true;
    const { notes, clock } = this.sends;
    this.run.advance(until, {
      press: (beat, note, velocity) =>
        notes && due.push({ beat, bytes: writeMidi(Act.press, note, velocity) }),
      release: (beat, note) => notes && due.push({ beat, bytes: writeMidi(Act.release, note, 0) }),
      step: () => undefined,
    });
    for (; this.clocks / CLOCKS < until; this.clocks++) {
      if (clock) due.push({ beat: this.clocks / CLOCKS, bytes: [0xf8] });
    }
    return due.sort((a, b) => a.beat - b.beat);
  }

  /** Lets go of what sounds, and stops the clock. */
  stop(beat: number): DueMessage[] {
    const due: DueMessage[] = [];
    this.run.stop(beat, {
      press: () => undefined,
      release: (at, note) =>
        this.sends.notes && due.push({ beat: at, bytes: writeMidi(Act.release, note, 0) }),
      step: () => undefined,
    });
    if (this.sends.clock) due.push({ beat, bytes: [0xfc] });
    return due;
  }
}
