/// <reference lib="webworker" />
import { channelsOf, compile, encodeWav, factsOf, prune, render } from '@hurrel/core';
import type { MeasureAnswer, MeasureRequest } from './messages';

const RATE = 48000;
const HELD = 2.5;
const SECONDS = 4;

addEventListener('message', ({ data }: MessageEvent<MeasureRequest>) => {
  const { subject, format } = data;
  if ('channels' in subject) {
    const facts = factsOf(subject.channels, subject.sampleRate);
    return postMessage({ facts } satisfies MeasureAnswer);
  }
  const { instrument, patch, note } = subject;
  const notes = [{ start: 0, duration: HELD, note, velocity: 100 }];
  const graph = prune(compile(instrument, patch), notes);
  const rendering = render(graph, {
    sampleRate: RATE,
    seconds: SECONDS,
    notes,
    tempo: patch.tempo,
    stereo: true,
  });
  const channels = channelsOf(rendering);
  postMessage({
    facts: factsOf(channels, RATE, HELD),
    ...(format ? { wav: encodeWav(channels, RATE, format) } : {}),
  } satisfies MeasureAnswer);
});
