/// <reference lib="webworker" />
import { expose } from 'comlink';
import { straightenJob } from '../app/instruments/photograph/straighten.job';
import { runJob } from '../app/sequence/run.job';
import { mixJob } from '../app/sessions/mix.job';
import { eveningJob } from '../app/sets/evening.job';
import { checkupJob } from '../app/sound/checkup.job';
import { matchJob } from '../app/sound/match.job';
import { measureJob } from '../app/sound/measure.job';
import { previewJob } from '../app/sound/preview.job';
import { sensitivityJob } from '../app/sound/sensitivity.job';
import { travelJob } from '../app/sound/travel.job';
import { voltsJob } from '../app/sound/volts.job';
import { stageJob } from '../app/stage/stage.job';
import type { JobName } from '../app/workers/start';

/** What a worker can be asked, by the name that it is started with. One file for all: it is loaded and read once. */
const jobs = {
  match: matchJob,
  sensitivity: sensitivityJob,
  preview: previewJob,
  measure: measureJob,
  travel: travelJob,
  volts: voltsJob,
  checkup: checkupJob,
  run: runJob,
  mix: mixJob,
  straighten: straightenJob,
  evening: eveningJob,
  stage: stageJob,
} satisfies Record<JobName, object>;

expose(jobs[self.name as JobName]);
