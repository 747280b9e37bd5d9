import { isModuleKind, moduleSpec } from '../catalogue';
import type { Instrument, Wire } from '../instrument/schema';
import { MOST_WIRES } from '../instrument/limits';
import { onlyWhatIsThere } from '../instrument/still-there';

/** The two ends of a wire, as in a file: `oscillator.saw` and `mixer.in1`. */
export type WireEnds = Pick<Wire, 'from' | 'to'>;

/** Why two ports cannot be wired; null when they can. */
export function wireFault(instrument: Instrument, { from, to }: WireEnds): string | null {
  const { modules, wires } = instrument.circuit;
  const has = (port: string, side: 'inputs' | 'outputs'): boolean => {
    const [id = '', name = ''] = port.split('.');
    const kind = modules.find((m) => m.id === id)?.kind ?? '';
    return isModuleKind(kind) && Object.hasOwn(moduleSpec(kind)[side], name);
  };
  if (!has(from, 'outputs')) return `A wire begins at an output: ${from} is none.`;
  if (!has(to, 'inputs')) return `A wire ends at an input: ${to} is none.`;
  if (from.endsWith('.hz')) return `${from} is a reading in Hz, not a voltage: it cannot be wired.`;
  if (wires.some((w) => w.from === from && w.to === to)) return `${from} leads to ${to} already.`;
  return wires.length >= MOST_WIRES ? `A circuit has ${MOST_WIRES} wires at most.` : null;
}

/**
 * The instrument with one more wire. Several into one input add.
 * @throws Error when the two cannot be wired
 */
export function withWire(instrument: Instrument, ends: WireEnds): Instrument {
  const fault = wireFault(instrument, ends);
  if (fault !== null) throw new Error(fault);
  return withWires(instrument, (wires) => [...wires, { from: ends.from, to: ends.to }]);
}

export const withoutWire = (instrument: Instrument, { from, to }: WireEnds): Instrument =>
  withWires(instrument, (wires) => wires.filter((w) => w.from !== from || w.to !== to));

/** The instrument with a wire that a plug in a jack breaks, or that nothing breaks. */
export const withNormal = (
  instrument: Instrument,
  { from, to }: WireEnds,
  jack: string | null,
): Instrument =>
  withWires(instrument, (wires) =>
    wires.map((w) =>
      w.from !== from || w.to !== to
        ? w
        : { from, to, ...(jack === null ? {} : { normalOf: jack }) },
    ),
  );

const withWires = (instrument: Instrument, change: (wires: Wire[]) => Wire[]): Instrument =>
  onlyWhatIsThere({
    ...instrument,
    circuit: { ...instrument.circuit, wires: change(instrument.circuit.wires) },
  });
