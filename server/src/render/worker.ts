import { compile, encodeWav, prune, render } from '@hurrel/core';
import type { RenderJob } from './renderer';

/** Renders one job to a WAV file; runs in a thread of its own. */
export default function renderWav(job: RenderJob): Uint8Array {
  const graph = prune(compile(job.instrument, job.patch), job.notes);
  const { samples } = render(graph, job);
  return encodeWav(samples, job.sampleRate, job.format);
}
