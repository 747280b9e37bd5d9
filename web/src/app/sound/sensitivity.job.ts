import { openSensitivityCase, sensitivityOf } from '@hurrel/core';
import { withFed } from './fed';
import type { SensitivityWorker } from './messages';

export const sensitivityJob: SensitivityWorker = {
  async sensitivities({ instrument, patch, note, controls }, tell) {
    const opened = openSensitivityCase(instrument, await withFed(patch), note);
    await Promise.all(controls.map((id) => tell(sensitivityOf(opened, id))));
  },
};
