import type { Instrument } from '../instrument/schema';
import { moduleInFocus, withModuleInFocus } from '../outline/module-focus';
import { proposeBindings, proposeLeads, type Skeleton, suits, withSkeleton } from './skeleton';

/** What of a module would be known with a circuit behind it. */
export interface ModuleMatch {
  skeleton: Skeleton;
  /** Controls and jacks that its words recognise. */
  known: number;
}

/** Circuits for a module of a cabinet: those for modules of its name first, of them those that recognise most. */
export function circuitsFor(module: Instrument, skeletons: readonly Skeleton[]): ModuleMatch[] {
  return skeletons
    .filter((s) => s.module !== undefined)
    .map((skeleton) => ({
      skeleton,
      named: suits(skeleton, module.name),
      known: proposeBindings(module, skeleton).length + proposeLeads(module, skeleton).size,
    }))
    .sort((a, b) => Number(b.named) - Number(a.named) || b.known - a.known)
    .map(({ skeleton, known }) => ({ skeleton, known }));
}

/** A module that was given a circuit, and what of it nobody knows yet. */
export interface Modelled {
  /** The type's id, and what it is called. */
  type: string;
  name: string;
  /** The circuit; absent where none is for modules of that name. */
  circuit?: string;
  /** Names of controls and jacks that it does not recognise. */
  open: string[];
}

/** The cabinet with a circuit behind each module that has none and whose name one is for. */
export function withModulesModelled(
  instrument: Instrument,
  skeletons: readonly Skeleton[],
): { instrument: Instrument; modelled: Modelled[] } {
  let now = instrument;
  const modelled: Modelled[] = [];
  for (const type of instrument.rack?.types ?? []) {
    const module = type.modules.length > 0 ? undefined : moduleInFocus(now, type.id);
    if (!module) continue;
    const best = circuitsFor(module, skeletons)[0];
    const things = [...module.controls, ...module.jacks];
    if (!best || !suits(best.skeleton, module.name)) {
      modelled.push({ type: type.id, name: type.name, open: things.map((t) => t.name) });
      continue;
    }
    const bound = proposeBindings(module, best.skeleton);
    const leads = proposeLeads(module, best.skeleton);
    now = withModuleInFocus(now, type.id, withSkeleton(module, best.skeleton, bound, leads));
    const known = new Set([...bound.map((p) => p.control), ...leads.keys()]);
    modelled.push({
      ...{ type: type.id, name: type.name, circuit: best.skeleton.name },
      open: things.filter((t) => !known.has(t.id)).map((t) => t.name),
    });
  }
  return { instrument: now, modelled };
}
