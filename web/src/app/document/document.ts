import type { Choose, Difference, Merge } from '@hurrel/core';

/** A document with what the server knows of it. */
export interface Stored<D> {
  id: string;
  version: number;
  updatedAt: string;
  document: D;
}

/** All that tells one kind of document from another. `C` is what it is shown with: an instrument, say. */
export interface DocumentKind<D, C> {
  /** Its word in keys and messages: `patch`. */
  name: string;
  /** Reads what was kept on this device; throws when it is none. */
  parse(source: unknown): D;
  read(id: string): Promise<{ stored: Stored<D>; context: C }>;
  /** An older version, for merging; a kind without a history has none. */
  readVersion?(id: string, version: number): Promise<D>;
  /** Writes on top of what was read. Throws an `ApiError`, a stale one with what is newer. */
  write(on: Stored<D>, document: D): Promise<Stored<D>>;
  /** Brings edits of both sides together; null where somebody has to decide. */
  merge?(base: D, mine: D, theirs: D): D | null;
  /** What is newer, out of a refusal of a stale write. */
  newer(refusal: unknown): Stored<D> | undefined;
}

/** How two states of a kind are compared and brought together. */
export interface DocumentSides<D> {
  differences(before: D, after: D): Difference[];
  merge(base: D | null, mine: D, theirs: D, choose?: Choose): Merge<D>;
}

/** The newest version is damaged on the server's disk: which one is whole. */
export interface Damage {
  head: number;
  whole: number | null;
}

/** Edits that the server has not acknowledged yet. */
export interface Draft<D> {
  /** Version that the edits were made on. */
  version: number;
  document: D;
}

/** How far the edits are kept. */
export type SaveState<D> =
  | { kind: 'saved' }
  | { kind: 'waiting' }
  | { kind: 'saving' }
  /** It waits; `reached`: the server answered, but could not store it. */
  | { kind: 'offline'; reached: boolean }
  | { kind: 'refused'; message: string }
  | { kind: 'conflict'; theirs: Stored<D> };

/** An open document. */
export interface DocumentState<D, C> {
  id: string | null;
  context: C | null;
  /** Newest version that the server is known to hold. */
  stored: Stored<D> | null;
  present: D | null;
  past: D[];
  future: D[];
  /** Gesture that made the newest step of the past. */
  gesture: string | null;
  /** The newest change was a step back or forward: the next may follow soon. */
  stepping: boolean;
  save: SaveState<D>;
  /** Edits since the last version that was kept. */
  changes: number;
  error: string | null;
  /** Why it could not be opened, where the disk is to blame. */
  damage: Damage | null;
}

export const closedDocument: DocumentState<never, never> = {
  id: null,
  context: null,
  stored: null,
  present: null,
  past: [],
  future: [],
  gesture: null,
  stepping: false,
  save: { kind: 'saved' },
  changes: 0,
  error: null,
  damage: null,
};
