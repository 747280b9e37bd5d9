import type { Instrument } from '../instrument/schema';
import type { Sequencer } from '../instrument/sequencer';
import { midiToNote } from '../theory/note';
import { capabilitiesOf, type Capabilities } from './capabilities';
import { conditionKind, conditionWords } from '../pattern/condition';
import { MOST_STEPS, MOST_TRACKS } from '../pattern/limits';
import { type Pattern, type PatternStep, type Track } from '../pattern/pattern';
import { type StepRate, stepRates } from '../pattern/rate';

/** Something that a sequencer cannot do. */
export interface Refusal {
  /** Where, in words: `kick, step 5`. */
  where: string;
  reason: string;
  /** The nearest that it can do, in words. */
  instead: string;
}

/** A pattern as near as a sequencer can hold it, and all that had to be given up. */
export interface Fitted {
  pattern: Pattern;
  refusals: Refusal[];
}

/** The sequencer that a pattern is for; undefined when it is played from outside. */
export const sequencerOf = (instrument: Instrument, pattern: Pattern): Sequencer | undefined =>
  instrument.sequencers.find((s) => s.id === pattern.sequencer);

/** Whether a step can give a control a value of its own. */
export const canHaveOwn = (instrument: Instrument, can: Capabilities, control: string): boolean =>
  instrument.controls.some((c) => c.id === control) &&
  (can.ownValues === 'all' || can.ownValues.includes(control));

/** Fits a pattern to the sequencer that it is for. A pattern without refusals comes back as it was. */
export function fitPattern(instrument: Instrument, pattern: Pattern): Fitted {
  const sequencer = sequencerOf(instrument, pattern);
  const can = capabilitiesOf(sequencer);
  const refusals: Refusal[] = [];
  const refuse = (where: string, reason: string, instead: string): void =>
    void refusals.push({ where, reason, instead });
  const name = sequencer?.name ?? 'a pattern';
  const most = sequencer ? tracksOf(sequencer) : MOST_TRACKS;
  if (pattern.tracks.length > most) {
    refuse('the pattern', `${cap(name)} has ${count(most, 'track')}.`, 'the first ones only');
  }
  const placed = fitSlot(sequencer, pattern, refuse);
  const fitted = pattern.tracks
    .slice(0, most)
    .map((track) => fitTrack(instrument, sequencer, can, track, refuse));
  const tracks = can.ownLengths ? fitted : alike(fitted, name, refuse);
  return { pattern: refusals.length === 0 ? pattern : { ...placed, tracks }, refusals };
}

const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const count = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;
const tracksOf = (s: Sequencer): number => Math.max(1, s.tracks.length);

/** Names of the numbered places of a sequencer: `A1` to `D16`. */
export const slotNames = ({ places }: Pick<Sequencer, 'places'>): string[] =>
  places
    ? Array.from({ length: places.banks * places.slots }, (_, i) => {
        const bank = String.fromCharCode(65 + Math.floor(i / places.slots));
        return `${bank}${(i % places.slots) + 1}`;
      })
    : [];

function fitSlot(sequencer: Sequencer | undefined, pattern: Pattern, refuse: Refuse): Pattern {
  const names = sequencer ? slotNames(sequencer) : [];
  const { place, ...rest } = pattern;
  if (place === undefined || names.length === 0 || names.includes(place)) return pattern;
  const upper = place.toUpperCase();
  const near = names.includes(upper) ? upper : undefined;
  refuse(
    'the pattern',
    `${cap(sequencer!.name)} has no place "${place}": its places are ${names[0]} to ${names.at(-1)}.`,
    near ?? 'without a place',
  );
  return near === undefined ? rest : { ...rest, place: near };
}

type Refuse = (where: string, reason: string, instead: string) => void;

function alike(tracks: Track[], name: string, refuse: Refuse): Track[] {
  const [first] = tracks;
  return tracks.map((t) => {
    if (!first || (t.length === first.length && t.rate === first.rate)) return t;
    refuse(t.name, `All tracks of ${name} have one length and rate.`, 'those of the first track');
    return { ...t, length: first.length, rate: first.rate };
  });
}

