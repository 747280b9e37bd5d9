import { MOST_STEPS } from '../pattern/limits';
import { type Pattern, patternSchema, type PatternStep, type Track } from '../pattern/pattern';
import { formatSteps, parseSteps, plainNumber } from './text';

export type PatternTextReading =
  | { ok: true; pattern: Pattern }
  /** `line` counts from 1, `at` is the first letter in it that is wrong, from 0. */
  | { ok: false; line: number; at: number; message: string };

/**
 * A whole pattern as text, one thing a line, in the words of docs/sequences.md. What stands at its usual place is left
 * out. Lossless: `parsePatternText` gives the same pattern back.
 */
export function formatPattern(pattern: Pattern): string {
  const { sequencer, place, bars, transpose, next, about } = pattern;
  return [
    `pattern ${pattern.id}: ${pattern.name}`,
    ...(sequencer === undefined ? [] : [`for ${sequencer}`]),
    ...(place === undefined ? [] : [`place ${place}`]),
    `bars ${bars}`,
    ...(transpose === 0 ? [] : [`moved ${transpose}`]),
    ...(next === undefined ? [] : [`then ${next}`]),
    ...(about === '' ? [] : about.split('\n').map((line) => `about ${line}`)),
    ...pattern.tracks.flatMap((track) => ['', ...trackLines(track)]),
    '',
  ].join('\n');
}

function trackLines(track: Track): string[] {
  const { arpeggio: arp } = track;
  const ownValues = new Set(track.steps.flatMap((s) => Object.keys(s.ownValues ?? {})));
  return [
    `track ${track.id}: ${track.name}`,
    ...(track.on === undefined ? [] : [`on ${track.on}`]),
    `last ${track.length}`,
    `rate ${track.rate}`,
    ...(track.direction === 'forward' ? [] : [`runs ${track.direction}`]),
    ...(track.swing === 50 ? [] : [`swing ${track.swing}`]),
    ...(track.offset === 0 ? [] : [`from ${track.offset + 1}`]),
    ...(track.muted ? ['muted'] : []),
    ...(track.ownFor === 'note' ? [] : [`own-for ${track.ownFor}`]),
    ...(track.steps.length === 0 ? [] : barsOf(track.steps).map((s) => `  ${formatSteps(s)}`)),
    ...[...ownValues].map((id) => `own ${id} ${ownCells(track.steps, id).join(' ')}`),
    ...Object.entries(track.rows).map(([id, volts]) => ['row', id, ...volts].join(' ')),
    ...(arp
      ? [
          `arpeggio ${arp.mode} octaves ${arp.octaves} gate ${arp.length}`,
          ...arp.chords.map((c) => `chord ${formatSteps([{ notes: c.notes }])} ${c.steps}`),
        ]
      : []),
  ];
}

/** Sixteen steps a line. */
const barsOf = (steps: readonly PatternStep[]): PatternStep[][] =>
  Array.from({ length: Math.ceil(steps.length / 16) }, (_, i) => steps.slice(16 * i, 16 * i + 16));

/** `3=0.5`: at step 3 half-way. Places have a point in them, positions of switches have none. */
const ownCells = (steps: readonly PatternStep[], id: string): string[] =>
  steps.flatMap((step, i) => {
    const value = step.ownValues?.[id];
    if (value === undefined) return [];
    const text = typeof value === 'number' ? plainNumber(value) : value;
    return [`${i + 1}=${typeof value === 'number' && !text.includes('.') ? `${text}.0` : text}`];
  });

/** A track as far as it has been read. */
interface Draft {
  line: number;
  track: Record<string, unknown> & { steps: PatternStep[]; rows: Record<string, number[]> };
  chords: { notes: number[]; steps: number }[];
  ownValues: { line: number; id: string; cells: Map<number, number | string> }[];
}

/** What is wrong with a line, and from which letter on. */
class Wrong extends Error {
  constructor(
    message: string,
    readonly at = 0,
  ) {
    super(message);
  }
}

/** Reads what `formatPattern` writes, or what one has typed in that form: blank lines and indents mean nothing. */
export function parsePatternText(text: string): PatternTextReading {
  const whole: Record<string, unknown> = {};
  const drafts: Draft[] = [];
  const about: string[] = [];
  const lines = text.split(/\r?\n/);
  for (const [index, raw] of lines.entries()) {
    const line = raw.trim();
    if (line === '') continue;
    try {
      readLine(line, index + 1, whole, drafts, about);
    } catch (error) {
      if (!(error instanceof Wrong)) throw error;
      const indent = raw.length - raw.trimStart().length;
      return { ok: false, line: index + 1, at: indent + error.at, message: error.message };
    }
  }
  if (about.length > 0) whole.about = about.join('\n');
  if (whole.id === undefined) {
    return { ok: false, line: 1, at: 0, message: 'It begins with a line "pattern verse: Verse".' };
  }
  for (const { track, ownValues } of drafts) {
    for (const { line, id, cells } of ownValues) {
      for (const [step, value] of cells) {
        if (step > MOST_STEPS) {
          const message = `There is no step ${step}: a track has ${MOST_STEPS}.`;
          return { ok: false, line, at: 0, message };
        }
        while (track.steps.length < step) track.steps.push({});
        const old = track.steps[step - 1]!;
        track.steps[step - 1] = { ...old, ownValues: { ...old.ownValues, [id]: value } };
      }
    }
  }
  const parsed = patternSchema.safeParse({ ...whole, tracks: drafts.map((d) => d.track) });
  if (parsed.success) return { ok: true, pattern: parsed.data };
  const [issue] = parsed.error.issues;
  const [where, number] = issue!.path;
  const line = where === 'tracks' ? (drafts[Number(number)]?.line ?? 1) : 1;
  return { ok: false, line, at: 0, message: `${issue!.path.join('/')}: ${issue!.message}.` };
}

