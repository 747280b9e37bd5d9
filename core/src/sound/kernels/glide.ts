import { fallFactor } from '../../theory/envelope';
import { type KernelContext, type StillOutput } from '../kernel';
import { Derived } from './envelope';

/** Pitches on their way: to each new one in a constant time, or at a constant rate. */
export class Glide {
  readonly volts: Float64Array;
  private readonly goal: Float64Array;
  private readonly free: Float64Array;
  private readonly seconds;
  private readonly factor: Derived;
  private readonly byRate: boolean;
  private readonly legato: boolean;

  constructor(
    private readonly context: KernelContext,
    voices: number,
  ) {
    this.volts = new Float64Array(voices).fill(NaN);
    this.goal = new Float64Array(voices);
    this.free = new Float64Array(voices);
    this.seconds = context.number('glide');
    this.factor = new Derived(this.seconds, (s) => fallFactor(s, context.sampleRate));
    this.byRate = context.choice('glide-kind') === 'rate';
    this.legato = context.choice('glide-when') === 'legato';
  }

  get state(): object {
    return { volts: this.volts, goal: this.goal, free: this.free };
  }

  update(): void {
    this.factor.update();
  }

  /** Sends a voice to a pitch. @param tied another key was held when this one was pressed */
  head(voice: number, volts: number, tied: boolean): void {
    this.goal[voice] = volts;
    // The first note of all is not glided to: there is nowhere to come from.
    if (Number.isNaN(this.volts[voice])) this.volts[voice] = volts;
    this.free[voice] = this.legato && !tied ? 1 : 0;
  }

  /** The voice has arrived, or has not set out yet. */
  rests(voice: number): boolean {
    const now = this.volts[voice]!;
    return now === this.goal[voice] || now !== now;
  }

  /** The next sample of a voice, in V. */
  step(voice: number): number {
    const goal = this.goal[voice]!;
    const now = this.volts[voice]!;
    if (now === goal) return now;
    const way = now - goal;
    const seconds = this.seconds.value;
    let next: number;
    if (!(seconds > 0) || this.free[voice]! > 0) next = goal;
    else if (this.byRate) {
      const step = 1 / (seconds * this.context.sampleRate);
      next = way > step ? now - step : way < -step ? now + step : goal;
    } else next = way > 1e-7 || way < -1e-7 ? goal + way * this.factor.value : goal;
    this.volts[voice] = next;
    return next;
  }
}

/** Writes the pitch of a voice from one sample to another, `shift` + `slope` * i higher. */
export function fillPitch(
  glide: Glide,
  voice: number,
  output: StillOutput,
  from: number,
  to: number,
  shift: number,
  slope: number,
): void {
  let i = from;
  if (!glide.rests(voice)) {
    const into = output.written();
    for (; i < to && !glide.rests(voice); i++) into[i] = glide.step(voice) + shift + slope * i;
  }
  const volts = glide.volts[voice]!;
  // No key has been pressed yet: the instrument stands at C4.
  const rest = (volts === volts ? volts : 0) + shift;
  if (i === to) return;
  if (slope === 0) return output.hold(rest, i, to);
  const into = output.written();
  for (; i < to; i++) into[i] = rest + slope * i;
}
