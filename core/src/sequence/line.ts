import type { PhraseNote } from '../patch/schema';
import { midiToNote, noteToMidi } from '../theory/note';

/** One step of a bass line: a note struck, the last one held on, or silence. */
export type LineStep =
  | { kind: 'note'; note: number; accent: boolean; slide: boolean }
  | { kind: 'tie' }
  | { kind: 'rest' };

/** What of a typed line could not be understood, and where. */
export interface LineError {
  /** First letter of what is wrong, from 0. */
  at: number;
  message: string;
}

export type LineReading =
  { ok: true; steps: LineStep[] } | { ok: false; error: LineError; steps: LineStep[] };

/** Steps that a line may have. */
export const LINE_STEPS = 64;

/**
 * Reads a line as it is typed, one word a step: a note (`c2`, `d#2`, `bb1`), `-` or `_` to hold the last one on, `.` for a
 * rest; behind a note `'` for an accent and `~` for a slide into the next. A note without its octave stays in that of the
 * note before. Bars (`|`) may stand anywhere and mean nothing.
 */
export function parseLine(text: string): LineReading {
  const steps: LineStep[] = [];
  let octave: string | undefined;
  for (const match of text.matchAll(/\S+/g)) {
    const [word] = match;
    const wrong = (message: string): LineReading => ({
      ok: false,
      error: { at: match.index, message },
      steps,
    });
    if (/^\|+$/.test(word)) continue;
    if (steps.length === LINE_STEPS) return wrong(`A line has ${LINE_STEPS} steps at most.`);
    if (word === '.') {
      steps.push({ kind: 'rest' });
      continue;
    }
    if (word === '-' || word === '_') {
      const last = steps.at(-1);
      if (!last || last.kind === 'rest') return wrong('There is no note to hold on before it.');
      steps.push({ kind: 'tie' });
      continue;
    }
    const parts = /^([a-g])([#b]?)(-?\d)?(['~]*)$/i.exec(word);
    if (!parts) {
      return wrong(`"${word}" is none of: a note as c2 or d#2, - to hold on, . for a rest.`);
    }
    const [, letter = '', sign = '', given, marks = ''] = parts;
    octave = given ?? octave;
    if (octave === undefined) return wrong(`"${word}" needs an octave, as the first note: c2.`);
    const note = noteToMidi(`${letter}${sign}${octave}`);
    if (note === undefined || note < 0 || note > 127) {
      return wrong(`"${word}" is out of reach: notes go from C-1 to G9.`);
    }
    steps.push({ kind: 'note', note, accent: marks.includes("'"), slide: marks.includes('~') });
  }
  return { ok: true, steps };
}

/** A line as one types it. */
export const formatLine = (steps: readonly LineStep[]): string =>
  steps
    .map((s) => {
      if (s.kind !== 'note') return s.kind === 'tie' ? '-' : '.';
      return `${midiToNote(s.note).toLowerCase()}${s.accent ? "'" : ''}${s.slide ? '~' : ''}`;
    })
    .join(' ');

/** Velocities of plain and of accented notes. */
const PLAIN = 80;
const ACCENT = 122;
/** Share of a step that a note sounds; a slide runs on into the next. */
const GATE = 0.75;
const SLIDE = 1.15;

/**
 * A line as a phrase to be played. Accents are told by velocity, slides by running into the next note.
 * @param beats quarter notes of a step
 */
export function lineToPhrase(steps: readonly LineStep[], beats = 0.25): PhraseNote[] {
  return steps.flatMap((step, i) => {
    if (step.kind !== 'note') return [];
    let held = 1;
    while (steps[i + held]?.kind === 'tie') held++;
    const last = step.slide ? SLIDE : GATE;
    return [
      {
        beat: i * beats,
        length: Math.round((held - 1 + last) * beats * 1e4) / 1e4,
        note: step.note,
        velocity: step.accent ? ACCENT : PLAIN,
      },
    ];
  });
}

/** Velocity from which a note counts as accented. */
const LOUD = 110;

/**
 * A phrase as a line, when it is one: one note at a time, each on a step.
 * @returns undefined when two notes begin together, or one stands between the steps
 */
export function phraseToLine(phrase: readonly PhraseNote[], beats = 0.25): LineStep[] | undefined {
  const notes = [...phrase].sort((a, b) => a.beat - b.beat);
  const steps: LineStep[] = [];
  for (const [i, n] of notes.entries()) {
    const at = n.beat / beats;
    const step = Math.round(at);
    if (Math.abs(at - step) > 0.02 || step < steps.length || step >= LINE_STEPS) return undefined;
    while (steps.length < step) steps.push({ kind: 'rest' });
    const next = notes[i + 1];
    const room = next ? Math.round(next.beat / beats) - step : LINE_STEPS - step;
    const slide = next !== undefined && n.beat + n.length > next.beat + 1e-6;
    steps.push({ kind: 'note', note: n.note, accent: n.velocity >= LOUD, slide });
    const held = Math.min(room, Math.max(1, Math.round(n.length / beats + 0.2)));
    for (let k = 1; k < held; k++) steps.push({ kind: 'tie' });
  }
  return steps;
}
