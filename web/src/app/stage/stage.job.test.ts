import { instrumentSchema, type Patch, patchSchema, peakOf } from '@hurrel/core';
import sluiceFile from '../../../../library/instruments/oxbow-sluice.json';
import bassFile from '../../../../library/patches/winch-room-bass.json';
import { stageJob } from './stage.job';

const face = instrumentSchema.parse(sluiceFile);
const patch: Patch = patchSchema.parse(bassFile);

describe('the note that tells most', () => {
  it('comes with how it shall sound: two beats and their end, heard and over', async () => {
    const { note, sound } = await stageJob.tell({ face, patch, steps: [] });
    expect(patch.phrase.map((p) => p.note)).toContain(note);
    // The panel has one output.
    expect(sound.channels).toHaveLength(1);
    const held = (2 * 60) / patch.tempo;
    for (const side of sound.channels) {
      expect(side.length).toBeCloseTo((held + 0.7) * sound.sampleRate, -1);
      expect(peakOf(side)).toBeGreaterThan(0.05);
      expect(peakOf(side.subarray(-100))).toBeLessThan(0.1 * peakOf(side));
    }
  });
});

describe('a key as a panel stands', () => {
  it('is the same sound that is told to be right where the panel is right', async () => {
    const { note, sound } = await stageJob.tell({ face, patch, steps: [] });
    expect(await stageJob.sound({ face, patch, note })).toEqual(sound);
    const closed = { ...patch.settings, cutoff: { kind: 'set', value: 0.2 } as const };
    const dull = await stageJob.sound({ face, patch: { ...patch, settings: closed }, note });
    expect(dull).not.toEqual(sound);
  });
});
