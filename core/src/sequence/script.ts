import type { Instrument } from '../instrument/schema';
import type { Sequencer } from '../instrument/sequencer';
import type { Patch } from '../patch/schema';
import { soundingValue } from '../reading/format';
import { sameReading } from '../reading/resolution';
import { arpeggioGroups } from './arpeggio-script';
import { fitPattern, sequencerOf } from './fit';
import { trackToMelody } from './melody';
import type { Pattern } from '../pattern/pattern';
import { rowMoves } from './rows';
import { trackGroups } from './track-script';
import { entryPasses, type FirstPass } from './two-pass';

/** A stretch of an entry: where, what one reads while pressing, how many presses. */
export interface EntryGroup {
  title: string;
  told: string[];
  presses: number;
  /** Estimate. */
  seconds: number;
}

/** How a pattern is entered into the box it is for. */
export interface EntryScript {
  /** Where it goes: `A3`; absent when nobody said. */
  place?: string;
  groups: EntryGroup[];
  presses: number;
  /** Estimate in seconds. */
  seconds: number;
  /** Over what is there, or into an empty place; and why. */
  way: 'anew' | 'over';
  why: string;
}

export type Entry =
  | { ok: true; script: EntryScript }
  /** The box cannot hold it, or there is no box. */
  | { ok: false; reasons: string[] };

/** Seconds that one thing read and entered takes, and a press on the way there. */
export const STEP_SECONDS = 1.5;
export const PRESS_SECONDS = 0.3;

/**
 * The presses that enter a pattern into the instrument's own sequencer.
 * @param before the pattern that is in the place now; absent for an empty one
 * @param panel what the panel shows, for rows whose steps are knobs
 * @param chained the pattern that follows it
 * @param first pass that a hand begins with, where the box takes either
 */
export function enterPattern(
  instrument: Instrument,
  pattern: Pattern,
  before?: Pattern,
  panel?: Pick<Patch, 'settings'>,
  chained?: Pattern,
  first?: FirstPass,
): Entry {
  const sequencer = sequencerOf(instrument, pattern);
  if (!sequencer) {
    return { ok: false, reasons: ['It is played from outside: there is no box to enter it into.'] };
  }
  const { refusals } = fitPattern(instrument, pattern);
  if (refusals.length > 0) {
    return { ok: false, reasons: refusals.map((r) => `${r.where}: ${r.reason}`) };
  }
  const fill = (from: Pattern | undefined): EntryGroup[] =>
    groupsOf(instrument, sequencer, pattern, from, panel, first);
  const anew = placed(sequencer, pattern, fill(undefined), before !== undefined, chained);
  const over = before && placed(sequencer, pattern, fill(before), false, chained);
  const shorter = over !== undefined && sum(over, 'seconds') <= sum(anew, 'seconds');
  const groups = shorter ? over : anew;
  return {
    ok: true,
    script: {
      ...(pattern.place === undefined ? {} : { place: pattern.place }),
      groups,
      presses: sum(groups, 'presses'),
      seconds: Math.round(10 * sum(groups, 'seconds')) / 10,
      way: shorter ? 'over' : 'anew',
      why: whyThisWay(before, shorter),
    },
  };
}

function whyThisWay(before: Pattern | undefined, shorter: boolean): string {
  if (!before) return 'Into an empty place.';
  return shorter
    ? `Over ${before.name}: only what differs.`
    : `Entering it anew is shorter than changing ${before.name}.`;
}

const sum = (groups: readonly EntryGroup[], what: 'presses' | 'seconds'): number =>
  groups.reduce((total, group) => total + group[what], 0);

/** What is pressed to go to a place, to clear it, to keep what was entered, and to chain it to another. */
const GO = 2;
const CLEAR = 2;
const STORE = 2;
const CHAIN = 3;

/**
 * An entry in a box that keeps patterns in places: one goes there, clears what is there when all is entered anew, stores what
 * was entered, and chains it to what follows. Where nothing is entered, nothing is pressed.
 */
function placed(
  { places }: Sequencer,
  pattern: Pattern,
  groups: EntryGroup[],
  clears: boolean,
  chained: Pattern | undefined,
): EntryGroup[] {
  if (!places || groups.length === 0) return groups;
  const place = pattern.place ?? 'a free place';
  const follows = chained && chained.id !== pattern.id ? (chained.place ?? chained.name) : '';
  return [
    timed('go there', [`to ${place}`], GO),
    ...(clears ? [timed('clear it', [`clear ${place}`], CLEAR)] : []),
    ...groups,
    timed('store it', [`store into ${place}`], STORE),
    ...(follows === '' ? [] : [timed('chain it', [`${place}, then ${follows}`], CHAIN)]),
  ];
}

const timed = (title: string, told: string[], presses: number): EntryGroup => ({
  title,
  told,
  presses,
  seconds: told.length * STEP_SECONDS + Math.max(0, presses - told.length) * PRESS_SECONDS,
});

function groupsOf(
  instrument: Instrument,
  sequencer: Sequencer,
  pattern: Pattern,
  before: Pattern | undefined,
  panel: Pick<Patch, 'settings'> | undefined,
  first: FirstPass | undefined,
): EntryGroup[] {
  const [track] = pattern.tracks;
  if (!track) return [];
  switch (sequencer.kind) {
    case 'two-pass':
      return entryPasses(
        trackToMelody(track),
        before?.tracks[0] && trackToMelody(before.tracks[0]),
        firstPass(sequencer, first),
      ).map((pass) => timed(pass.name, pass.told, pass.presses.length));
    case 'rows':
      return rowGroups(instrument, sequencer, pattern, before, panel);
    case 'arpeggio':
      return arpeggioGroups(track).map((p) => timed(p.title, p.told, p.presses.length));
    case 'multi-track':
      return trackGroups(instrument, sequencer, pattern, before).map((group) =>
        timed(group.title, group.told, group.presses.length),
      );
  }
}

/** The pass that a box wants first; where it takes either, the one that is wished. */
const firstPass = ({ passes }: Sequencer, wished: FirstPass = 'pitches'): FirstPass =>
  passes === 'time-first' ? 'time' : passes === 'either' ? wished : 'pitches';

/** Knobs and switches: those that stand right already are left alone. */
function rowGroups(
  instrument: Instrument,
  sequencer: Sequencer,
  pattern: Pattern,
  before: Pattern | undefined,
  panel: Pick<Patch, 'settings'> | undefined,
): EntryGroup[] {
  const stood = new Map(
    before ? rowMoves(instrument, sequencer, before).map((m) => [m.control, m.value]) : [],
  );
  const moves = rowMoves(instrument, sequencer, pattern).filter((move) => {
    const control = instrument.controls.find((c) => c.id === move.control)!;
    const setting = panel?.settings[move.control];
    const known = setting && setting.kind !== 'any' ? soundingValue(control, setting) : undefined;
    const now = known ?? stood.get(move.control);
    return now === undefined || !sameReading(control, now, move.value);
  });
  const rowOf = (control: string): string =>
    sequencer.rows.find((r) => r.controls.includes(control))?.name ?? 'How they run';
  const titles = [...new Set(moves.map((m) => rowOf(m.control)))];
  return titles.map((title) => {
    const own = moves.filter((m) => rowOf(m.control) === title);
    const told = own.map((m) => {
      const { name } = instrument.controls.find((c) => c.id === m.control)!;
      return `${name}: ${m.reading}`;
    });
    // A knob set to a reading takes twice as long as a step key.
    return { title, told, presses: own.length, seconds: own.length * 2 * STEP_SECONDS };
  });
}
