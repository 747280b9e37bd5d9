import type { Instrument, KeysDo, Patch } from '@hurrel/core';

/** A patch that is heard, and the panel it is on. */
export interface Heard {
  id: string;
  instrument: Instrument;
  patch: Patch;
  /** Where it is opened, when it is no patch of the library. */
  link?: string[];
}

/** What keys that are pressed do: what the audio thread knows of, or they move the running pattern. */
export type KeysUse = KeysDo | 'move';
