import { checkup, type Finding, type Instrument, type Patch } from '@hurrel/core';
import { withFed } from './fed';
import type { CheckupWorker } from './messages';

let last: Instrument;

export const checkupJob: CheckupWorker = {
  async checkup({ instrument = last, patch }) {
    last = instrument;
    const [fed, missing] = await fedOrTold(patch);
    return [...missing, ...checkup(instrument, fed)];
  },
};

/** A patch with what it is fed with; where that cannot be had, without, and the finding that says so. */
async function fedOrTold(patch: Patch): Promise<[Patch, Finding[]]> {
  try {
    return [await withFed(patch), []];
  } catch (error) {
    const finding: Finding = {
      id: 'feed-missing',
      severity: 'wrong',
      title: 'What it is fed with is missing',
      why: (error as Error).message,
      controls: [],
    };
    return [patch, [finding]];
  }
}
