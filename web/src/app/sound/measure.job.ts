import {
  channelsOf,
  compile,
  decodeWav,
  encodeWav,
  factsOf,
  measureValue,
  prune,
  render,
  WavError,
} from '@hurrel/core';
import { withFed } from './fed';
import type { MeasureWorker } from './messages';

const RATE = 48000;
const HELD = 2.5;
const SECONDS = 4;

/** Longest stretch of a recording that one value is read off, in seconds. */
const LONGEST = 30;

export const measureJob: MeasureWorker = {
  value({ wav, what, played }) {
    try {
      const { channels, sampleRate } = decodeWav(wav);
      const some = channels.map((c) => c.subarray(0, LONGEST * sampleRate));
      return measureValue(what, some, sampleRate, played);
    } catch (error) {
      if (error instanceof WavError) return { ok: false, message: error.message };
      throw error;
    }
  },
  async measure({ subject, format }) {
    if ('channels' in subject) return { facts: factsOf(subject.channels, subject.sampleRate) };
    const { instrument, patch, note } = subject;
    const notes = [{ start: 0, duration: HELD, note, velocity: 100 }];
    const graph = prune(compile(instrument, await withFed(patch)), notes);
    const rendering = render(graph, {
      sampleRate: RATE,
      seconds: SECONDS,
      notes,
      tempo: patch.tempo,
      stereo: true,
    });
    const channels = channelsOf(rendering);
    return {
      facts: factsOf(channels, RATE, HELD),
      ...(format ? { wav: encodeWav(channels, RATE, format) } : {}),
    };
  },
};
