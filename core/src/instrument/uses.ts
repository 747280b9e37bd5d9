import type { ModuleSpec } from '../catalogue';
import type { Instrument } from './schema';

type Side = 'inputs' | 'outputs' | 'params';
/** What of each module is wired, turned, patched or joined by the matrix, by module. */
export type Uses = ReadonlyMap<string, Record<Side, ReadonlySet<string>>>;

export function usesOf(
  instrument: Pick<Instrument, 'circuit' | 'controls' | 'jacks' | 'matrix'>,
): Uses {
  const uses = new Map(
    instrument.circuit.modules.map((m) => [
      m.id,
      { inputs: new Set<string>(), outputs: new Set<string>(), params: new Set<string>() },
    ]),
  );
  const add = (port: string, side: Side): void => {
    const [module = '', name = ''] = port.split('.');
    uses.get(module)?.[side].add(name);
  };
  for (const { from, to } of instrument.circuit.wires) {
    add(from, 'outputs');
    add(to, 'inputs');
  }
  for (const { bindings } of instrument.controls)
    for (const { module, param } of bindings) add(`${module}.${param}`, 'params');
  for (const { port, direction } of instrument.jacks)
    add(port, direction === 'in' ? 'inputs' : 'outputs');
  for (const { port } of instrument.matrix?.sources ?? []) add(port, 'outputs');
  for (const { port } of instrument.matrix?.destinations ?? []) add(port, 'inputs');
  return uses;
}

/** What a kind of module lacks of all that is used of the one in whose place it would stand. */
export function lacks(spec: ModuleSpec, uses: Uses, module: string): string[] {
  const used = uses.get(module);
  if (!used) return [];
  return (['inputs', 'outputs', 'params'] as const).flatMap((side) =>
    [...used[side]].filter((name) => !Object.hasOwn(spec[side], name)),
  );
}
