import { catalogue, isModuleKind, type ModuleKind, moduleSpec } from '../catalogue';
import { MOST_REVISIONS } from '../instrument/limits';
import { freeName } from '../document';
import { paramFits } from '../instrument/param-fits';
import type { Instrument } from '../instrument/schema';
import { lacks, usesOf } from '../instrument/uses';

/**
 * The instrument with one more revision: the same panel, with other modules in the place of some. The first is the
 * instrument as it is described.
 * @throws Error when there are 16 already
 */
export function withRevision(instrument: Instrument, name: string): Instrument {
  const { revisions } = instrument;
  if (revisions.length >= MOST_REVISIONS)
    throw new Error(`An instrument has ${MOST_REVISIONS} revisions at most.`);
  return {
    ...instrument,
    revisions: [...revisions, { id: freeName('revision', revisions), name, modules: [] }],
  };
}

export const withoutRevision = (instrument: Instrument, id: string): Instrument => ({
  ...instrument,
  revisions: instrument.revisions.filter((r) => r.id !== id),
});

export const withRevisionSaid = (
  instrument: Instrument,
  id: string,
  said: { name?: string; note?: string },
): Instrument => ({
  ...instrument,
  revisions: instrument.revisions.map((r) => (r.id === id ? { ...r, ...said } : r)),
});

/** Kinds of its family that have all that is used of a module: what may stand in its place. */
export function exchangeable(instrument: Instrument, module: string): ModuleKind[] {
  const found = instrument.circuit.modules.find((m) => m.id === module);
  if (!found || !isModuleKind(found.kind) || found.kind === 'output') return [];
  const uses = usesOf(instrument);
  const { family } = moduleSpec(found.kind);
  return (Object.keys(catalogue) as ModuleKind[]).filter((kind) => {
    const spec = moduleSpec(kind);
    return kind !== found.kind && spec.family === family && lacks(spec, uses, module).length === 0;
  });
}

/** The instrument with another kind of module in a revision; `null`: the one that is described. */
export const withExchange = (
  instrument: Instrument,
  revision: string,
  module: string,
  kind: ModuleKind | null,
): Instrument => ({
  ...instrument,
  revisions: instrument.revisions.map((r) => {
    if (r.id !== revision) return r;
    const others = r.modules.filter((m) => m.id !== module);
    const original = instrument.circuit.modules.find((m) => m.id === module);
    if (kind === null || !original) return { ...r, modules: others };
    const spec = moduleSpec(kind);
    const params = Object.entries(original.params).filter(([name, value]) =>
      paramFits(spec, name, value),
    );
    const exchanged = { ...original, kind, params: Object.fromEntries(params) };
    return { ...r, modules: [...others, exchanged] };
  }),
});
