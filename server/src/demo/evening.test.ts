import { instrumentSchema, type Patch, patchSchema, planEvening, Ways } from '@hurrel/core';
import { demoEvenings } from './evening';
import { demoInstruments, demoPatches } from './library';

const instruments = new Map(
  demoInstruments.map((d) => [instrumentSchema.parse(d).id, instrumentSchema.parse(d)]),
);
const patches = new Map(
  demoPatches.map((d): [string, Patch] => [patchSchema.parse(d).name, patchSchema.parse(d)]),
);
const ways = new Ways((name) => {
  const patch = patches.get(name);
  return patch && { patch, instrument: instruments.get(patch.instrument)! };
});
const [first, second, third] = demoEvenings((name) => name).map((evening) => ({
  evening,
  plan: planEvening(evening, ways),
}));

describe('the three nights', () => {
  it('play only what is in the library, on seven panels, by five people', () => {
    for (const { evening, plan } of [first!, second!, third!]) {
      expect(plan.gone).toEqual([]);
      expect(plan.noPlaces).toEqual([]);
      expect(evening.panels).toHaveLength(7);
      expect(evening.people).toHaveLength(5);
      expect(evening.songs.filter((s) => s.kind === 'song')).toHaveLength(12);
    }
  });

  it('the first has time enough, the second not as it is printed, the third again', () => {
    expect(first!.plan.worst).toBe(-1);
    expect(second!.plan.worst).toBeGreaterThan(0);
    expect(third!.plan.worst).toBe(-1);
    expect(third!.plan.kept.length).toBeGreaterThan(second!.plan.kept.length);
  });
});
