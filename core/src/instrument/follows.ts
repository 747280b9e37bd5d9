import type { Control, Instrument } from './schema';

/** What hands and feet move while they play. */
type Followed = 'wheel' | 'bend' | 'pressure' | 'pedal';

/** The control of a panel that is what a hand moves while it plays: its wheel, its pedal. */
export function controlThatFollows(
  { circuit, controls }: Pick<Instrument, 'circuit' | 'controls'>,
  what: Followed,
): Control | undefined {
  const modules = circuit.modules.filter(
    (m) => m.kind === 'controller' && m.params['follows'] === what,
  );
  return controls.find((c) =>
    c.bindings.some((b) => b.param === 'position' && modules.some((m) => m.id === b.module)),
  );
}
