import { checkup, openFindings, tellingNote } from '@hurrel/core';
import type { StageWorker } from './messages';

export const stageJob: StageWorker = {
  doctor: ({ face, patch }) =>
    openFindings(checkup(face, patch))
      .filter((f) => f.severity !== 'idle')
      .map((f) => f.title),
  tell: ({ face, patch, steps }) => tellingNote(face, patch, steps),
};