function readLine(
  line: string,
  number: number,
  whole: Record<string, unknown>,
  drafts: Draft[],
  about: string[],
): void {
  const [, word = '', rest = ''] = /^(\S+)\s*(.*)$/.exec(line)!;
  const draft = drafts.at(-1);
  const at = line.length - rest.length;
  if (word === 'pattern' || word === 'track') {
    const named = /^([a-z0-9][a-z0-9-]*)\s*:\s*(\S.*)$/.exec(rest);
    if (!named) throw new Wrong(`Expected "${word} name: Its name in full".`, at);
    if (word === 'track') {
      const track = { id: named[1]!, name: named[2]!, steps: [], rows: {} };
      drafts.push({ line: number, track, chords: [], ownValues: [] });
    } else if (whole.id !== undefined) throw new Wrong('There is a pattern already: one a text.');
    else [whole.id, whole.name] = [named[1], named[2]];
    return;
  }
  const asPattern = Object.hasOwn(patternWords, word) ? patternWords[word] : undefined;
  if (asPattern && !draft) {
    if (word === 'about') about.push(rest);
    else asPattern(whole, rest, at);
    return;
  }
  if (!draft) {
    throw new Wrong(
      `"${word}" is none of: pattern, for, place, bars, moved, then, about, or a track.`,
    );
  }
  const asTrack = Object.hasOwn(trackWords, word) ? trackWords[word] : undefined;
  if (asTrack) return asTrack(draft, rest, at, number);
  const reading = parseSteps(line, 60, draft.track.steps.at(-1));
  if (!reading.ok) throw new Wrong(reading.error.message, reading.error.at);
  // Rests at the end of a line are steps of it.
  const steps = [...reading.steps];
  while (steps.length < reading.length) steps.push({});
  draft.track.steps.push(...steps);
}

function numberIn(text: string, at: number): number {
  const value = Number(text);
  if (text === '' || !Number.isFinite(value)) throw new Wrong(`"${text}" is no number.`, at);
  return value;
}

/** `cutoff 3=0.5 4=1.0`: values of a control's own at steps. */
function readOwnValues({ ownValues }: Draft, rest: string, at: number, line: number): void {
  const [id = '', ...cells] = rest.split(/\s+/);
  const read = cells.map((cell): [number, number | string] => {
    const [, step, value = ''] = /^(\d+)=(\S+)$/.exec(cell) ?? [];
    if (step === undefined || step === '0')
      throw new Wrong(`"${cell}" is no value of a step: 3=0.5 puts step 3 half-way.`, at);
    return [Number(step), value.includes('.') ? numberIn(value, at) : value];
  });
  ownValues.push({ line, id, cells: new Map(read) });
}

const patternWords: Record<
  string,
  (whole: Record<string, unknown>, rest: string, at: number) => void
> = {
  for: (whole, rest) => void (whole.sequencer = rest),
  place: (whole, rest) => void (whole.place = rest),
  bars: (whole, rest, at) => void (whole.bars = numberIn(rest, at)),
  moved: (whole, rest, at) => void (whole.transpose = numberIn(rest, at)),
  then: (whole, rest) => void (whole.next = rest),
  about: () => undefined,
};

const trackWords: Record<string, (draft: Draft, rest: string, at: number, line: number) => void> = {
  on: ({ track }, rest) => void (track.on = rest),
  last: ({ track }, rest, at) => void (track.length = numberIn(rest, at)),
  rate: ({ track }, rest) => void (track.rate = rest),
  runs: ({ track }, rest) => void (track.direction = rest),
  swing: ({ track }, rest, at) => void (track.swing = numberIn(rest, at)),
  from: ({ track }, rest, at) => void (track.offset = numberIn(rest, at) - 1),
  'own-for': ({ track }, rest) => void (track.ownFor = rest),
  muted: ({ track }) => void (track.muted = true),
  row: ({ track }, rest, at) => {
    const [id = '', ...volts] = rest.split(/\s+/);
    const row = { [id]: volts.map((v) => numberIn(v, at)) };
    track.rows = { ...track.rows, ...row };
  },
  own: readOwnValues,
  /** The word of older texts. */
  lock: readOwnValues,
  arpeggio: ({ track, chords }, rest, at) => {
    const found = /^(\S+)(?:\s+octaves\s+(\S+))?(?:\s+gate\s+(\S+))?$/.exec(rest);
    if (!found) throw new Wrong('Expected "arpeggio up octaves 2 gate 0.75".', at);
    const [, mode, octaves = '1', gate = '0.75'] = found;
    track.arpeggio = {
      mode,
      octaves: numberIn(octaves, at),
      length: numberIn(gate, at),
      chords,
    };
  },
  chord: ({ track, chords }, rest, at) => {
    const [names = '', steps = '16'] = rest.split(/\s+/);
    const reading = parseSteps(names);
    if (!reading.ok) throw new Wrong(reading.error.message, at + reading.error.at);
    if (!track.arpeggio) throw new Wrong('A chord stands under the arpeggio that runs through it.');
    chords.push({ notes: reading.steps[0]?.notes ?? [], steps: numberIn(steps, at) });
  },
};
