import fc from 'fast-check';
import { curlew, estuary, patchOn } from '../testing/panels';
import { runs } from '../testing/runs';
import type { Patch } from '../patch';
import { planEvening } from './plan';
import { type Evening, eveningSchema } from './schema';
import { keepSounds } from './stored';
import { nameOf, Ways } from './ways';

const patches: Record<string, Patch> = {
  pad: patchOn(estuary, { cutoff: 0.4, 'env1-attack': 0.6 }),
  arp: patchOn(estuary, { cutoff: 0.7, 'env1-decay': 0.2, 'delay-mix': 0.5, 'reverb-mix': 0.3 }),
  call: patchOn(estuary, { cutoff: 0.9, resonance: 0.7, 'chorus-mix': 0.4 }),
  drum: patchOn(curlew, { cutoff: 0.25, resonance: 0.7 }),
};
const ways = (): Ways =>
  new Ways(
    (id) => patches[id] && { patch: patches[id], instrument: id === 'drum' ? curlew : estuary },
  );
const evening = (plays: string[], places: string[], pause = 20): Evening =>
  eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Hallow Staithe',
    people: [{ id: 'high', name: 'high keys' }],
    panels: [{ id: 'e', name: 'Estuary', instrument: estuary.id, places }],
    songs: plays.map((patch, i) => ({
      id: `s${i}`,
      name: `Song ${i}`,
      pause,
      plays: [{ panel: 'e', patch }],
    })),
  });

describe('sounds that are stored before the evening', () => {
  it('are none where no place may be stored into', () => {
    expect(keepSounds(evening(['pad', 'arp'], []), ways()).kept).toEqual([]);
  });

  it('are loaded instead of set, each in a place of its own', () => {
    const set = evening(['pad', 'arp', 'pad', 'arp'], ['A01', 'b2']);
    const plan = planEvening(set, ways());
    expect(plan.kept.map((k) => [k.play.patch, k.place, k.person])).toEqual([
      ['pad', 'A01', 'high'],
      ['arp', 'B02', 'high'],
    ]);
    const steps = plan.breaks.flatMap((b) => b.portions.flatMap((p) => p.steps));
    expect(steps.map((s) => s.kind === 'load' && s.text)).toEqual([
      `Load A01: ${patches['pad']!.name}`,
      `Load B02: ${patches['arp']!.name}`,
      `Load A01: ${patches['pad']!.name}`,
      `Load B02: ${patches['arp']!.name}`,
    ]);
    expect(plan.seconds).toBeLessThan(
      planEvening(evening(['pad', 'arp', 'pad', 'arp'], []), ways()).seconds,
    );
  });

  it('are those that spare the most, of all choices', () => {
    const playing = fc.array(fc.constantFrom('pad', 'arp', 'call'), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(playing, fc.integer({ min: 0, max: 3 }), (plays, count) => {
        const places = ['A01', 'A02', 'A03'].slice(0, count);
        const all = ways();
        const { kept } = keepSounds(evening(plays, places), all);
        const spared = kept.reduce((sum, k) => sum + k.saves, 0);
        // Every choice of so many sounds, each reckoned by what it spares where it comes up.
        const distinct = [...new Set(plays)];
        const sparedBy = (chosen: string[]): number =>
          plays.reduce((sum, patch, i) => {
            const before = i === 0 ? null : { patch: plays[i - 1]! };
            if (!chosen.includes(patch) || before?.patch === patch) return sum;
            const way = all
              .plan('e', before, { patch })!
              .steps.flatMap((s) => ('seconds' in s ? [s.seconds] : []));
            return sum + Math.max(0, way.reduce((a, b) => a + b, 0) - 4);
          }, 0);
        let best = 0;
        for (let code = 0; code < 2 ** distinct.length; code++) {
          const chosen = distinct.filter((_, i) => (code >> i) & 1);
          if (chosen.length <= count) best = Math.max(best, sparedBy(chosen));
        }
        expect(spared).toBeCloseTo(best, 6);
        expect(new Set(kept.map((k) => nameOf(k.play))).size).toBe(kept.length);
        expect(new Set(kept.map((k) => k.place)).size).toBe(kept.length);
      }),
      { numRuns: runs(40, 400) },
    );
  });

  it('places that the instrument does not have are told', () => {
    const { noPlaces, kept } = planEvening(evening(['pad', 'arp'], ['Z99', 'A03']), ways());
    expect(noPlaces).toEqual([{ panel: 'e', place: 'Z99' }]);
    expect(kept.map((k) => k.place)).toEqual(['A03']);
    const none = { ...evening(['drum'], ['A01']) };
    expect(planEvening(none, ways())).toMatchObject({
      kept: [],
      noPlaces: [{ panel: 'e', place: 'A01' }],
    });
  });
});
