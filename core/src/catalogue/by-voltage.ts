import type { Interval } from './interval';
import type { ByVoltage, ModuleSpec, NumberParam, SignalKind } from './spec';

/**
 * Inputs that move parameters, by the names of both: `{ resonance: 0.2 }` is a fifth of its range a volt.
 * An input that moves several is `{ times: ['attack', 'release'] }`, an octave a volt.
 */
export function underVoltage<T extends Record<string, number | 'octaves' | readonly string[]>>(
  moves: T,
): { inputs: Record<keyof T, SignalKind>; byVoltage: Record<keyof T, ByVoltage> } {
  const each = <V>(of: (name: string, how: T[keyof T]) => V): Record<keyof T, V> =>
    Object.fromEntries(
      Object.entries(moves).map(([name, how]) => [name, of(name, how as T[keyof T])]),
    ) as Record<keyof T, V>;
  return {
    inputs: each(() => 'modulation'),
    byVoltage: each((name, how) =>
      typeof how === 'object'
        ? { params: how, by: 'octaves' }
        : { params: [name], by: how as number | 'octaves' },
    ),
  };
}

/** Where voltages move a parameter to, held within its range. @param moves volts and how they count */
export function movedBy(
  value: number,
  { lo, hi }: Pick<NumberParam, 'lo' | 'hi'>,
  moves: readonly { volts: number; by: number | 'octaves' }[],
): number {
  let moved = value;
  for (const { volts, by } of moves)
    moved = by === 'octaves' ? moved * 2 ** volts : moved + by * volts;
  return Math.min(hi, Math.max(lo, moved));
}

/** The inputs of a module that move a parameter. */
export const moversOf = (spec: ModuleSpec, param: string): string[] =>
  Object.entries(spec.byVoltage ?? {}).flatMap(([port, { params }]) =>
    params.includes(param) ? [port] : [],
  );

/** From where to where the voltages that come in can move a parameter. */
export function movedInterval(
  spec: ModuleSpec,
  param: string,
  value: number,
  input: (port: string) => Interval,
): Interval {
  const about = spec.params[param] as NumberParam;
  const ports = moversOf(spec, param);
  const at = (end: 0 | 1): number =>
    movedBy(
      value,
      about,
      ports.map((port) => ({ volts: input(port)[end], by: spec.byVoltage![port]!.by })),
    );
  return [at(0), at(1)];
}
