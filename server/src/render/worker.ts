import { channelsOf, compile, encodeWav, prune, render } from '@hurrel/core';
import type { RenderJob } from './renderer';

/** Renders one job to a WAV file, in stereo where its sides differ; runs in a thread of its own. */
export default function renderWav(job: RenderJob): Uint8Array {
  const graph = prune(compile(job.instrument, job.patch), job.notes);
  const rendering = render(graph, { ...job, tempo: job.patch.tempo, stereo: true });
  return encodeWav(channelsOf(rendering), job.sampleRate, job.format);
}