function fitTrack(
  instrument: Instrument,
  sequencer: Sequencer | undefined,
  can: Capabilities,
  track: Track,
  refuse: Refuse,
): Track {
  const most = Math.min(MOST_STEPS, sequencer?.steps ?? MOST_STEPS);
  const named = sequencer?.name ?? 'A pattern';
  let next = track;
  if (track.length > most || track.steps.length > most) {
    refuse(
      track.name,
      `${cap(named)} has ${count(most, 'step')}, not ${Math.max(track.length, track.steps.length)}.`,
      `the first ${most}; chain a second pattern for the rest`,
    );
    next = { ...next, length: Math.min(most, track.length), steps: track.steps.slice(0, most) };
  }
  if (!can.rates.includes(track.rate)) {
    const rate = nearestRate(track.rate, can.rates);
    refuse(track.name, `${cap(named)} has no steps of ${track.rate}.`, `steps of ${rate}`);
    next = { ...next, rate };
  }
  if (!can.directions.includes(track.direction)) {
    const direction =
      track.direction === 'pendulum' && can.directions.includes('there-and-back')
        ? 'there-and-back'
        : 'forward';
    refuse(track.name, `${cap(named)} does not run ${track.direction}.`, direction);
    next = { ...next, direction };
  }
  if (track.swing !== 50 && !can.swing) {
    refuse(track.name, `${cap(named)} has no swing.`, 'straight steps');
    next = { ...next, swing: 50 };
  }
  if (track.arpeggio) {
    const { mode, octaves } = track.arpeggio;
    if (!can.modes.includes(mode)) {
      refuse(track.name, `${cap(named)} does not run ${mode}.`, can.modes[0]!);
      next = { ...next, arpeggio: { ...next.arpeggio!, mode: can.modes[0]! } };
    }
    if (octaves > can.octaves) {
      refuse(
        track.name,
        `${cap(named)} goes over ${count(can.octaves, 'octave')}.`,
        `${can.octaves}`,
      );
      next = { ...next, arpeggio: { ...next.arpeggio!, octaves: can.octaves } };
    }
  }
  const keys = sequencer?.tracks.find((t) => t.id === track.on) ?? can.notes;
  const steps = next.steps.map((step, i) =>
    fitStep(instrument, can, keys, step, (reason, instead) =>
      refuse(`${track.name}, step ${i + 1}`, reason, instead),
    ),
  );
  return steps.some((s, i) => s !== next.steps[i]) ? { ...next, steps } : next;
}

const nearestRate = (wanted: StepRate, rates: readonly StepRate[]): StepRate =>
  [...rates].sort(
    (a, b) =>
      Math.abs(Math.log(stepRates[a] / stepRates[wanted])) -
      Math.abs(Math.log(stepRates[b] / stepRates[wanted])),
  )[0]!;

/** What a step may have that not every box knows, in words. */
const marks = [
  ['tie', 'ties'],
  ['slide', 'slides'],
  ['accent', 'accents'],
  ['velocity', 'velocities'],
  ['length', 'lengths of its own'],
  ['micro', 'micro-timing'],
] as const;

function fitStep(
  instrument: Instrument,
  can: Capabilities,
  keys: { from: number; to: number },
  step: PatternStep,
  refuse: (reason: string, instead: string) => void,
): PatternStep {
  let next = step;
  for (const [mark, words] of marks) {
    if (next[mark] === undefined || can[mark]) continue;
    refuse(`It knows no ${words}.`, 'without');
    next = without(next, mark);
  }
  if (next.notes && next.notes.length > can.together) {
    refuse(`It strikes ${count(can.together, 'note')} at a time.`, 'the lowest');
    next = { ...next, notes: [...next.notes].sort((a, b) => a - b).slice(0, can.together) };
  }
  if (next.notes?.some((n) => n < keys.from || n > keys.to)) {
    const out = next.notes.find((n) => n < keys.from || n > keys.to)!;
    const notes = next.notes.map((n) => within(n, keys.from, keys.to));
    refuse(
      `${midiToNote(out)} is out of its reach, ${midiToNote(keys.from)} to ${midiToNote(keys.to)}.`,
      notes.map(midiToNote).join(' '),
    );
    next = { ...next, notes: [...new Set(notes)] };
  }
  const { condition } = next;
  if (condition !== undefined && !can.conditions.includes(conditionKind(condition))) {
    refuse(`It knows no condition "${conditionWords(condition)}".`, 'always');
    next = without(next, 'condition');
  }
  const wrong = Object.keys(next.ownValues ?? {}).filter((c) => !canHaveOwn(instrument, can, c));
  for (const control of wrong) {
    const found = instrument.controls.find((c) => c.id === control);
    refuse(
      found
        ? `A step cannot move ${found.name} here.`
        : `There is no control "${control}" on this panel.`,
      'without the own value',
    );
  }
  if (wrong.length === 0) return next;
  const kept = Object.entries(next.ownValues!).filter(([control]) => !wrong.includes(control));
  return kept.length === 0
    ? without(next, 'ownValues')
    : { ...next, ownValues: Object.fromEntries(kept) };
}

const without = (step: PatternStep, mark: keyof PatternStep): PatternStep => {
  const { [mark]: _, ...others } = step;
  return others;
};

/** The same note in an octave that is in reach; the nearest end when there is none. */
function within(note: number, from: number, to: number): number {
  let n = note;
  while (n < from) n += 12;
  while (n > to) n -= 12;
  return n < from ? from : n;
}
