/// <reference lib="webworker" />
import { compile, createEngine, FULL_SCALE_VOLTS, prune } from '@hurrel/core';
import type { PlayChunk, PlayRequest } from './messages';

const BLOCK = 64;
/** Blocks of a chunk: about a sixth of a second, so that the first is heard at once. */
const BLOCKS = 125;

addEventListener('message', ({ data }: MessageEvent<PlayRequest>) => {
  const { instrument, patch, notes, seconds, sampleRate } = data;
  const graph = prune(compile(instrument, patch), notes);
  const engine = createEngine(graph, { sampleRate, notes, tempo: patch.tempo });
  const out = engine.port(graph.output, 'out');
  const total = Math.ceil((seconds * sampleRate) / BLOCK);
  for (let from = 0; from < total; from += BLOCKS) {
    const blocks = Math.min(BLOCKS, total - from);
    const samples = new Float32Array(blocks * BLOCK);
    for (let b = 0; b < blocks; b++) {
      engine.advance(BLOCK);
      for (let i = 0; i < BLOCK; i++) samples[b * BLOCK + i] = out[i]! / FULL_SCALE_VOLTS;
    }
    const chunk: PlayChunk = { samples, done: from + blocks >= total };
    postMessage(chunk, { transfer: [samples.buffer] });
  }
});
