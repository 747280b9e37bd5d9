import { isModuleKind, type ModuleKind, type ModuleSpec, moduleSpec } from '../catalogue';
import { freeName } from '../document';
import { paramFits } from '../instrument/param-fits';
import type { Instrument, Module } from '../instrument/schema';
import { MOST_MODULES } from '../instrument/limits';
import { onlyWhatIsThere } from '../instrument/still-there';

/**
 * The instrument with one more module, which nothing is wired to yet. The first brings an output with it: what is heard
 * leaves by one.
 * @param ends false for a module of a cabinet: it ends in its jacks, and sound leaves the cabinet elsewhere
 * @returns the instrument, and the id of the new module
 * @throws Error when there are 200 already, or a second output is wanted
 */
export function withModule(
  instrument: Instrument,
  kind: ModuleKind,
  ends = true,
): { instrument: Instrument; id: string } {
  const { modules } = instrument.circuit;
  const output = modules.some((m) => m.kind === 'output');
  if (kind === 'output' && output)
    throw new Error('There is an output already: what is heard leaves by one.');
  if (modules.length + (output ? 1 : 2) > MOST_MODULES)
    throw new Error(`A circuit has ${MOST_MODULES} modules at most.`);
  const ending: Module[] =
    output || kind === 'output' || !ends
      ? []
      : [{ id: freeName('output', modules), kind: 'output', params: {} }];
  const id = freeName(kind, modules);
  // The output is described last: of what feeds itself the one described first goes first.
  const before = modules.filter((m) => m.kind !== 'output');
  const last = [...modules.filter((m) => m.kind === 'output'), ...ending];
  const one: Module = { id, kind, name: nameOf(id), params: {} };
  return { instrument: withModules(instrument, [...before, one, ...last]), id };
}

/**
 * The instrument without a module, and without what named it. The output goes only with everything else.
 * @param ends false for a module of a cabinet, which needs none
 */
export function withoutModule(instrument: Instrument, id: string, ends = true): Instrument {
  const { modules } = instrument.circuit;
  const left = modules.filter((m) => m.id !== id);
  return withModules(instrument, !ends || left.some((m) => m.kind === 'output') ? left : []);
}

/** What names a module: it goes with it. */
export interface Named {
  wires: number;
  controls: number;
  jacks: number;
}

export function namesModule(instrument: Instrument, id: string): Named {
  const at = (port: string): boolean => port.startsWith(`${id}.`);
  return {
    wires: instrument.circuit.wires.filter((w) => at(w.from) || at(w.to)).length,
    controls: instrument.controls.filter((c) => c.bindings.some((b) => b.module === id)).length,
    jacks: instrument.jacks.filter((j) => at(j.port)).length,
  };
}

/**
 * The instrument with another kind of module in the place of one: what the new kind has too stays wired, bound and set, the
 * rest is let go.
 */
export function withKind(instrument: Instrument, id: string, kind: ModuleKind): Instrument {
  const spec = moduleSpec(kind);
  return withModules(
    instrument,
    instrument.circuit.modules.map((m) =>
      m.id !== id
        ? m
        : {
            ...m,
            kind,
            params: Object.fromEntries(
              Object.entries(m.params).filter(([name, value]) => paramFits(spec, name, value)),
            ),
          },
    ),
  );
}

/** Kinds that could stand in the place of a module: no circuit has two outputs. */
export const kindsFor = (instrument: Instrument, kinds: readonly ModuleKind[]): ModuleKind[] =>
  instrument.circuit.modules.some((m) => m.kind === 'output')
    ? kinds.filter((kind) => kind !== 'output')
    : [...kinds];

/** The instrument with a module called otherwise; an empty name leaves its id. */
export const withModuleName = (instrument: Instrument, id: string, name: string): Instrument =>
  changed(instrument, id, (m) => {
    const { name: _, ...rest } = m;
    return name.trim() === '' ? rest : { ...rest, name: name.trim().slice(0, 80) };
  });

/**
 * The instrument with a parameter that stands at a value where no control turns it; `undefined`: at the kind's own.
 * @throws Error when the module has no such parameter, or the value is beyond it
 */
export function withFixed(
  instrument: Instrument,
  id: string,
  param: string,
  value: number | string | undefined,
): Instrument {
  return changed(instrument, id, (m) => {
    const { [param]: _, ...params } = m.params;
    if (value === undefined) return { ...m, params };
    const spec = isModuleKind(m.kind) ? moduleSpec(m.kind) : undefined;
    if (!spec || !paramFits(spec, param, value)) throw new Error(rangeText(spec, param));
    return { ...m, params: { ...params, [param]: value } };
  });
}

const withModules = (instrument: Instrument, modules: Module[]): Instrument =>
  onlyWhatIsThere({ ...instrument, circuit: { ...instrument.circuit, modules } });

const changed = (
  instrument: Instrument,
  id: string,
  change: (module: Module) => Module,
): Instrument => ({
  ...instrument,
  circuit: {
    ...instrument.circuit,
    modules: instrument.circuit.modules.map((m) => (m.id === id ? change(m) : m)),
  },
});

function rangeText(spec: ModuleSpec | undefined, name: string): string {
  const param = spec && Object.hasOwn(spec.params, name) ? spec.params[name] : undefined;
  if (!param) return `There is no parameter "${name}".`;
  return param.kind === 'choice'
    ? `${name} is one of ${param.choices.join(', ')}.`
    : `${name} runs from ${param.lo} to ${param.hi} ${param.unit}`.trim() + '.';
}

const nameOf = (id: string): string => id.replace(/-/g, ' ');
