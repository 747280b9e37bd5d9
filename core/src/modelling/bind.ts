import { isModuleKind, moduleSpec } from '../catalogue';
import type { NumberParam, ParamSpec, SignalKind } from '../catalogue/spec';
import type { Jack } from '../instrument/jack';
import type { Control, Instrument, Taper } from '../instrument/schema';
import { physicalUnitSchema } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { printedTaper } from '../reading/printed-taper';
import { taperValue } from '../reading/taper';
import { onlyWhatIsThere } from '../instrument/still-there';

/** Something of the circuit that a control can turn. */
export interface Turnable {
  module: string;
  /** What the module is called. */
  name: string;
  param: string;
  spec: ParamSpec;
  /** The control that turns it already. */
  by?: string;
}

/** Every parameter of the circuit, module by module. */
export function turnables(instrument: Instrument): Turnable[] {
  const by = new Map(
    instrument.controls.flatMap((c) => c.bindings.map((b) => [`${b.module}.${b.param}`, c.id])),
  );
  return instrument.circuit.modules.flatMap((module) => {
    if (!isModuleKind(module.kind)) return [];
    return Object.entries(moduleSpec(module.kind).params).map(([param, spec]): Turnable => {
      const control = by.get(`${module.id}.${param}`);
      return {
        module: module.id,
        name: module.name ?? module.id,
        param,
        spec,
        ...(control === undefined ? {} : { by: control }),
      };
    });
  });
}

/** Whether a kind of control can turn a parameter: what turns sets numbers, what is switched sets either. */
export const canTurn = (control: Control, { spec }: Pick<Turnable, 'spec'>): boolean =>
  isSwitched(control) ||
  (spec.kind === 'number' && physicalUnitSchema.safeParse(spec.unit).success);

/**
 * A binding to begin with: what turns goes as its panel says in units, else from end to end of the parameter, by ratio for
 * frequencies and times; positions take its choices in their order, or even steps of it.
 */
export function firstBinding(
  control: Control,
  { module, param, spec }: Turnable,
): Control['bindings'][number] {
  if (isSwitched(control)) {
    const count = control.positions.length;
    const value = (i: number): number | string =>
      spec.kind === 'choice'
        ? spec.choices[Math.min(i, spec.choices.length - 1)]!
        : spec.lo + (i / Math.max(1, count - 1)) * (spec.hi - spec.lo);
    const values = Object.fromEntries(control.positions.map((p, i) => [p.id, value(i)]));
    return { module, param, values };
  }
  const printed = printedTaper(control, spec as NumberParam, param);
  const taper = printed && 'taper' in printed ? printed.taper : wholeTaper(spec as NumberParam);
  return { module, param, taper };
}

function wholeTaper({ unit, lo, hi }: NumberParam): Taper {
  const known = physicalUnitSchema.safeParse(unit);
  const physical = known.success ? known.data : '';
  const byRatio = (physical === 'Hz' || physical === 's') && hi / Math.max(lo, 1e-9) > 50;
  if (!byRatio) return { kind: 'linear', lo, hi, unit: physical };
  return {
    kind: 'exponential',
    lo: lo > 0 ? lo : physical === 's' ? 0.001 : 0.01,
    hi,
    unit: physical,
  };
}

/** What the numbers of a panel say of something that a control turns, where that is not what it does. */
export type PrintDiffers = { taper: Taper } | { why: string };

/** @returns undefined when the panel names no unit, or says what is the case */
export function printDiffers(
  control: Control,
  binding: Control['bindings'][number],
  spec: ParamSpec,
): PrintDiffers | undefined {
  if (isSwitched(control) || !('taper' in binding) || spec.kind !== 'number') return undefined;
  const printed = printedTaper(control, spec, binding.param, binding.reads);
  if (!printed || 'why' in printed) return printed;
  const { taper } = printed;
  const wide = Math.abs(taperValue(taper, 1) - taperValue(taper, 0));
  const same = [0, 0.25, 0.5, 0.75, 1].every(
    (p) => Math.abs(taperValue(taper, p) - taperValue(binding.taper, p)) <= 0.001 * wide,
  );
  return same ? undefined : { taper };
}

/** The instrument with what a control turns; whatever turned the same before lets it go. */
export function withBindings(
  instrument: Instrument,
  control: string,
  bindings: Control['bindings'],
): Instrument {
  const taken = new Set(bindings.map((b) => `${b.module}.${b.param}`));
  return onlyWhatIsThere({
    ...instrument,
    controls: instrument.controls.map((c) => {
      if (c.id === control) {
        const { unheard: _, ...rest } = c;
        return { ...rest, bindings } as Control;
      }
      const left = (c.bindings as Control['bindings']).filter(
        (b: { module: string; param: string }) => !taken.has(`${b.module}.${b.param}`),
      );
      return left.length === c.bindings.length ? c : ({ ...c, bindings: left } as Control);
    }),
  });
}

/** The instrument with a control that does nothing that is heard, or of which that is not said any more. */
export const withUnheard = (
  instrument: Instrument,
  control: string,
  unheard: boolean,
): Instrument => ({
  ...instrument,
  controls: instrument.controls.map((c) => {
    if (c.id !== control) return c;
    const { unheard: _, ...rest } = c;
    return (unheard ? { ...rest, unheard: true, bindings: [] } : rest) as Control;
  }),
});

/** A port that a jack can lead to. */
export interface JackPort {
  /** As in a file: `filter.cutoff`. */
  port: string;
  /** What its module is called, and the port itself. */
  module: string;
  name: string;
  /** It carries what the jack says that it carries. */
  fits: boolean;
}

const CARRIES: Record<Jack['signal'], SignalKind> = {
  audio: 'audio',
  pitch: 'pitch',
  modulation: 'modulation',
  gate: 'gate',
  's-trigger': 'gate',
  clock: 'gate',
};

/** Every port of the circuit on the jack's side: those that carry the same first. */
export function jackPorts(instrument: Instrument, jack: Jack): JackPort[] {
  const all = instrument.circuit.modules.flatMap((module) => {
    if (!isModuleKind(module.kind)) return [];
    const { inputs, outputs } = moduleSpec(module.kind);
    const ports = Object.entries(jack.direction === 'in' ? inputs : outputs);
    // A reading in Hz is no voltage, and leads nowhere.
    return ports
      .filter(([name]) => name !== 'hz')
      .map(([name, kind]): JackPort => ({
        port: `${module.id}.${name}`,
        module: module.name ?? module.id,
        name,
        fits: kind === CARRIES[jack.signal],
      }));
  });
  return all.sort((a, b) => Number(b.fits) - Number(a.fits));
}

/** The instrument with a jack that leads to a port, or nowhere that is said: `''`. */
export const withJackPort = (instrument: Instrument, jack: string, port: string): Instrument =>
  onlyWhatIsThere({
    ...instrument,
    jacks: instrument.jacks.map((j) => (j.id === jack ? { ...j, port } : j)),
  });
