import { BLOCK, kernelOf, type KernelContext } from '../kernel';
import { cosTurns, sinTurns } from '../../theory/portable';
import { exp2Quick } from '../quick';

const PEAK = 5;

/** Where its memory stands. */
const enum At {
  /** Turns at which this rate began, and samples since. */
  turns,
  count,
  inc,
  cycle,
  held,
  before,
  open,
  /** Samples since the gate opened. */
  since,
}

function makeLfo(context: KernelContext) {
  const gate = context.input('gate');
  const gated = context.connected('gate');
  const rateIn = context.input('rate');
  const bent = context.connected('rate');
  const out = context.output('out');
  const { random, sampleRate, transport } = context;
  const shape = context.choice('shape');
  const tied = context.choice('clock') === 'tempo';
  const once = context.choice('run') === 'once';
  const byKey = gated && (context.choice('reset') === 'key' || once);
  const outwards = context.choice('fade-kind') === 'out';
  const rate = context.number('rate');
  const beats = context.number('beats');
  const fade = context.number('fade');
  const delay = context.number('delay');
  const phase = context.number('phase');
  const width = context.number('width');
  const S = new Float64Array(8);
  S[At.held] = 2 * random.next() - 1;
  S[At.before] = 2 * random.next() - 1;
  // Before the first stroke a fading one has not begun.
  S[At.since] = -1;

  /** Phases of a stretch, and what becomes of them. */
  const P = new Float64Array(BLOCK);

  const drawn = shape === 'random' || shape === 'smooth';

  return {
    state: { S, random: random.state },
    gate,
    gated,
    rateIn,
    bent,
    out,
    random,
    sampleRate,
    transport,
    shape,
    tied,
    once,
    byKey,
    outwards,
    rate,
    beats,
    fade,
    delay,
    phase,
    width,
    S,
    P,
    drawn,
  };
}
type Lfo = ReturnType<typeof makeLfo>;

/** Turns phases into volts, all at once: what changes within a cycle only. */
function shapes({ shape, P, out, width }: Lfo, from: number, to: number): void {
  const p = P;
  const y = out;
  const w = width.value / 100;
  if (shape === 'square') for (let i = from; i < to; i++) y[i] = p[i]! < w ? PEAK : -PEAK;
  else if (shape === 'ramp-up') for (let i = from; i < to; i++) y[i] = PEAK * (2 * p[i]! - 1);
  else if (shape === 'ramp-down') for (let i = from; i < to; i++) y[i] = PEAK * (1 - 2 * p[i]!);
  else if (shape === 'sine') for (let i = from; i < to; i++) y[i] = PEAK * sinTurns(p[i]!);
  else if (shape === 'triangle') {
    // Through nothing upwards as the cycle begins, whatever the width.
    const top = w / 2;
    const rise = 2 / w;
    const fall = 2 / (1 - w);
    for (let i = from; i < to; i++) {
      const t = p[i]!;
      y[i] = PEAK * (t < top ? t * rise : t < 1 - top ? 1 - (t - top) * fall : (t - 1) * rise);
    }
  }
}

function draw({ S, random }: Lfo): void {
  S[At.before] = S[At.held]!;
  S[At.held] = 2 * random.next() - 1;
}

function setRate(S: Float64Array, inc: number): void {
  if (inc === S[At.inc]) return;
  S[At.turns] = S[At.turns]! + S[At.count]! * S[At.inc]!;
  S[At.count] = 0;
  S[At.inc] = inc;
}

function step(
  parts: Lfo,
  i: number,
  wait: number,
  span: number,
  steady: number,
  offset: number,
  fading: boolean,
): void {
  const { gate, rateIn, bent, out, shape, once, byKey, outwards, fade, S, P, drawn } = parts;
  if (bent) {
    const fast = steady * exp2Quick(rateIn[i]!);
    setRate(S, fast < 0.5 ? fast : 0.5);
  }
  const now = gate[i]! > 2.5;
  if (now && S[At.open] === 0) {
    S[At.since] = 0;
    if (byKey) {
      S[At.turns] = S[At.count] = S[At.cycle] = 0;
      if (drawn) draw(parts);
    }
  } else if (S[At.since]! >= 0) S[At.since] = S[At.since]! + 1;
  S[At.open] = now ? 1 : 0;
  // From the count, not by adding up: no drift over hours.
  let turns = S[At.turns]! + S[At.count]! * S[At.inc]!;
  S[At.count] = S[At.count]! + 1;
  if (once && turns >= 1) turns = 1 - 1e-12;
  turns += offset;
  const whole = Math.floor(turns);
  if (whole !== S[At.cycle]) {
    S[At.cycle] = whole;
    draw(parts);
  }
  let depth = 1;
  if (fading) {
    const t = (S[At.since]! - wait) / span;
    const shown = t < 0 ? 0 : t > 1 || fade.value <= 0 ? 1 : t;
    // Before the first stroke there is nothing to fade.
    depth = S[At.since]! < 0 ? 0 : outwards ? 1 - shown : shown;
  }
  P[i] = turns - whole;
  if (shape === 'random') out[i] = PEAK * S[At.held]!;
  else if (shape === 'smooth') {
    const way = 0.5 - 0.5 * cosTurns(P[i]! / 2);
    out[i] = PEAK * (S[At.before]! + (S[At.held]! - S[At.before]!) * way);
  } else shapes(parts, i, i + 1);
  out[i] = depth * out[i]!;
}

/** Low frequency oscillator: free in Hz or tied to the tempo, fading in or out, once or on and on. */
export const lfo = kernelOf(makeLfo, (parts, from, to) => {
  const {
    gated,
    bent,
    sampleRate,
    transport,
    tied,
    once,
    byKey,
    rate,
    beats,
    fade,
    delay,
    phase,
    S,
    P,
    drawn,
  } = parts;
  const fading = gated && (fade.value > 0 || delay.value > 0);
  const wait = delay.value * sampleRate;
  const span = Math.max(1, fade.value * sampleRate);
  const steady = tied ? transport.tempo / (60 * beats.value * sampleRate) : rate.value / sampleRate;
  const offset = phase.value / 100;
  setRate(S, steady);
  if (!fading && !bent && !byKey && !drawn && !once) {
    // Nothing but time moves it.
    const begin = S[At.turns]! + offset;
    const inc = S[At.inc]!;
    const count = S[At.count]!;
    const p = P;
    for (let i = from; i < to; i++) {
      const turns = begin + (count + i - from) * inc;
      p[i] = turns - Math.floor(turns);
    }
    S[At.count] = count + to - from;
    return shapes(parts, from, to);
  }
  for (let i = from; i < to; i++) step(parts, i, wait, span, steady, offset, fading);
});
