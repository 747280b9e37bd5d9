import { readdirSync, readFileSync } from 'node:fs';
import { panelOf } from '../instrument/panel-of';
import { type Instrument, instrumentSchema } from '../instrument/schema';
import { checkPatch } from '../patch/check';
import { patchSchema } from '../patch/schema';
import { compile } from '../circuit/compile';
import { ownChanges } from '../circuit/own-values';
import { peakOf } from '../measure/level';
import { renderParts } from '../sound/render-parts';
import { events } from './events';
import { fitPattern, sequencerOf } from './fit';
import { chainFrom } from '../pattern/steps';
import { heldKey, withRows } from './rows';
import { enterPattern } from './script';

const library = new URL('../../../library/', import.meta.url);
const read = (path: string): unknown => JSON.parse(readFileSync(new URL(path, library), 'utf8'));
const instruments = new Map<string, Instrument>(
  readdirSync(new URL('instruments/', library)).map((f) => {
    const one = instrumentSchema.parse(read(`instruments/${f}`));
    return [one.id, one];
  }),
);
const all = readdirSync(new URL('patches/', library)).flatMap((f) => {
  const patch = patchSchema.parse(read(`patches/${f}`));
  return patch.patterns.map((pattern) => ({
    patch,
    pattern,
    name: `${patch.name}: ${pattern.name}`,
  }));
});

describe.each(all)('$name', ({ patch, pattern }) => {
  const instrument = panelOf(instruments.get(patch.instrument)!, patch);

  it('is held by its box, and its script says how it gets there', () => {
    expect(checkPatch(patch, instrument)).toEqual([]);
    expect(fitPattern(instrument, pattern).refusals).toEqual([]);
    const entry = enterPattern(instrument, pattern);
    expect(entry.ok).toBe(sequencerOf(instrument, pattern) !== undefined);
    if (entry.ok) expect(entry.script.presses).toBeGreaterThan(0);
  });

  it('is heard, and does not clip', () => {
    const chain = chainFrom(patch.patterns, pattern.id);
    const sequencer = sequencerOf(instrument, pattern);
    const rows = sequencer?.kind === 'rows';
    const shown = rows ? withRows(instrument, sequencer, pattern, patch) : patch;
    if (!rows) expect(events(chain, { beats: 8, tempo: patch.tempo }).length).toBeGreaterThan(0);
    const source = {
      graph: compile(instrument, shown),
      patterns: rows ? heldKey(pattern, patch) : chain,
      turns: ownChanges(instrument, patch, chain),
      gain: 1,
      pan: 0,
    };
    const [left, right] = renderParts([source], {
      sampleRate: 24000,
      tempo: patch.tempo,
      beats: 8,
      tail: 0.1,
      fills: [{ from: 0, to: 4 }],
    })!;
    const peak = Math.max(peakOf(left), peakOf(right));
    expect(peak).toBeGreaterThan(0.05);
    expect(peak).toBeLessThan(1);
  });
});

it('has two chained bars, three against four, a riser in fill, and something for every kind of sequencer', () => {
  const kinds = new Set(
    all.map(({ patch, pattern }) => sequencerOf(instruments.get(patch.instrument)!, pattern)?.kind),
  );
  expect([...kinds].sort()).toEqual(['arpeggio', 'multi-track', 'rows', 'two-pass', undefined]);
  expect(all.some(({ pattern }) => pattern.next !== undefined)).toBe(true);
  expect(all.some(({ pattern }) => pattern.tracks.some((t) => t.length === 48))).toBe(true);
  const inFill = (s: { condition?: string | undefined; length?: number | undefined }): boolean =>
    s.condition === 'fill' && (s.length ?? 0) > 32;
  expect(all.some(({ pattern }) => pattern.tracks.some((t) => t.steps.some(inFill)))).toBe(true);
});
