import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideStore, provideState } from '@ngrx/store';
import {
  blankPatch,
  encodeWav,
  instrumentSchema,
  type PartSource,
  type Pattern,
  patternSchema,
} from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { patchFeature } from '../patch/patch.reducer';
import { LiveService } from '../sound/live.service';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';

const curlew = instrumentSchema.parse(curlewFile);
const wav = encodeWav([Float32Array.of(0, 0.5, -0.5, 0.25)], 48000, '16');
const pattern = patternSchema.parse({
  id: 'one',
  name: 'One',
  tracks: [{ id: 't', name: 't', length: 16, steps: [] }],
});
const fed = {
  ...blankPatch(curlew, 'fed'),
  feed: {
    sound: 'ab'.padStart(64, '7'),
    name: 'rain',
    jack: 'j-ext',
    start: 'running' as const,
    round: true,
    level: 0.5,
  },
};

/** A runner that runs, with the bands that it has sent. */
function runs() {
  const bands: Record<string, PartSource>[] = [];
  const live = {
    running: signal(true),
    meter: signal({ beat: -1, pattern: 0 }),
    playBand: (parts: Record<string, PartSource>) => void bands.push(parts),
  };
  const sequence = {
    patch: () => undefined,
    patterns: (): Pattern[] => [],
    pattern: () => undefined,
    sequencer: () => undefined,
  };
  TestBed.configureTestingModule({
    providers: [
      provideStore(),
      provideState(patchFeature),
      { provide: LiveService, useValue: live },
      { provide: SequenceService, useValue: sequence },
    ],
  });
  return { runner: TestBed.inject(RunnerService), bands };
}

describe('an instrument that plays along', () => {
  it('is fed with its recording as soon as that is here, and compiled once then', async () => {
    Object.assign(globalThis, {
      fetch: async () => ({
        ok: true,
        status: 200,
        arrayBuffer: async () => wav.slice().buffer as ArrayBuffer,
      }),
    });
    const { runner, bands } = runs();
    const part = { key: 'a', instrument: curlew, patch: fed, patterns: [pattern], gain: 1, pan: 0 };
    runner.along.set([part]);
    TestBed.tick();
    expect(bands.at(-1)!['a']!.graph.feed).toBeUndefined();
    while (bands.at(-1)!['a']!.graph.feed === undefined) {
      await new Promise((on) => setTimeout(on, 1));
      TestBed.tick();
    }
    expect(bands.at(-1)!['a']!.graph.feed!.left).toHaveLength(4);
    runner.along.set([{ ...part, gain: 0.5 }]);
    TestBed.tick();
    expect(bands.at(-1)!['a']!.gain).toBe(0.5);
    expect(bands.at(-1)!['a']!.graph).toBe(bands.at(-2)!['a']!.graph);
  });
});
