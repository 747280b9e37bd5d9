/// <reference lib="webworker" />
import { expose, transfer } from 'comlink';
import { compile, createEngine, FULL_SCALE_VOLTS, prune } from '@hurrel/core';
import type { PlayWorker } from './messages';

const BLOCK = 64;
/** Blocks of a chunk: about a sixth of a second, so that the first is heard at once. */
const BLOCKS = 125;

expose({
  async play({ instrument, patch, notes, seconds, sampleRate }, tell) {
    const graph = prune(compile(instrument, patch), notes);
    const engine = createEngine(graph, { sampleRate, notes, tempo: patch.tempo });
    const out = engine.port(graph.output, 'out');
    const total = Math.ceil((seconds * sampleRate) / BLOCK);
    const taken: unknown[] = [];
    for (let from = 0; from < total; from += BLOCKS) {
      const blocks = Math.min(BLOCKS, total - from);
      const samples = new Float32Array(blocks * BLOCK);
      for (let b = 0; b < blocks; b++) {
        engine.advance(BLOCK);
        for (let i = 0; i < BLOCK; i++) samples[b * BLOCK + i] = out[i]! / FULL_SCALE_VOLTS;
      }
      const done = from + blocks >= total;
      taken.push(tell(transfer({ samples, done }, [samples.buffer])));
    }
    await Promise.all(taken);
  },
} satisfies PlayWorker);
