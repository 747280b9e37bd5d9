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

/**
 * Delay, attack, hold, decay, sustain, release. The attack heads for 1.3 of full level and ends at full, decay and release
 * head for their goal and are within 1 % of the way after their time; linear stages end after their time. A trigger
 * starts the attack again from where the level is, or from nothing.
 */
export const envelope = kernelOf(makeEnvelope, (parts, from, to) => {
  const {
    gate,
    trigger,
    velocityIn,
    hasVelocity,
    out,
    times,
    T,
    sustainParam,
    depth,
    mode,
    linear,
    gated,
    S,
    stillGate,
    stillTrigger,
    F,
  } = parts;
  if (from === 0) times.update();
  const sustain = sustainParam.value / 100;
  const above = 1 + ATTACK_OVERSHOOT;
  const takes = hasVelocity ? depth.value / 100 : 0;
  const simple = !linear && mode === 'adsr';
  const up = T[Time.rise]!;
  const down = T[Time.fall]!;
  const end = T[Time.off]!;
  const g = gate;
  const t = trigger;
  const y = out;
  let i = from;
  const stood = S[At.stage]!;
  const held = g[from]! > 2.5;
  if (
    simple &&
    takes === 0 &&
    (stood === Stage.decay || stood === Stage.release) &&
    held === S[At.open]! > 0 &&
    stillGate.over(from, to) &&
    stillTrigger.over(from, to) &&
    !(t[from]! > 2.5)
  ) {
    // Most of the time nothing happens but that the level goes on.
    const decays = stood === Stage.decay;
    F[0] = decays ? down : end;
    F[1] = decays ? sustain : 0;
    approach(y, from, to, S, F);
    if (S[At.level]! < 1e-12) S[At.level] = 0;
    return;
  }
  while (i < to) {
    const held = g[i]! > 2.5;
    const open = S[At.open]! > 0;
    if (held && (!open || t[i]! > 2.5)) begin(parts);
    else if (!held && open && gated) enter(S, Stage.release);
    S[At.open] = held ? 1 : 0;
    const stage = S[At.stage]!;
    if (stage === Stage.idle && stillGate.over(i, to) && stillTrigger.over(i, to)) {
      y.fill(FULL * S[At.level]!, i, to);
      break;
    }
    if (simple && stage >= Stage.attack && stage !== Stage.hold) {
      // On as long as neither gate nor stage changes.
      let level = S[At.level]!;
      const first = i;
      const goal = stage === Stage.attack ? above : stage === Stage.decay ? sustain : 0;
      const factor = stage === Stage.attack ? up : stage === Stage.decay ? down : end;
      const calm = stillGate.over(i, to) && stillTrigger.over(i, to) && !(t[i]! > 2.5 && held);
      if (calm && stage !== Stage.attack) {
        F[0] = factor;
        F[1] = goal;
        approach(y, i, to, S, F);
        level = S[At.level]!;
        i = to;
      }
      while (i < to) {
        if (i > first && (held ? !(g[i]! > 2.5) || t[i]! > 2.5 : g[i]! > 2.5)) break;
        level = goal + (level - goal) * factor;
        if (level >= 1 - 1e-9 && stage === Stage.attack) {
          level = 1;
          y[i++] = FULL;
          S[At.level] = 1;
          enter(S, T[Time.hold]! > 0 ? Stage.hold : Stage.decay);
          break;
        }
        y[i++] = FULL * level;
      }
      S[At.level] = level < 1e-12 ? 0 : level;
    } else {
      step(parts, sustain);
      y[i++] = FULL * S[At.level]!;
    }
  }
  if (takes > 0) {
    for (let k = from; k < to; k++) {
      const v = velocityIn[k]! < 5 ? (velocityIn[k]! > 0 ? velocityIn[k]! : 0) : 5;
      y[k] = y[k]! * (1 - takes * (1 - v / 5));
    }
  }
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
