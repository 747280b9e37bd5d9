import { compile } from '../core/src/circuit/compile';
import type { Graph } from '../core/src/circuit/graph';
import { instrumentSchema } from '../core/src/instrument/schema';
import { patchSchema } from '../core/src/patch/schema';
import { LiveSound } from '../core/src/sound/live';
import type { LiveMessage } from '../core/src/sound/live-message';
import { expect, test } from './app';

/** Two voices' worth of everything that could differ between machines: sines, exponentials, filters, noise, effects. */
const messages = (graph: unknown): LiveMessage[] => [
  { type: 'graph', side: 'a', graph: graph as Graph, tempo: 118 },
  { type: 'act', act: 1, note: 45, value: 100 },
];

test('the audio thread gives the same samples as the engine does here', async ({ page, api }) => {
  const id = await api.idOf('Low Tide thread');
  const stored = await api.get<{ patch: { instrument: string } }>(`/patches/${id}`);
  const instrument = await api.get(`/instruments/${stored.patch.instrument}`);
  const graph = compile(instrumentSchema.parse(instrument), patchSchema.parse(stored.patch));
  const told = messages(JSON.parse(JSON.stringify(graph)));
  const length = 128 * 300;

  const live = new LiveSound(48000);
  for (const message of told) live.receive(message);
  const [left, right] = [new Float32Array(length), new Float32Array(length)];
  for (let at = 0; at < length; at += 128) {
    live.process(left.subarray(at, at + 128), right.subarray(at, at + 128), 128);
  }
  expect(left.some((v) => Math.abs(v) > 0.01)).toBe(true);

  await page.goto('/library');
  const there = await page.evaluate(
    async ({ told, length }) => {
      const context = new OfflineAudioContext(2, length, 48000);
      await context.audioWorklet.addModule('audio/live-processor.js');
      const node = new AudioWorkletNode(context, 'hurrel-live', {
        numberOfInputs: 0,
        outputChannelCount: [2],
        processorOptions: { messages: told },
      });
      node.connect(context.destination);
      const sound = await context.startRendering();
      return Array.from(sound.getChannelData(0));
    },
    { told, length },
  );
  expect(there).toEqual(Array.from(left));
});
