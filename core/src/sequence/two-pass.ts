import { midiToNote } from '../theory/note';
import type { MelodyStep } from './melody';

/** A button of a box that takes lines in two passes. */
export type Press =
  | { button: 'pitch' | 'time' | 'marks' | 'next' | 'accent' | 'slide' | 'up' | 'down' | 'end' }
  | { button: 'key'; key: number }
  | { button: 'step'; kind: MelodyStep['kind'] };

/** MIDI number of the lowest of the box's twelve keys, with no octave shift. */
export const BASE_KEY = 36;
/** Octaves that its shift goes up and down. */
export const MOST_SHIFT = 2;

/**
 * A box that is entered in two passes, as it understands presses: the pitches of the sounding notes, the time
 * step by step, then accents and slides place by place. In each pass NEXT leaves what is there and goes on; ACCENT and
 * SLIDE change over; END makes the line end before the step it stands at.
 */
export class TwoPassBox {
  private mode: 'pitch' | 'time' | 'marks' = 'pitch';
  private shift = 0;
  private cursor = 0;
  private readonly pitches: number[] = [];
  private readonly kinds: MelodyStep['kind'][] = [];
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
        if (this.mode === 'pitch') {
          this.pitches[this.cursor++] = BASE_KEY + 12 * this.shift + press.key;
        }
        return;
      case 'step':
        if (this.mode === 'time') this.kinds[this.cursor++] = press.kind;
        return;
      case 'next':
        this.cursor++;
        return;
      case 'end':
        if (this.mode === 'time') this.kinds.length = Math.min(this.kinds.length, this.cursor);
        return;
      default:
        if (this.mode === 'marks') {
          toggle(press.button === 'accent' ? this.accents : this.slides, this.cursor);
        }
    }
  }

  /** The line that is in it; a step without a pitch left for it is silent. */
  line(): MelodyStep[] {
    let next = 0;
    return this.kinds.map((kind, i): MelodyStep => {
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

function toggle(set: Set<number>, at: number): void {
  if (!set.delete(at)) set.add(at);
}

/** One pass of an entry: what it is, and its presses in order. */
export interface EntryPass {
  name: 'pitches' | 'time' | 'accents and slides';
  /** What one reads while pressing: `C2`, `D#2`; `note`, `tie`, `rest`; `3 accent`. */
  told: string[];
  presses: Press[];
}

export type FirstPass = 'pitches' | 'time';

const EMPTY: readonly MelodyStep[] = [];

/**
 * The presses that enter a line: the pitches of the sounding notes only and the time, whichever is wanted first, then
 * accents and slides. Over a line that is there already, what stays is passed over. The box makes the same line of them in
 * either order.
 */
export function entryPasses(
  steps: readonly MelodyStep[],
  before: readonly MelodyStep[] = EMPTY,
  first: FirstPass = 'pitches',
): EntryPass[] {
  const two = [pitchPass(steps, before), timePass(steps, before)];
  if (first === 'time') two.reverse();
  return [...two, markPass(steps, before)].filter((p) => p.told.length > 0);
}

const pitchesOf = (steps: readonly MelodyStep[]): number[] =>
  steps.flatMap((s) => (s.kind === 'note' ? [s.note] : []));

function pitchPass(steps: readonly MelodyStep[], before: readonly MelodyStep[]): EntryPass {
  const presses: Press[] = [{ button: 'pitch' }];
  const told: string[] = [];
  const [pitches, old] = [pitchesOf(steps), pitchesOf(before)];
  const last = pitches.findLastIndex((p, i) => p !== old[i]);
  let shift = 0;
  for (const [i, pitch] of pitches.slice(0, last + 1).entries()) {
    if (pitch === old[i]) {
      presses.push({ button: 'next' });
      continue;
    }
    const wanted = Math.floor((pitch - BASE_KEY) / 12);
    for (; shift < wanted; shift++) presses.push({ button: 'up' });
    for (; shift > wanted; shift--) presses.push({ button: 'down' });
    presses.push({ button: 'key', key: pitch - BASE_KEY - 12 * wanted });
    told.push(old.length === 0 ? midiToNote(pitch) : `${i + 1} ${midiToNote(pitch)}`);
  }
  return { name: 'pitches', told, presses };
}

function timePass(steps: readonly MelodyStep[], before: readonly MelodyStep[]): EntryPass {
  const presses: Press[] = [{ button: 'time' }];
  const told: string[] = [];
  const last = steps.findLastIndex((s, i) => s.kind !== before[i]?.kind);
  let cursor = 0;
  for (; cursor <= last; cursor++) {
    const { kind } = steps[cursor]!;
    if (kind === before[cursor]?.kind) {
      presses.push({ button: 'next' });
      continue;
    }
    presses.push({ button: 'step', kind });
    told.push(before.length === 0 ? kind : `${cursor + 1} ${kind}`);
  }
  if (steps.length < before.length) {
    for (; cursor < steps.length; cursor++) presses.push({ button: 'next' });
    presses.push({ button: 'end' });
    told.push(`end after ${steps.length}`);
  }
  return { name: 'time', told, presses };
}

const markedAt = (steps: readonly MelodyStep[], i: number, mark: 'accent' | 'slide'): boolean => {
  const step = steps[i];
  return step?.kind === 'note' && step[mark];
};

function markPass(steps: readonly MelodyStep[], before: readonly MelodyStep[]): EntryPass {
  const presses: Press[] = [{ button: 'marks' }];
  const told: string[] = [];
  let cursor = 0;
  const most = Math.max(steps.length, before.length);
  for (let i = 0; i < most; i++) {
    const changed = (['accent', 'slide'] as const).filter(
      (mark) => markedAt(steps, i, mark) !== markedAt(before, i, mark),
    );
    if (changed.length === 0) continue;
    for (; cursor < i; cursor++) presses.push({ button: 'next' });
    for (const mark of changed) presses.push({ button: mark });
    const words = changed.map((mark) => (markedAt(steps, i, mark) ? mark : `no ${mark}`));
    told.push(`${i + 1} ${words.join(' and ')}`);
  }
  return { name: 'accents and slides', told, presses };
}
