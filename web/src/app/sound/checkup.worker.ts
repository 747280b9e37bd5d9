/// <reference lib="webworker" />
import { expose } from 'comlink';
import { checkup, type Instrument } from '@hurrel/core';
import type { CheckupWorker } from './messages';

let last: Instrument;

expose({
  async checkup({ instrument = last, patch }) {
    last = instrument;
    return checkup(instrument, patch);
  },
} satisfies CheckupWorker);
