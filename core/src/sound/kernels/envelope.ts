import { ATTACK_OVERSHOOT, attackFactor, fallFactor } from '../../theory/envelope';
import { kernelOf, type KernelContext, Steadiness } from '../kernel';
import type { Param } from '../param';

const FULL = 5;

/**
 * Writes a level that heads for its goal, from one sample to another. Numbers come and go in arrays: passed by
 * themselves each would be something made for the collector.
 */
function approach(
  into: Float64Array,
  from: number,
  to: number,
  state: Float64Array,
  by: Float64Array,
): void {
  const factor = by[0]!;
  const goal = FULL * by[1]!;
  // What is left of the way: nothing of nothing, so that who has arrived stays there to the last digit.
  let left = FULL * (state[At.level]! - by[1]!);
  // Four samples at a time: each waits only for the last but three.
  const twice = factor * factor;
  const thrice = twice * factor;
  const fourTimes = twice * twice;
  let i = from;
  for (; i + 3 < to; i += 4) {
    into[i] = goal + left * factor;
    into[i + 1] = goal + left * twice;
    into[i + 2] = goal + left * thrice;
    left *= fourTimes;
    into[i + 3] = goal + left;
  }
  for (; i < to; i++) {
    left *= factor;
    into[i] = goal + left;
  }
  state[At.level] = by[1]! + left / FULL;
}

/** A number made of a parameter, remade when that is turned. */
export class Derived {
  value: number;
  private last: number;
  constructor(
    private readonly param: Param,
    private readonly make: (value: number) => number,
  ) {
    this.last = param.value;
    this.value = make(param.value);
  }
  update(): number {
    if (this.param.value !== this.last) {
      this.last = this.param.value;
      this.value = this.make(this.last);
    }
    return this.value;
  }
}

/** What is made of the times: factors a sample, and lengths in samples. */
const enum Time {
  rise,
  fall,
  off,
  attack,
  decay,
  release,
  delay,
  hold,
}

/** An envelope's times, worked out anew when one of them is turned. */
class Times {
  readonly T = new Float64Array(8);
  private readonly seen = new Float64Array(5).fill(NaN);
  private readonly params: readonly Param[];

  constructor(private readonly context: KernelContext) {
    this.params = ['attack', 'decay', 'release', 'delay', 'hold'].map((p) => context.number(p));
    this.update();
  }

  update(): void {
    const { seen, params } = this;
    let turned = false;
    for (let i = 0; i < 5; i++) {
      const value = params[i]!.value;
      if (seen[i] === value) continue;
      seen[i] = value;
      turned = true;
    }
    if (turned) this.make();
  }

  private make(): void {
    const { T, seen } = this;
    const { sampleRate } = this.context;
    T[Time.rise] = attackFactor(seen[0]!, sampleRate);
    T[Time.fall] = fallFactor(seen[1]!, sampleRate);
    T[Time.off] = fallFactor(seen[2]!, sampleRate);
    for (let i = 0; i < 3; i++) T[Time.attack + i] = Math.max(1, Math.round(seen[i]! * sampleRate));
    for (let i = 3; i < 5; i++) T[Time.attack + i] = Math.round(seen[i]! * sampleRate);
  }
}

const enum Stage {
  idle,
  delay,
  attack,
  hold,
  decay,
  release,
}

/** Where its memory stands: level, stage, samples in the stage, gate, level at the start of a linear stage. */
const enum At {
  level,
  stage,
  count,
  open,
  start,
}

function makeEnvelope(context: KernelContext) {
  const gate = context.input('gate');
  const trigger = context.input('trigger');
  const velocityIn = context.input('velocity');
  const hasVelocity = context.connected('velocity');
  const out = context.output('out');
  const times = new Times(context);
  const sustainParam = context.number('sustain');
  const depth = context.number('velocity');
  const mode = context.choice('mode');
  const linear = context.choice('curve') === 'linear';
  const fromZero = context.choice('retrigger') === 'from-zero';
  const gated = mode === 'adsr' || mode === 'cycle';
  const cycles = mode === 'cycle';
  const S = new Float64Array(5);
  const stillGate = new Steadiness(gate, !context.connected('gate'));
  const stillTrigger = new Steadiness(trigger, !context.connected('trigger'));
  /** Factor and goal of a stretch. */
  const F = new Float64Array(2);
  return {
    state: { S },
    gate,
    trigger,
    velocityIn,
    hasVelocity,
    out,
    times,
    T: times.T,
    sustainParam,
    depth,
    mode,
    linear,
    fromZero,
    gated,
    cycles,
    S,
    stillGate,
    stillTrigger,
    F,
  };
}
type Envelope = ReturnType<typeof makeEnvelope>;

