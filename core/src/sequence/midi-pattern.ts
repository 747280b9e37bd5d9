import type { MidiSong } from '../formats/midi-file';
import type { Instrument } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { events } from './events';
import { MOST_STEPS, MOST_TRACKS } from '../pattern/limits';
import { blankTrack } from '../pattern/blank';
import { type Pattern, patternSchema, type Track } from '../pattern/pattern';
import { withStep, stepOf } from '../pattern/steps';
import { quantise } from './quantise';
import { BAR, type StepRate, stepRates } from '../pattern/rate';

/** Which controllers of a file turn which controls of the panel. */
export type ControllerMap = Readonly<Record<number, string>>;

/** A pattern made from a file, and all that did not come along or was moved. */
export interface Taken {
  pattern: Pattern;
  /** As sentences. */
  told: string[];
}

/** Controllers that a file holds, in order. */
export const controllersIn = (song: MidiSong): number[] =>
  [...new Set(song.tracks.flatMap((t) => t.controllers.map((c) => c.number)))].sort(
    (a, b) => a - b,
  );

const plural = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;

/**
 * Makes a pattern of a file: a track for each of its tracks that holds notes, quantised, controllers as own values of the
 * steps that they fall on.
 */
export function patternFromMidi(
  song: MidiSong,
  rate: StepRate,
  controllers: ControllerMap = {},
  micro = false,
): Taken {
  const told: string[] = [];
  const all = song.tracks.filter((t) => t.notes.length > 0);
  if (all.length > MOST_TRACKS) {
    told.push(
      `${plural(all.length - MOST_TRACKS, 'track')} left out: a pattern has ${MOST_TRACKS}.`,
    );
  }
  const beats = stepRates[rate];
  const tracks = all.slice(0, MOST_TRACKS).map((from, i): Track => {
    const { steps, moved, dropped } = quantise(from.notes, rate, MOST_STEPS, micro);
    if (moved.length > 0) {
      const most = Math.max(...moved.map((m) => Math.abs(m.by)));
      told.push(
        `${from.name}: ${plural(moved.length, 'note')} moved to a step, by ${most.toFixed(3)} of a quarter note at most.`,
      );
    }
    if (dropped.length > 0) {
      told.push(`${from.name}: ${plural(dropped.length, 'note')} left out, ${dropped[0]!.why}.`);
    }
    const bars = Math.max(1, Math.ceil((steps.length * beats) / BAR));
    const length = Math.min(MOST_STEPS, Math.max(1, Math.round((bars * BAR) / beats)));
    let track: Track = { ...blankTrack(`t${i + 1}`, from.name.slice(0, 40)), length, rate, steps };
    let lost = 0;
    for (const { beat, number, value } of from.controllers) {
      const control = controllers[number];
      const at = Math.floor(beat / beats + 1e-6);
      if (control === undefined || at >= length) {
        lost++;
        continue;
      }
      const step = stepOf(track, at);
      track = withStep(track, at, {
        ...step,
        ownValues: { ...step.ownValues, [control]: value / 127 },
      });
    }
    if (lost > 0)
      told.push(`${from.name}: ${plural(lost, 'controller value')} left out, bound to no control.`);
    return track;
  });
  const [meter] = song.meters;
  if (meter && (meter.beats !== 4 || meter.unit !== 4)) {
    told.push(
      `The file counts ${meter.beats}/${meter.unit}; patterns count bars of four quarters.`,
    );
  }
  const unknown = Object.entries(song.unknown ?? {}).map(([kind, n]) => plural(n, kind));
  if (unknown.length > 0)
    told.push(`${unknown.join(', ')} left out: patterns hold notes and controllers.`);
  if (song.tempos.length > 1) told.push('The file changes its tempo; only the first is kept.');
  if (tracks.length === 0) told.push('The file holds no notes.');
  const longest = Math.max(BAR, ...tracks.map((t) => t.length * stepRates[t.rate]));
  const pattern = patternSchema.parse({
    id: 'taken',
    name: 'From a file',
    bars: Math.min(64, Math.ceil(longest / BAR)),
    tracks: tracks.length > 0 ? tracks : [{ id: 't1', name: 'Notes' }],
  });
  return { pattern, told };
}

/** A file made of patterns, and what it cannot hold. */
export interface Written {
  song: MidiSong;
  told: string[];
}

/**
 * Patterns as they are played for so many quarter notes: conditions and chances as one seed draws them, ties and slides as
 * lengths, own values as controllers where one is bound to the control.
 */
export function patternToMidi(
  instrument: Instrument,
  patterns: readonly Pattern[],
  tempo: number,
  beats: number,
  controllers: ControllerMap = {},
  seed = 1,
): Written {
  const [first] = patterns;
  const numbers = new Map(Object.entries(controllers).map(([n, control]) => [control, Number(n)]));
  const tracks: MidiSong['tracks'] = (first?.tracks ?? []).map((t, i) => ({
    name: t.name,
    channel: i % 16,
    notes: [],
    controllers: [],
  }));
  const lost = new Set<string>();
  const down = new Map<number, MidiSong['tracks'][number]['notes'][number]>();
  for (const event of events(patterns, { beats, tempo, seed })) {
    const track = tracks[event.track];
    if (!track) continue;
    if (event.kind === 'press') {
      const note = { beat: event.beat, length: 0, note: event.note, velocity: event.velocity };
      track.notes.push(note);
      down.set(event.note, note);
    } else if (event.kind === 'release') {
      const note = down.get(event.note);
      if (note) note.length = Math.max(1 / 96, event.beat - note.beat);
      down.delete(event.note);
    } else {
      for (const [control, value] of Object.entries(event.ownValues)) {
        const number = numbers.get(control);
        if (number === undefined || typeof value !== 'number') lost.add(control);
        else track.controllers.push({ beat: event.beat, number, value: Math.round(127 * value) });
      }
    }
  }
  const told = [...whatIsPlayedOut(patterns)];
  for (const control of lost) {
    const found = instrument.controls.find((c) => c.id === control);
    const why =
      found && isSwitched(found) ? 'a switch has no number' : 'no controller is bound to it';
    told.push(`Own values of ${found?.name ?? control} are left out: ${why}.`);
  }
  const rows = patterns.some((p) => p.tracks.some((t) => Object.keys(t.rows).length > 0));
  if (rows) told.push('Rows of voltages are left out: a MIDI file holds notes, not volts.');
  return {
    song: { tempos: [{ beat: 0, bpm: tempo }], meters: [{ beat: 0, beats: 4, unit: 4 }], tracks },
    told,
  };
}

/** Things that a file holds only as they happened to be played. */
function whatIsPlayedOut(patterns: readonly Pattern[]): Set<string> {
  const told = new Set<string>();
  for (const { tracks } of patterns) {
    for (const track of tracks) {
      if (track.steps.some((s) => s.condition)) {
        told.add('Conditions are written as they came out, round by round; fill is not held.');
      }
      if (track.steps.some((s) => s.slide)) told.add('Slides are written as notes that overlap.');
      if (track.direction === 'random' || track.arpeggio?.mode === 'random') {
        told.add('Random order is written as it came out.');
      }
      if (track.steps.some((s) => s.accent)) told.add('Accents are written as velocity.');
    }
  }
  return told;
}
