import { checkup, type Instrument } from '@hurrel/core';
import { withFed } from './fed';
import type { CheckupWorker } from './messages';

let last: Instrument;

export const checkupJob: CheckupWorker = {
  async checkup({ instrument = last, patch }) {
    last = instrument;
    return checkup(instrument, await withFed(patch));
  },
};