function enter(S: Float64Array, stage: Stage): void {
  S[At.stage] = stage;
  S[At.count] = 0;
  S[At.start] = S[At.level]!;
}

function begin({ S, T, fromZero }: Envelope): void {
  if (fromZero) S[At.level] = 0;
  enter(S, T[Time.delay]! > 0 ? Stage.delay : Stage.attack);
}

/** Goes to a level in a straight line; true when it is there. */
function line(S: Float64Array, goal: number, length: number): boolean {
  const t = ++S[At.count]! / length;
  S[At.level] = t >= 1 ? goal : S[At.start]! + (goal - S[At.start]!) * t;
  return t >= 1;
}

/** One sample of any stage and curve. */
function step({ S, T, mode, linear, cycles }: Envelope, sustain: number): void {
  const aim = 1 + ATTACK_OVERSHOOT;
  let level = S[At.level]!;
  switch (S[At.stage] as Stage) {
    case Stage.delay:
      // While it waits an older sound goes on falling.
      level *= T[Time.off]!;
      S[At.level] = level;
      if (++S[At.count]! >= T[Time.delay]!) enter(S, Stage.attack);
      return;
    case Stage.attack:
      if (linear) {
        if (line(S, 1, T[Time.attack]!))
          enter(S, T[Time.hold]! > 0 && mode !== 'ad' ? Stage.hold : Stage.decay);
        return;
      }
      level = aim + (level - aim) * T[Time.rise]!;
      if (level >= 1 - 1e-9) {
        level = 1;
        S[At.level] = level;
        enter(S, T[Time.hold]! > 0 && mode !== 'ad' ? Stage.hold : Stage.decay);
      } else S[At.level] = level;
      return;
    case Stage.hold:
      if (++S[At.count]! >= T[Time.hold]!) enter(S, Stage.decay);
      return;
    case Stage.decay: {
      const goal = mode === 'adsr' ? sustain : cycles ? sustain : 0;
      if (linear) {
        // At its goal it follows the sustain's knob.
        if (line(S, goal, T[Time.decay]!) && cycles) enter(S, Stage.attack);
        return;
      }
      S[At.level] = goal + (level - goal) * T[Time.fall]!;
      if (cycles && ++S[At.count]! >= T[Time.decay]!) enter(S, Stage.attack);
      return;
    }
    case Stage.release:
      if (linear) {
        if (line(S, 0, T[Time.release]!)) enter(S, Stage.idle);
        return;
      }
      level *= T[Time.off]!;
      S[At.level] = level < 1e-12 ? 0 : level;
      return;
    case Stage.idle:
      return;
  }
}

/** What heads for its goal by a factor a sample: factor and goal of a stage, into F. */
function aim({ S, T, F, sustainParam }: Envelope): void {
  const stage = S[At.stage]!;
  const attacks = stage === Stage.attack;
  const decays = stage === Stage.decay;
  F[0] = attacks ? T[Time.rise]! : decays ? T[Time.fall]! : T[Time.off]!;
  F[1] = attacks ? 1 + ATTACK_OVERSHOOT : decays ? sustainParam.value / 100 : 0;
}

/** Most of the time nothing happens in a whole stretch but that the level goes on. */
function onlyGoesOn(e: Envelope, from: number, to: number): boolean {
  const { gate, trigger, S, stillGate, stillTrigger } = e;
  const stage = S[At.stage]!;
  const held = gate[from]! > 2.5;
  const open = S[At.open]! > 0;
  return (
    (stage === Stage.decay || stage === Stage.release) &&
    held === open &&
    stillGate.over(from, to) &&
    stillTrigger.over(from, to) &&
    !(trigger[from]! > 2.5)
  );
}

