import type { Control, Instrument, SwitchedControl } from './schema';

export const isSwitched = (control: Control): control is SwitchedControl => 'positions' in control;

/**
 * Whether the circuit behind a panel is described as far as where sound leaves it. Without one it is recorded, compared and
 * rebuilt, and not heard.
 */
export const hasCircuit = ({ circuit, rack }: Pick<Instrument, 'circuit' | 'rack'>): boolean =>
  [circuit, ...(rack?.placed ?? []).map((p) => rack?.types.find((t) => t.id === p.type))].some(
    (of) => of?.modules.some((m) => m.kind === 'output'),
  );
