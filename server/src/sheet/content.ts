import type { Instrument, Patch, RebuildPlan } from '@hurrel/core';

/** What a sheet is made of. */
export interface SheetContent {
  instrument: Instrument;
  patch: Patch;
  plan: RebuildPlan;
  /** What the panel shows before, in words. */
  from: string;
  version: number;
  /** Whose readings these are, where they are not those that were recorded. */
  readingsOf?: string;
  /** What that unit does not reach as recorded, control by control, in words. */
  notReached?: string[];
}
