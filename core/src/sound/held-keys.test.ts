import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Graph } from '../circuit/graph';
import { compile } from '../circuit/compile';
import { type Instrument, instrumentSchema } from '../instrument/schema';
import { patchOn } from '../testing/panels';
import { held, record } from '../testing/bench';

const RATE = 2000;
/** C3 is held; G3 is struck at 0.4 s and let go at 0.8 s. */
const NOTES = [held(48, 1.2), held(55, 0.4, 0.4)];
const library = join(import.meta.dirname, '../../../library/instruments');
const instrument = (id: string): Instrument =>
  instrumentSchema.parse(JSON.parse(readFileSync(join(library, `${id}.json`), 'utf8')));

type Switches = Record<string, string>;
function graphOf(id: string, switches: Switches): Graph {
  const panel = instrument(id);
  const patch = patchOn(panel);
  const settings = Object.fromEntries(
    Object.entries(switches).map(([control, value]) => [control, { kind: 'set' as const, value }]),
  );
  return compile(panel, { ...patch, settings: { ...patch.settings, ...settings } });
}

/** Pitches whose gate is up at 0.3, 0.7 and 1.1 s, each once, and how many strokes there are in all. */
function played(
  graph: Graph,
  voices: readonly [pitch: string, gate: string, trigger: string, voice: number][],
) {
  const all = voices.map(([pitch, gate, trigger, voice]) => {
    const of = (port: string): Float64Array =>
      record(graph, port, 1.2, { sampleRate: RATE, notes: NOTES }, voice);
    return { pitch: of(pitch), gate: of(gate), strokes: of(trigger).filter((v) => v > 0).length };
  });
  const at = (second: number): number[] => {
    const i = second * RATE;
    const up = all.filter((v) => v.gate[i]! > 0).map((v) => Math.round(12 * v.pitch[i]!) + 60);
    return [...new Set(up)].sort((a, b) => a - b);
  };
  return { sounds: [at(0.3), at(0.7), at(1.1)], strokes: Math.max(...all.map((v) => v.strokes)) };
}

const ALL_LAST = [[48], [55], [48]];
const LOW = [[48], [48], [48]];
const TWO = [[48], [48, 55], [48]];
/** One gate for all that were struck, up until the last key is let go. */
const ONE_GATE = [[48], [48, 55], [48, 55]];

/** By hand: what must sound while one key is held and another comes and goes, and how often the busiest voice starts. */
const MONO: [string, string, Switches, number[][], number][] = [
  ...(['low', 'high', 'last', 'two'] as const).flatMap((note) => {
    const sounds = { low: LOW, high: ALL_LAST, last: ALL_LAST, two: TWO }[note];
    return [
      ['oxbow-sluice', 'keys', { note, strokes: 'each' }, sounds, 2],
      ['oxbow-sluice', 'keys', { note, strokes: 'legato' }, sounds, 1],
    ] as (typeof MONO)[number][];
  }),
  ['staithe-curlew', 'keys', { voices: 'low', strokes: 'each' }, LOW, 2],
  ['staithe-curlew', 'keys', { voices: 'low', strokes: 'legato' }, LOW, 1],
  ['staithe-curlew', 'keys', { voices: 'last', strokes: 'each' }, ALL_LAST, 2],
  ['staithe-curlew', 'keys', { voices: 'last', strokes: 'legato' }, ALL_LAST, 1],
  ['staithe-curlew', 'keys', { voices: 'two', strokes: 'each' }, TWO, 2],
  ['staithe-curlew', 'keys', { voices: 'two', strokes: 'legato' }, TWO, 1],
  ['staithe-skimmer', 'keys', { rule: 'last' }, ALL_LAST, 2],
  ['staithe-skimmer', 'keys', { rule: 'low' }, LOW, 2],
  ['staithe-skimmer', 'keys', { rule: 'high' }, ALL_LAST, 2],
  ['oxbow-eelpot', 'keys', {}, ALL_LAST, 1],
];

const one = (rule: string, strokes: string): Switches => ({
  'voice-rule': rule,
  mono: 'one',
  strokes,
});
const eight = (rule: string, strokes: string): Switches => ({
  'voice-rule': rule,
  mono: 'all',
  strokes,
});
const POLY: [string, number, Switches, number[][], number][] = [
  ...['poly', 'rotation', 'unison', 'para'].flatMap(
    (rule) =>
      [
        ['marram-estuary', 1, one(rule, 'each'), ALL_LAST, 2],
        ['marram-estuary', 1, one(rule, 'legato'), ALL_LAST, 1],
      ] as (typeof POLY)[number][],
  ),
  ...['each', 'legato'].flatMap(
    (strokes) =>
      [
        ['marram-estuary', 8, eight('poly', strokes), TWO, 1],
        ['marram-estuary', 8, eight('rotation', strokes), TWO, 1],
        ['marram-estuary', 8, eight('para', strokes), ONE_GATE, 1],
        ['marram-estuary', 8, eight('unison', strokes), ALL_LAST, strokes === 'each' ? 2 : 1],
        ['marram-reedbed', 6, { rule: 'poly', strokes }, TWO, 1],
        ['marram-reedbed', 6, { rule: 'unison', strokes }, ALL_LAST, strokes === 'each' ? 2 : 1],
      ] as (typeof POLY)[number][],
  ),
];

const CHANNELS: [string, number[][], number][] = [
  ['rotation', TWO, 1],
  ['each', TWO, 1],
  ['unison', ALL_LAST, 2],
];

describe('A key that is held while another comes and goes', () => {
  it.each(MONO)('%s: %s %j', (id, node, switches, sounds, strokes) => {
    const graph = graphOf(id, switches);
    const two = sounds === TWO;
    const ports: Parameters<typeof played>[1] = [
      [`${node}.pitch1`, `${node}.gate`, `${node}.trigger`, 0],
      ...(two ? [[`${node}.pitch2`, `${node}.gate`, `${node}.trigger`, 0] as const] : []),
    ] as never;
    expect(played(graph, ports)).toEqual({ sounds, strokes });
  });

  it.each(POLY)('%s: %i voices, %j', (id, voices, switches, sounds, strokes) => {
    const node = graphOf(id, switches).nodes.find((n) => n.kind === 'voices')!.id;
    const ports = Array.from(
      { length: voices },
      (_, v) =>
        [`${node}.pitch`, `${node}.gate`, `${node}.trigger`, v] as [string, string, string, number],
    );
    expect(played(graphOf(id, switches), ports)).toEqual({ sounds, strokes });
  });

  it.each(CHANNELS)('four channels, %s', (rule, sounds, strokes) => {
    const ports = [1, 2, 3, 4].map(
      (c) => [`k.pitch${c}`, `k.gate${c}`, `k.trigger${c}`, 0] as [string, string, string, number],
    );
    expect(played(graphOf('staithe-heronry', { rule }), ports)).toEqual({ sounds, strokes });
  });
});
