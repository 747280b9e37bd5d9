/** What hands and feet do while an instrument is played. */
export enum Act {
  release = 0,
  press = 1,
  /** Bender, -1..1. */
  bend = 2,
  /** Wheel, 0..1. */
  wheel = 3,
  /** Pressure on the keys, 0..1. */
  pressure = 4,
  /** Sustain pedal, 0 up or 1 down. */
  pedal = 5,
}

const SIZE = 1024;

/**
 * What is played, in order of time, for every module that listens. It holds the last 1024 acts; each listener keeps the
 * number of the next act it has to hear, and hears it in the block in which it falls.
 */
export class KeyFeed {
  /** Acts so far; the last one has number count - 1. */
  count = 0;
  private readonly samples = new Float64Array(SIZE);
  private readonly acts = new Uint8Array(SIZE);
  private readonly notes = new Uint8Array(SIZE);
  private readonly values = new Float64Array(SIZE);

  /** @param sample at which it happens, not before that of the act before */
  add(sample: number, act: Act, note: number, value: number): void {
    const at = this.count++ % SIZE;
    this.samples[at] = sample;
    this.acts[at] = act;
    this.notes[at] = note;
    this.values[at] = value;
  }

  /** Takes over what another feed holds, so that listeners can go on with it. */
  follow(other: KeyFeed): void {
    this.count = other.count;
    this.samples.set(other.samples);
    this.acts.set(other.acts);
    this.notes.set(other.notes);
    this.values.set(other.values);
  }

  sampleOf = (number: number): number => this.samples[number % SIZE]!;
  actOf = (number: number): Act => this.acts[number % SIZE]!;
  /** MIDI number, for press and release. */
  noteOf = (number: number): number => this.notes[number % SIZE]!;
  /** Velocity 0..127 for a press, else the value of the act. */
  valueOf = (number: number): number => this.values[number % SIZE]!;
}
