import { isModuleKind, moduleSpec } from '../catalogue';
import type { Control, Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { taperBounds, taperPosition } from '../reading/taper';

/**
 * Where each control stands for the circuit to be as it is described: the module's own value, or its kind's. Circuits are
 * described as they sound plainly, so that this is a panel that sounds.
 * @returns a position for every control that turns something; of several parameters the first decides
 */
export function plainPositions(instrument: Instrument): Record<string, Value> {
  const modules = new Map(instrument.circuit.modules.map((m) => [m.id, m]));
  const own = (module: string, param: string): number | string | undefined => {
    const found = modules.get(module);
    if (!found || !isModuleKind(found.kind)) return undefined;
    return found.params[param] ?? moduleSpec(found.kind).params[param]?.default;
  };
  return Object.fromEntries(
    instrument.controls.flatMap((control): [string, Value][] => {
      const [bound] = control.bindings;
      const value = bound && own(bound.module, bound.param);
      if (value === undefined) return [];
      const position = positionAt(control, value);
      return position === undefined ? [] : [[control.id, position]];
    }),
  );
}

function positionAt(control: Control, value: number | string): Value | undefined {
  if (!isSwitched(control)) {
    const { taper } = control.bindings[0]!;
    const [lo, hi] = taperBounds(taper);
    return taperPosition(taper, Math.min(hi, Math.max(lo, Number(value))));
  }
  const { values } = control.bindings[0]!;
  const miss = (id: string): number => {
    const at = values[id];
    if (typeof value === 'number' && typeof at === 'number') return Math.abs(at - value);
    return at === value ? 0 : Infinity;
  };
  const [best] = control.positions.map((p) => p.id).sort((a, b) => miss(a) - miss(b));
  return best !== undefined && miss(best) < Infinity ? best : undefined;
}

/** The instrument with a plain sounding patch to begin from, where none is said yet. */
export const withPlainInit = (instrument: Instrument): Instrument =>
  Object.keys(instrument.init.settings).length > 0
    ? instrument
    : {
        ...instrument,
        init: {
          note: 'The circuit as it is described.',
          settings: plainPositions(instrument),
        },
      };
