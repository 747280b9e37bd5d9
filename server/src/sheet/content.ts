import type { Instrument, Patch, RebuildPlan } from '@hurrel/core';

/** What a sheet is made of. */
export interface SheetContent {
  instrument: Instrument;
  patch: Patch;
  plan: RebuildPlan;
  /** What the panel shows before, in words. */
  from: string;
  version: number;
}
