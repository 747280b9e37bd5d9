import {
  channelsOf,
  checkup,
  compile,
  decodeWav,
  encodeWav,
  fedSoundOf,
  type Patch,
  planRebuild,
  prune,
  render,
  type WithFed,
} from '@hurrel/core';
import { makeBooklet } from '../sheet/booklet';
import { makeSheet } from '../sheet/sheet';
import type { JobName, Jobs, PlayedJob } from './jobs';

/** A patch with the samples of what it is fed with. */
function withFed({ patch, wav }: PlayedJob): Patch & WithFed {
  if (!wav) return patch;
  const { channels, sampleRate } = decodeWav(wav);
  const fed = fedSoundOf(channels, sampleRate);
  return fed ? { ...patch, fed } : patch;
}

const jobs: Jobs = {
  /** A WAV file, in stereo where its sides differ. */
  render(job) {
    const graph = prune(compile(job.instrument, withFed(job)), job.notes);
    const rendering = render(graph, { ...job, tempo: job.patch.tempo, stereo: true });
    return encodeWav(channelsOf(rendering), job.sampleRate, job.format);
  },
  check: (job) => checkup(job.instrument, withFed(job), job.notes),
  rebuild: ({ instrument, before, patch, unit }) =>
    planRebuild(instrument, before, patch, undefined, unit),
  sheet: (content) => makeSheet(content),
  booklet: (content) => makeBooklet(content),
};

/** Does one job; runs in a thread of its own. */
export default function work({ name, given }: { name: JobName; given: never }): unknown {
  return jobs[name](given);
}
