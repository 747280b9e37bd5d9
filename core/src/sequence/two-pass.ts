import { midiToNote } from '../theory/note';
import type { LineStep } from './line';

/** A button of a box that takes lines in two passes. */
export type Press =
  | { button: 'pitch' | 'time' | 'marks' | 'next' | 'accent' | 'slide' | 'up' | 'down' }
  | { button: 'key'; key: number }
  | { button: 'step'; kind: LineStep['kind'] };

/** MIDI number of the lowest of the box's twelve keys, with no octave shift. */
export const BASE_KEY = 36;
/** Octaves that its shift goes up and down. */
export const MOST_SHIFT = 2;

/**
 * A box that is entered in two passes, as it understands presses: first the pitches of the sounding notes, then the time
 * step by step, then accents and slides place by place.
 */
export class TwoPassBox {
  private mode: 'pitch' | 'time' | 'marks' = 'pitch';
  private shift = 0;
  private cursor = 0;
  private readonly pitches: number[] = [];
  private readonly kinds: LineStep['kind'][] = [];
  private readonly accents = new Set<number>();
  private readonly slides = new Set<number>();

  press(press: Press): void {
    switch (press.button) {
      case 'pitch':
      case 'time':
      case 'marks':
        this.mode = press.button;
        this.shift = 0;
        this.cursor = 0;
        return;
      case 'up':
        this.shift = Math.min(MOST_SHIFT, this.shift + 1);
        return;
      case 'down':
        this.shift = Math.max(-MOST_SHIFT, this.shift - 1);
        return;
      case 'key':
        if (this.mode === 'pitch') this.pitches.push(BASE_KEY + 12 * this.shift + press.key);
        return;
      case 'step':
        if (this.mode === 'time') this.kinds.push(press.kind);
        return;
      case 'next':
        this.cursor++;
        return;
      default:
        if (this.mode === 'marks') {
          (press.button === 'accent' ? this.accents : this.slides).add(this.cursor);
        }
    }
  }

  /** The line that is in it; a step without a pitch left for it is silent. */
  line(): LineStep[] {
    let next = 0;
    return this.kinds.map((kind, i): LineStep => {
      const note = kind === 'note' ? this.pitches[next++] : undefined;
      if (kind === 'note') {
        return note === undefined
          ? { kind: 'rest' }
          : { kind, note, accent: this.accents.has(i), slide: this.slides.has(i) };
      }
      return { kind };
    });
  }
}

/** One pass of an entry: what it is, and its presses in order. */
export interface Pass {
  name: 'pitches' | 'time' | 'accents and slides';
  /** What one reads while pressing: `C2`, `D#2`; `note`, `tie`, `rest`; `3 accent`. */
  told: string[];
  presses: Press[];
}

export interface EntryScript {
  passes: Pass[];
  /** Presses in all. */
  presses: number;
  /** Estimate in seconds: a step of the sequencer takes 1.5 s, a press on the way 0.3 s. */
  seconds: number;
}

const STEP_SECONDS = 1.5;
const PRESS_SECONDS = 0.3;

/** Why a line cannot be entered, in words; undefined when it can. */
export function cannotEnter(steps: readonly LineStep[], most: number): string | undefined {
  if (steps.length > most)
    return `The line has ${steps.length} steps, the box has ${most}: chain two patterns.`;
  const [low, high] = [BASE_KEY - 12 * MOST_SHIFT, BASE_KEY + 12 * (MOST_SHIFT + 1) - 1];
  const out = steps.find((s) => s.kind === 'note' && (s.note < low || s.note > high));
  return out?.kind === 'note'
    ? `${midiToNote(out.note)} is out of its reach, ${midiToNote(low)} to ${midiToNote(high)}: transpose the line, or tune the box.`
    : undefined;
}

/** The presses that enter a line: the pitches of the sounding notes only, then the time, then accents and slides. */
export function entryScript(steps: readonly LineStep[]): EntryScript {
  const passes = [pitchPass(steps), timePass(steps), markPass(steps)].filter(
    (p) => p.presses.length > 1,
  );
  const presses = passes.reduce((sum, p) => sum + p.presses.length, 0);
  const worked = passes.reduce((sum, p) => sum + p.told.length, 0);
  const seconds = worked * STEP_SECONDS + (presses - worked) * PRESS_SECONDS;
  return { passes, presses, seconds: Math.round(seconds * 10) / 10 };
}

function pitchPass(steps: readonly LineStep[]): Pass {
  const presses: Press[] = [{ button: 'pitch' }];
  const told: string[] = [];
  let shift = 0;
  for (const step of steps) {
    if (step.kind !== 'note') continue;
    const wanted = Math.floor((step.note - BASE_KEY) / 12);
    for (; shift < wanted; shift++) presses.push({ button: 'up' });
    for (; shift > wanted; shift--) presses.push({ button: 'down' });
    presses.push({ button: 'key', key: step.note - BASE_KEY - 12 * wanted });
    told.push(midiToNote(step.note));
  }
  return { name: 'pitches', told, presses };
}

const timePass = (steps: readonly LineStep[]): Pass => ({
  name: 'time',
  told: steps.map((s) => s.kind),
  presses: [{ button: 'time' }, ...steps.map((s): Press => ({ button: 'step', kind: s.kind }))],
});

function markPass(steps: readonly LineStep[]): Pass {
  const presses: Press[] = [{ button: 'marks' }];
  const told: string[] = [];
  let cursor = 0;
  steps.forEach((step, i) => {
    if (step.kind !== 'note' || (!step.accent && !step.slide)) return;
    for (; cursor < i; cursor++) presses.push({ button: 'next' });
    if (step.accent) presses.push({ button: 'accent' });
    if (step.slide) presses.push({ button: 'slide' });
    const marks = [step.accent && 'accent', step.slide && 'slide'].filter(Boolean);
    told.push(`${i + 1} ${marks.join(' and ')}`);
  });
  return { name: 'accents and slides', told, presses };
}
