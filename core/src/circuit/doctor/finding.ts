import type { Setting } from '../../reading/setting';
import { controlLabel } from '../../instrument/control-name';
import type { Instrument } from '../../instrument/schema';
import type { Cable, MatrixRow, Patch } from '../../patch/schema';
import type { TimedNote } from '../../pattern/timed';
import type { Bounds } from '../bounds';
import type { Graph, GraphNode } from '../graph';

/**
 * `silent`: nothing is heard. `wrong`: heard, but hardly as meant. `hint`: heard, and worth a look. `idle`: something set
 * that changes nothing.
 */
export type Severity = 'silent' | 'wrong' | 'hint' | 'idle';

/** The smallest change that mends a finding; null takes a setting away. */
export interface Mend {
  text: string;
  settings: Record<string, Setting | null>;
  /** Cables to pull out. */
  pull?: string[];
  /** Cables to put in. */
  plug?: Cable[];
  /** Matrix rows to set; depth 0 empties one. */
  rows?: MatrixRow[];
}

export interface Finding {
  /** What was found, and where: stable while the fault lasts. */
  id: string;
  severity: Severity;
  title: string;
  why: string;
  /** Controls concerned, the one to look at first in front. */
  controls: string[];
  /** Cables concerned. */
  cables?: string[];
  mend?: Mend;
  /** Further mends, for where the first one does not help. */
  others?: Mend[];
  /** It is meant so, and why: what the patch says of it. */
  meant?: string;
}

/** What the doctor's examinations share. */
export interface Case {
  instrument: Instrument;
  patch: Patch;
  graph: Graph;
  bounds: Bounds;
  notes: readonly TimedNote[];
}

/** A module's parameter in the panel's words, or by the module's name when no control sets it. */
export function paramLabel(c: Case, node: GraphNode, param: string): string {
  const control = node.controls[param];
  return control ? controlLabel(c.instrument, control) : `${node.name} ${param}`;
}
