import type { Program } from '@hurrel/core';

/** By controller number, the value that was sent last, and when in ms. */
export type Sent = ReadonlyMap<number, { sent: number; at: number }>;

/** The program that was chosen last, and when in ms. */
export type Chosen = Program & { at: number };

/** What was heard of a panel: of controls only what was moved after a place of its memory was chosen. */
export interface HeardOf {
  moved: Sent;
  loaded?: Chosen;
}