/** On with an exponential stage, as long as neither gate nor stage changes; gives the sample behind it. */
function glideTowards(e: Envelope, from: number, to: number, held: boolean): number {
  const { gate: g, trigger: t, out: y, S, T, F, stillGate, stillTrigger } = e;
  const stage = S[At.stage]!;
  const attacks = stage === Stage.attack;
  aim(e);
  const calm = stillGate.over(from, to) && stillTrigger.over(from, to) && !(t[from]! > 2.5 && held);
  if (calm && !attacks) {
    approach(y, from, to, S, F);
    if (S[At.level]! < 1e-12) S[At.level] = 0;
    return to;
  }
  const factor = F[0]!;
  const goal = F[1]!;
  let level = S[At.level]!;
  let i = from;
  while (i < to) {
    if (i > from && (held ? !(g[i]! > 2.5) || t[i]! > 2.5 : g[i]! > 2.5)) break;
    level = goal + (level - goal) * factor;
    if (level >= 1 - 1e-9 && attacks) {
      y[i++] = FULL;
      S[At.level] = 1;
      enter(S, T[Time.hold]! > 0 ? Stage.hold : Stage.decay);
      return i;
    }
    y[i++] = FULL * level;
  }
  S[At.level] = level < 1e-12 ? 0 : level;
  return i;
}

/** A stretch in which anything may happen. */
function run(e: Envelope, from: number, to: number): void {
  const { gate: g, trigger: t, out: y, sustainParam, mode, linear, gated, S } = e;
  const sustain = sustainParam.value / 100;
  const simple = !linear && mode === 'adsr';
  let i = from;
  while (i < to) {
    const held = g[i]! > 2.5;
    const open = S[At.open]! > 0;
    if (held && (!open || t[i]! > 2.5)) begin(e);
    else if (!held && open && gated) enter(S, Stage.release);
    S[At.open] = held ? 1 : 0;
    const stage = S[At.stage]!;
    if (stage === Stage.idle && e.stillGate.over(i, to) && e.stillTrigger.over(i, to)) {
      y.fill(FULL * S[At.level]!, i, to);
      return;
    }
    if (simple && stage >= Stage.attack && stage !== Stage.hold) {
      i = glideTowards(e, i, to, held);
    } else {
      step(e, sustain);
      y[i++] = FULL * S[At.level]!;
    }
  }
}

/** The softer a key was struck, the lower: by as much as `takes` of the level, 0..1. */
function byVelocity({ out: y, velocityIn, depth }: Envelope, from: number, to: number): void {
  const takes = depth.value / 100;
  for (let k = from; k < to; k++) {
    const v = velocityIn[k]! < 5 ? (velocityIn[k]! > 0 ? velocityIn[k]! : 0) : 5;
    y[k] = y[k]! * (1 - takes * (1 - v / 5));
  }
}

/**
 * Delay, attack, hold, decay, sustain, release. The attack heads for 1.3 of full level and ends at full, decay and release
 * head for their goal and are within 1 % of the way after their time; linear stages end after their time. A trigger
 * starts the attack again from where the level is, or from nothing.
 */
export const envelope = kernelOf(makeEnvelope, (parts, from, to) => {
  const { times, linear, mode, hasVelocity, depth, out, S, F } = parts;
  if (from === 0) times.update();
  if (!linear && mode === 'adsr' && onlyGoesOn(parts, from, to)) {
    aim(parts);
    approach(out, from, to, S, F);
    if (S[At.level]! < 1e-12) S[At.level] = 0;
  } else run(parts, from, to);
  if (hasVelocity && depth.value > 0) byVelocity(parts, from, to);
});

/** A quick drop of pitch at each stroke. */
export const bend = kernelOf(
  (context) => {
    const trigger = context.input('trigger');
    const out = context.output('out');
    const depth = context.number('depth');
    const fall = new Derived(context.number('time'), (s) => fallFactor(s, context.sampleRate));
    const S = new Float64Array(1);
    return { state: { S }, trigger, out, depth, fall, S };
  },
  ({ trigger, out, depth, fall, S }, from, to) => {
    const factor = fall.update();
    const volts = depth.value / 12;
    let level = S[0]!;
    for (let i = from; i < to; i++) {
      level = trigger[i]! > 2.5 ? 1 : level < 1e-9 ? 0 : level * factor;
      out[i] = volts * level;
    }
    S[0] = level;
  },
);
