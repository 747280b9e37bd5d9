import type { PhraseNote } from '../pattern/phrase';
import type { PatternStep } from '../pattern/pattern';
import { withoutTail } from '../pattern/steps';
import { type StepRate, stepRates } from '../pattern/rate';
import { ACCENT, PLAIN } from './run';

/** A note that did not stand on a step. */
export interface Moved {
  beat: number;
  note: number;
  /** Quarter notes that it was moved by: above 0 later. */
  by: number;
}

export interface Quantised {
  steps: PatternStep[];
  moved: Moved[];
  /** Notes that there was no place for: behind the last step, or more than eight at once. */
  dropped: { beat: number; note: number; why: string }[];
}

/** Notes that one step can strike. */
const MOST_TOGETHER = 8;
/** Quarter notes that a note may be off before it counts as moved. */
const EXACT = 1e-3;

/**
 * Notes put on steps.
 * @param most steps that there are
 * @param micro keep what they are off as micro-timing instead of moving them
 */
export function quantise(
  notes: readonly PhraseNote[],
  rate: StepRate,
  most: number,
  micro = false,
): Quantised {
  const length = stepRates[rate];
  const result: Quantised = { steps: [], moved: [], dropped: [] };
  const steps: PatternStep[] = Array.from({ length: most }, () => ({}));
  const sorted = [...notes].sort((a, b) => a.beat - b.beat || a.note - b.note);
  for (const n of sorted) {
    const at = Math.round(n.beat / length);
    if (at >= most) {
      const why = `behind the last of ${most} steps`;
      result.dropped.push({ beat: n.beat, note: n.note, why });
      continue;
    }
    const off = n.beat / length - at;
    const before = steps[at]!;
    if (before.notes && before.notes.length >= MOST_TOGETHER) {
      const why = `more than ${MOST_TOGETHER} notes on one step`;
      result.dropped.push({ beat: n.beat, note: n.note, why });
      continue;
    }
    if (!micro && Math.abs(off * length) > EXACT) {
      result.moved.push({ beat: n.beat, note: n.note, by: -off * length });
    }
    if (before.notes) {
      if (!before.notes.includes(n.note))
        steps[at] = { ...before, notes: [...before.notes, n.note] };
      continue;
    }
    const steady = Math.round(100 * (n.length / length)) / 100;
    steps[at] = {
      notes: [n.note],
      ...spoken(n.velocity),
      ...(Math.abs(steady - 0.75) < 0.02 ? {} : { length: Math.min(64, Math.max(0.05, steady)) }),
      ...(micro && Math.abs(off) > EXACT
        ? { micro: Math.max(-0.5, Math.min(0.5, Math.round(1000 * off) / 1000)) }
        : {}),
    };
  }
  result.steps = withoutTail(steps);
  return result;
}

/** A velocity as a step tells it. */
function spoken(velocity: number): Pick<PatternStep, 'velocity' | 'accent'> {
  if (velocity === PLAIN) return {};
  return velocity === PLAIN + ACCENT ? { accent: true } : { velocity };
}
