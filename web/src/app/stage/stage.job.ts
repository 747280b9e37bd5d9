import { checkup, openFindings, tellingNote } from '@hurrel/core';
import { withFed } from '../sound/fed';
import type { StageWorker } from './messages';

export const stageJob: StageWorker = {
  doctor: async ({ face, patch }) =>
    openFindings(checkup(face, await withFed(patch)))
      .filter((f) => f.severity !== 'idle')
      .map((f) => f.title),
  tell: async ({ face, patch, steps }) => tellingNote(face, await withFed(patch), steps),
};
