import { type Choose, type Keyed, type Merge, mergeDocuments } from '../document';
import type { Patch } from './schema';

/** What of a patch is merged entry by entry: control by control, cable by cable, pattern by pattern. */
const KEYED: Keyed<Patch> = {
  settings: null,
  notes: null,
  ends: null,
  meant: null,
  cables: (cable: { id: string }) => cable.id,
  outboard: (thing: { id: string }) => thing.id,
  variations: (variation: { id: string }) => variation.id,
  patterns: (pattern: { id: string }) => pattern.id,
  matrix: (row: { row: number }) => String(row.row),
};

/** Merges two changes of one patch, control by control. */
export const mergePatches = (
  base: Patch | null,
  mine: Patch,
  theirs: Patch,
  choose?: Choose,
): Merge<Patch> => mergeDocuments(KEYED, base, mine, theirs, choose);
