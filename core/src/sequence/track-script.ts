import type { Instrument } from '../instrument/schema';
import type { Sequencer } from '../instrument/sequencer';
import { formatValue } from '../reading/format';
import { midiToNote } from '../theory/note';
import equal from 'fast-deep-equal';
import { conditionWords } from '../pattern/condition';
import { blankTrack } from '../pattern/blank';
import type { Pattern, PatternStep, Track } from '../pattern/pattern';
import { REST, stepOf } from '../pattern/steps';
import { lowestKey, pageOf, type TrackPress } from './track-box';

/** What is done on one page of one track, and what one reads meanwhile. */
export interface TrackGroup {
  title: string;
  told: string[];
  presses: TrackPress[];
}

/**
 * The presses that enter the tracks of a pattern, track by track and page by page, with own values and conditions. Over a
 * pattern that is there already only what differs.
 */
export function trackGroups(
  instrument: Instrument,
  sequencer: Sequencer,
  pattern: Pattern,
  before?: Pattern,
): TrackGroup[] {
  return pattern.tracks.flatMap((track, i) => {
    const blank = blankTrack(track.id, track.name);
    return onTrack(instrument, sequencer, i, track, before?.tracks[i] ?? blank);
  });
}

function onTrack(
  instrument: Instrument,
  sequencer: Sequencer,
  number: number,
  track: Track,
  old: Track,
): TrackGroup[] {
  const page = pageOf(sequencer);
  const groups: TrackGroup[] = [];
  const select: TrackPress = { button: 'track', track: number };
  const general = trackSettings(track, old);
  if (general.presses.length > 0) {
    const presses = [select, ...general.presses];
    groups.push({ title: `${track.name}, the track`, told: general.told, presses });
  }
  const pages = Math.ceil(Math.max(track.steps.length, old.steps.length) / page);
  for (let p = 0; p < pages; p++) {
    const told: string[] = [];
    const struck: number[] = [];
    const presses: TrackPress[] = groups.length === 0 ? [select] : [];
    if (p > 0) presses.push({ button: 'page', page: p });
    const led = presses.length;
    for (let at = 0; at < page; at++) {
      const i = p * page + at;
      const [step, was] = [stepOf(track, i), stepOf(old, i)];
      if (equal(step, was)) continue;
      const done = onStep(instrument, at, step, was, lowestKey(sequencer, number));
      presses.push(...done.presses);
      if (done.told === '') struck.push(i + 1);
      else told.push(`${i + 1}: ${done.told}`);
    }
    if (presses.length === led) continue;
    if (struck.length > 0) told.unshift(`strike ${struck.join(' ')}`);
    const name = pages > 1 ? `${track.name}, page ${p + 1}` : track.name;
    groups.push({ title: name, told, presses });
  }
  return groups;
}

function trackSettings(track: Track, old: Track): { told: string[]; presses: TrackPress[] } {
  const told: string[] = [];
  const presses: TrackPress[] = [];
  if (track.length !== old.length) {
    told.push(`last step ${track.length}`);
    presses.push({ button: 'last', steps: track.length });
  }
  if (track.rate !== old.rate) {
    told.push(`steps of ${track.rate}`);
    presses.push({ button: 'rate', rate: track.rate });
  }
  if (track.direction !== old.direction) {
    told.push(track.direction.replaceAll('-', ' '));
    presses.push({ button: 'direction', direction: track.direction });
  }
  for (const what of ['swing', 'offset'] as const) {
    if (track[what] === old[what]) continue;
    told.push(what === 'swing' ? `swing ${track.swing} %` : `begins at step ${track.offset + 1}`);
    presses.push({ button: 'set', of: what, value: track[what] });
  }
  if (track.muted !== old.muted) {
    told.push(track.muted ? 'muted' : 'not muted');
    presses.push({ button: 'mute' });
  }
  return { told, presses };
}

/** What turns one step into another. Words are empty for a step that is only struck. */
function onStep(
  instrument: Instrument,
  at: number,
  step: PatternStep,
  was: PatternStep,
  key: number,
): { told: string; presses: TrackPress[] } {
  const presses: TrackPress[] = [];
  // A step that had something is emptied first: pressing a struck one silences it and takes all it had along.
  if (!equal(was, REST)) {
    presses.push({ button: 'step', at });
    if (!was.notes) presses.push({ button: 'step', at });
  }
  if (equal(step, REST)) return { told: 'silent', presses };
  if (step.notes) presses.push({ button: 'step', at });
  const given = gifts(instrument, step, key);
  if (given.length > 0) {
    presses.push({ button: 'hold', at }, ...given.map((g) => g.press), { button: 'let-go' });
  }
  const words = given.map((g) => g.words).join(', ');
  return { told: words === '' && !equal(was, REST) ? 'struck' : words, presses };
}

function gifts(
  instrument: Instrument,
  step: PatternStep,
  key: number,
): { press: TrackPress; words: string }[] {
  const given: { press: TrackPress; words: string }[] = [];
  const give = (press: TrackPress, words: string): void => void given.push({ press, words });
  if (step.notes && !(step.notes.length === 1 && step.notes[0] === key)) {
    give({ button: 'keys', notes: step.notes }, step.notes.map(midiToNote).join(' '));
  }
  for (const mark of ['tie', 'accent', 'slide'] as const) {
    if (step[mark]) give({ button: 'mark', mark }, mark);
  }
  const numbers = [
    ['velocity', (v: number) => `velocity ${v}`],
    ['length', (v: number) => `${v} steps long`],
    [
      'micro',
      (v: number) => `${Math.abs(Math.round(100 * v))} % of a step ${v < 0 ? 'early' : 'late'}`,
    ],
  ] as const;
  for (const [what, words] of numbers) {
    const value = step[what];
    if (value !== undefined) give({ button: 'number', of: what, value }, words(value));
  }
  for (const [control, value] of Object.entries(step.ownValues ?? {})) {
    const found = instrument.controls.find((c) => c.id === control);
    const reading = found ? `${found.name} ${formatValue(found, value)}` : control;
    give({ button: 'turn', control, value }, reading);
  }
  if (step.condition !== undefined) {
    give({ button: 'condition', condition: step.condition }, conditionWords(step.condition));
  }
  return given;
}
