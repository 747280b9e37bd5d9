import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  type Evening,
  eveningSchema,
  type Instrument,
  instrumentSchema,
  patchSchema,
  planEvening,
  type Recorded,
  Ways,
} from '@hurrel/core';

const KINDS = [
  'oxbow-sluice',
  'staithe-curlew',
  'staithe-curlew',
  'marram-estuary',
  'marram-shoal',
  'oxbow-lockgate',
];
const MOVERS = ['a', 'b', 'b', 'c', 'd', 'd'];

/** Documents of the demo library in one of its folders. */
const documents = (folder: string): unknown[] =>
  readdirSync(join('library', folder)).map((file) =>
    JSON.parse(readFileSync(join('library', folder, file), 'utf8')),
  );

/** 40 songs on 6 panels for 4 people, from the demo library, the same at each run. */
function fortySongs(): { evening: Evening; library: Record<string, Recorded> } {
  const instruments = new Map<string, Instrument>(
    documents('instruments')
      .map((d) => instrumentSchema.parse(d))
      .map((i) => [i.id, i]),
  );
  const library: Record<string, Recorded> = Object.fromEntries(
    documents('patches')
      .map((d) => patchSchema.parse(d))
      .map((patch, i) => [`p${i}`, { patch, instrument: instruments.get(patch.instrument)! }]),
  );
  let seed = 7;
  const upTo = (n: number): number => (seed = (seed * 1103515245 + 12345) & 0x7fffffff) % n;
  const songs = Array.from({ length: 40 }, (_, i) => ({
    id: `s${i}`,
    name: `Song ${i}`,
    pause: [20, 60, 90, 150][upTo(4)],
    seconds: 180,
    fixed: i % 10 === 0,
    plays: KINDS.flatMap((kind, n) => {
      const own = Object.entries(library).filter(([, r]) => r.patch.instrument === kind);
      return upTo(10) < 6 ? [{ panel: `n${n}`, patch: own[upTo(own.length)]![0] }] : [];
    }),
  }));
  const evening = eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Bench',
    people: ['a', 'b', 'c', 'd'].map((id) => ({ id, name: id })),
    panels: KINDS.map((instrument, n) => ({
      id: `n${n}`,
      name: instrument,
      instrument,
      by: MOVERS[n],
      places: instrument === 'marram-estuary' ? ['A01', 'A02'] : [],
    })),
    songs,
  });
  return { evening, library };
}

/** Seconds that planning takes from nothing: no way between two patches is known yet. */
export function setForty(): number {
  const { evening, library } = fortySongs();
  const since = performance.now();
  const plan = planEvening(evening, new Ways((id) => library[id]));
  if (plan.movements === 0) throw new Error('There was nothing to plan.');
  return (performance.now() - since) / 1000;
}
