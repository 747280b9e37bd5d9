import type { Instrument } from '../../instrument/schema';
import type { Patch, Setting } from '../../patch/schema';
import type { TimedNote } from '../../sequence/phrase';
import type { Bounds } from '../bounds';
import type { Graph, GraphNode } from '../graph';

/** `silent`: nothing is heard. `wrong`: heard, but hardly as meant. `idle`: a control that changes nothing. */
export type Severity = 'silent' | 'wrong' | 'idle';

/** The smallest change that mends a finding; null takes a setting away. */
export interface Mend {
  text: string;
  settings: Record<string, Setting | null>;
  /** Cables to pull out. */
  pull?: string[];
}

export interface Finding {
  /** What was found, and where: stable while the fault lasts. */
  id: string;
  severity: Severity;
  title: string;
  why: string;
  /** Controls concerned, the one to look at first in front. */
  controls: string[];
  mend?: Mend;
}

/** What the doctor's examinations share. */
export interface Case {
  instrument: Instrument;
  patch: Patch;
  graph: Graph;
  bounds: Bounds;
  notes: readonly TimedNote[];
}

/** A control in the panel's words: section and name. */
export function controlLabel(instrument: Instrument, id: string): string {
  const control = instrument.controls.find((c) => c.id === id);
  const section = instrument.sections.find((s) => s.id === control?.section);
  return control ? `${section?.name ?? ''} ${control.name}`.trim() : id;
}

/** A module's parameter in the panel's words, or by the module's name when no control sets it. */
export function paramLabel(c: Case, node: GraphNode, param: string): string {
  const control = node.controls[param];
  return control ? controlLabel(c.instrument, control) : `${node.name} ${param}`;
}
