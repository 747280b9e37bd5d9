import { midiToNote, noteToMidi } from '../theory/note';
import { conditionSchema } from '../pattern/pattern';
import { MOST_STEPS } from '../pattern/limits';
import type { PatternStep } from '../pattern/pattern';
import { withoutTail } from '../pattern/steps';

/** What of typed steps could not be understood, and where. */
export interface StepsError {
  /** First letter of what is wrong, from 0. */
  at: number;
  message: string;
}

export type StepsReading =
  /** `length` counts the rests at the end, which the steps leave out. */
  | { ok: true; steps: PatternStep[]; length: number }
  /** `steps` holds what was understood before the error. */
  | { ok: false; error: StepsError; steps: PatternStep[] };

/**
 * Reads the steps of a track as they are typed, one word a step: `.` a rest, `-` the note before held on, a note as `c2`
 * or `d#2`, several struck together as `c3+e3+g3`, `x` for the track's own key. Behind any of them: `'` accent, `~` slide,
 * `:90` velocity, `*2.5` length in steps, `>0.2` late and `<0.2` early by a share of a step, `?fill`, `?30%`, `?2/4` a
 * condition. A note without an octave stays in that of the note before; bars (`|`) mean nothing.
 * @param own note that `x` stands for
 * @param before the step before them, which a tie at the beginning holds on
 */
export function parseSteps(text: string, own = 60, before?: PatternStep): StepsReading {
  const steps: PatternStep[] = [];
  let octave: string | undefined;
  for (const match of text.matchAll(/\S+/g)) {
    const [word] = match;
    const wrong = (message: string): StepsReading => ({
      ok: false,
      error: { at: match.index, message },
      steps,
    });
    if (/^\|+$/.test(word)) continue;
    if (steps.length === MOST_STEPS) return wrong(`A track has ${MOST_STEPS} steps at most.`);
    if (/^[.\-_]/.test(word)) {
      const read = readMarks(word.slice(1));
      if (typeof read === 'string') return wrong(`"${word}": ${read}`);
      const last = steps.at(-1) ?? before;
      if (word.startsWith('.')) steps.push(read);
      else if (last?.notes || last?.tie) steps.push({ tie: true, ...read });
      else return wrong('There is no note to hold on before it.');
      continue;
    }
    const parts = /^([^'~:*<>?]+)(.*)$/.exec(word);
    const [, head = '', marks = ''] = parts ?? [];
    const notes: number[] = [];
    for (const name of head.split('+')) {
      if (name.toLowerCase() === 'x') {
        notes.push(own);
        continue;
      }
      const pitch = /^([a-g][#b]?)(-?\d)?$/i.exec(name);
      if (!pitch) {
        return wrong(`"${word}" is none of: a note as c2 or d#2, x, - to hold on, . for a rest.`);
      }
      octave = pitch[2] ?? octave;
      if (octave === undefined) return wrong(`"${word}" needs an octave, as the first note: c2.`);
      const note = noteToMidi(`${pitch[1]}${octave}`);
      if (note === undefined || note < 0 || note > 127) {
        return wrong(`"${word}" is out of reach: notes go from C-1 to G9.`);
      }
      notes.push(note);
    }
    if (notes.length > 8) return wrong(`"${word}" strikes more than 8 notes.`);
    const read = readMarks(marks);
    if (typeof read === 'string') return wrong(`"${word}": ${read}`);
    steps.push({ notes, ...read });
  }
  return { ok: true, steps: withoutTail(steps), length: steps.length };
}

/** Marks behind a note; a sentence when they are wrong. */
function readMarks(text: string): PatternStep | string {
  let step: PatternStep = {};
  let left = text;
  while (left !== '') {
    const mark = /^('|~|:\d+|\*\d*\.?\d+|[<>]\d*\.?\d+|\?[a-z0-9/%-]+)/.exec(left)?.[0];
    if (mark === undefined) {
      return `"${left}" is none of ' ~ :90 *2 >0.2 <0.2 ?fill.`;
    }
    left = left.slice(mark.length);
    const number = Number(mark.slice(1));
    switch (mark[0]) {
      case "'":
        step = { ...step, accent: true };
        break;
      case '~':
        step = { ...step, slide: true };
        break;
      case ':':
        if (number < 1 || number > 127) return 'velocities go from 1 to 127.';
        step = { ...step, velocity: number };
        break;
      case '*':
        if (number < 0.05 || number > 64) return 'lengths go from 0.05 to 64 steps.';
        step = { ...step, length: number };
        break;
      case '?': {
        const condition = conditionSchema.safeParse(mark.slice(1));
        if (!condition.success) return `${condition.error.issues[0]!.message}.`;
        step = { ...step, condition: condition.data };
        break;
      }
      default:
        if (number > 0.5) return 'a step comes half a step late or early at most.';
        if (number > 0) step = { ...step, micro: mark[0] === '<' ? -number : number };
    }
  }
  return step;
}

/** Steps as one types them. Own values are not written: they have lines of their own. */
export const formatSteps = (steps: readonly PatternStep[]): string =>
  steps.map(formatStep).join(' ');

function formatStep(step: PatternStep): string {
  return [
    step.notes?.map((n) => midiToNote(n).toLowerCase()).join('+') ?? (step.tie ? '-' : '.'),
    step.accent ? "'" : '',
    step.slide ? '~' : '',
    step.velocity === undefined ? '' : `:${step.velocity}`,
    step.length === undefined ? '' : `*${plainNumber(step.length)}`,
    step.micro ? `${step.micro < 0 ? '<' : '>'}${plainNumber(Math.abs(step.micro))}` : '',
    step.condition === undefined ? '' : `?${step.condition}`,
  ].join('');
}

/** A number in digits, without an exponent. */
export const plainNumber = (value: number): string =>
  /e/.test(String(value)) ? value.toFixed(20) : String(value);
