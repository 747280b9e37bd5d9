import { isModuleKind, moduleSpec } from '../catalogue';
import { MOST_DESTINATIONS, MOST_SOURCES } from '../instrument/limits';
import type { Matrix } from '../instrument/matrix';
import type { Instrument } from '../instrument/schema';
import { onlyWhatIsThere } from '../instrument/still-there';
import { idFrom } from '../outline/ids';
import { portNames } from './read-wire';

type Side = 'sources' | 'destinations';

/** What a full depth adds at a port, in V for each V of the source, as it is usual: a pitch moves by an octave a volt. */
const FULL = 1;
/** Parts of the circuit that usually begin a row. */
const MOVES = new Set(['modulator', 'keys']);
const DESTINATION = /^(cutoff|mod|pitch|width|cv|rate|fm|fold|index|pan)$/;

/**
 * The instrument with a matrix of eight rows: it begins with all that moves in the circuit, and ends at all that is moved.
 * @throws Error when the circuit has neither
 */
export function withMatrix(instrument: Instrument): Instrument {
  const families = new Map(
    instrument.circuit.modules.flatMap((m) =>
      isModuleKind(m.kind) ? [[m.id, moduleSpec(m.kind).family] as [string, string]] : [],
    ),
  );
  const moduleOf = (port: string): string => port.slice(0, port.indexOf('.'));
  const nameOf = (port: string): string => port.slice(port.indexOf('.') + 1);
  let matrix: Matrix = {
    rows: 8,
    ...{ sources: [], destinations: [], fixed: [], route: [] },
    depth: { most: 100, step: 1, unit: '%' },
  };
  for (const { port, text } of portNames(instrument, 'outputs'))
    if (MOVES.has(families.get(moduleOf(port)) ?? '') && !/gate|trigger/.test(nameOf(port)))
      matrix = ended(matrix, 'sources', port, text);
  for (const { port, text } of portNames(instrument, 'inputs'))
    if (DESTINATION.test(nameOf(port))) matrix = ended(matrix, 'destinations', port, text);
  if (matrix.sources.length === 0 || matrix.destinations.length === 0)
    throw new Error('The circuit has nothing that moves, or nothing to be moved: add that first.');
  return onlyWhatIsThere({ ...instrument, matrix });
}

export function withoutMatrix(instrument: Instrument): Instrument {
  const { matrix: _, ...rest } = instrument;
  return rest;
}

/** The instrument with something of its matrix said otherwise. */
export const withMatrixSaid = (instrument: Instrument, said: Partial<Matrix>): Instrument =>
  instrument.matrix ? { ...instrument, matrix: { ...instrument.matrix, ...said } } : instrument;

/** The instrument with a port as one more source or destination of its matrix; there already, it is left out. */
export function withMatrixEnd(instrument: Instrument, side: Side, port: string): Instrument {
  const { matrix } = instrument;
  if (!matrix) return instrument;
  const there = matrix[side].find((end) => end.port === port);
  const names = portNames(instrument, side === 'sources' ? 'outputs' : 'inputs');
  const text = names.find((p) => p.port === port)?.text;
  if (!there)
    return text
      ? onlyWhatIsThere({ ...instrument, matrix: ended(matrix, side, port, text) })
      : instrument;
  const left: Matrix = {
    ...matrix,
    [side]: matrix[side].filter((end) => end !== there),
    fixed: matrix.fixed.filter(
      (row) => (side === 'sources' ? row.source : row.destination) !== there.id,
    ),
  };
  // Rows join something with something.
  return left[side].length > 0 ? { ...instrument, matrix: left } : instrument;
}

const MOST: Record<Side, number> = { sources: MOST_SOURCES, destinations: MOST_DESTINATIONS };

function ended(matrix: Matrix, side: Side, port: string, text: string): Matrix {
  const list = matrix[side];
  if (list.length >= MOST[side]) return matrix;
  const name = text.replace(/^out of /, '').slice(0, 80);
  let id = idFrom(name);
  for (let n = 2; list.some((end) => end.id === id); n++) id = `${idFrom(name)}-${n}`;
  return side === 'sources'
    ? { ...matrix, sources: [...matrix.sources, { id, name, port }] }
    : { ...matrix, destinations: [...matrix.destinations, { id, name, port, full: FULL }] };
}
