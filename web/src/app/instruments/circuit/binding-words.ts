import {
  type Control,
  type FittedTaper,
  formatPhysical,
  type Instrument,
  isSwitched,
  type Taper,
} from '@hurrel/core';

/** What a parameter of the circuit is called: cutoff of filter. */
export function paramName(
  instrument: Instrument,
  { module, param }: { module: string; param: string },
): string {
  const found = instrument.circuit.modules.find((m) => m.id === module);
  return `${param} of ${found?.name ?? module}`;
}

/** A taper in one line: 20 Hz to 18 kHz, by an even ratio. */
export function taperText(taper: Taper): string {
  const [lo, hi] =
    taper.kind === 'table' ? [taper.points[0]![1], taper.points.at(-1)![1]] : [taper.lo, taper.hi];
  const range = `${formatPhysical(lo, taper.unit)} to ${formatPhysical(hi, taper.unit)}`;
  return `${range}, ${WAYS[taper.kind]}`;
}
const WAYS: Record<Taper['kind'], string> = {
  linear: 'evenly',
  exponential: 'by an even ratio',
  table: 'through the places measured',
};

/** How far a fitted taper misses what was measured. */
export const missText = ({ worst, errors, taper }: FittedTaper): string =>
  worst < 0.0005
    ? 'through every place'
    : `misses by ${(100 * worst).toFixed(1)} % at most (${errors
        .map((e) => `${e > 0 ? '+' : ''}${formatPhysical(e, taper.unit)}`)
        .join(', ')})`;

/** What a control does, in one line; empty: nothing is said of it. */
export function bindingText(instrument: Instrument, control: Control): string {
  if (control.unheard) return 'nothing that is heard';
  if (isSwitched(control))
    return control.bindings.map((b) => paramName(instrument, b)).join(' and ');
  return control.bindings
    .map((b) => `${paramName(instrument, b)}, ${taperText(b.taper)}`)
    .join(' and ');
}
