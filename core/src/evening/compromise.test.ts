import fc from 'fast-check';
import { curlew, patchOn } from '../testing/panels';
import { runs } from '../testing/runs';
import type { Patch } from '../patch';
import type { Setting } from '../reading/setting';
import { compromisesIn, waysToStand } from './compromise';
import { planEvening } from './plan';
import { eveningSchema } from './schema';
import { Ways } from './ways';

const range = (from: number, to: number, best = (from + to) / 2): Setting => ({
  kind: 'range',
  from,
  to,
  best,
});
const set = (value: number): Setting => ({ kind: 'set', value });
const stands = (...settings: (Setting | undefined)[]) =>
  settings.map((setting, i) => ({ song: `s${i}`, setting }));

/** Compromises of the way that moves a control the least. */
const compromisesOf = (all: ReturnType<typeof stands>) => {
  const [least] = waysToStand(all);
  return { runs: compromisesIn(all, least!), moves: least!.length };
};

describe('settings between several songs', () => {
  it('stand inside what all allow, as near to what each likes best as that lets', () => {
    const { runs } = compromisesOf(stands(range(0.2, 0.5, 0.3), range(0.4, 0.8, 0.7)));
    expect(runs).toEqual([
      { at: [0, 1], setting: { kind: 'range', from: 0.4, to: 0.5, best: 0.5 } },
    ]);
    // An exact reading inside a range decides.
    expect(compromisesOf(stands(range(0.2, 0.5), set(0.25))).runs).toEqual([
      { at: [0, 1], setting: { kind: 'set', value: 0.25 } },
    ]);
  });

  it('end where nothing suits all, and where only the ear can tell; what is not recorded suits', () => {
    const ear: Setting = { kind: 'ear', target: 'just before it whistles', near: 0.4 };
    expect(compromisesOf(stands(range(0.1, 0.2), range(0.3, 0.4))).runs).toEqual([]);
    expect(compromisesOf(stands(range(0.1, 0.5), ear, range(0.1, 0.5))).runs).toEqual([]);
    expect(
      compromisesOf(stands(range(0.1, 0.5), undefined, { kind: 'any' }, range(0.4, 0.6))).runs[0]!
        .at,
    ).toEqual([0, 3]);
    // Two exact readings are no compromise.
    expect(compromisesOf(stands(set(0.3), set(0.3))).runs).toEqual([]);
  });

  it('are moved as seldom as can be: no other choice of places moves less', () => {
    const tenth = fc.integer({ min: 0, max: 10 }).map((n) => n / 10);
    const anyRange = fc.tuple(tenth, tenth).map(([a, b]) => range(Math.min(a, b), Math.max(a, b)));
    fc.assert(
      fc.property(fc.array(anyRange, { minLength: 1, maxLength: 6 }), (settings) => {
        const moves = compromisesOf(stands(...settings)).moves - 1;
        // Every choice of a tenth for each song that it allows, the least moves by a dynamic programme.
        let costs = new Map<number, number>();
        settings.forEach((s, i) => {
          if (s.kind !== 'range') return;
          const next = new Map<number, number>();
          for (let n = 0; n <= 10; n++) {
            const at = n / 10;
            if (at < s.from - 1e-9 || at > s.to + 1e-9) continue;
            const least = Math.min(
              ...[...costs].map(([from, cost]) => cost + (from === at ? 0 : 1)),
            );
            next.set(at, i === 0 ? 0 : least);
          }
          costs = next;
        });
        expect(moves).toBe(Math.min(...costs.values()));
      }),
      { numRuns: runs(200, 2000) },
    );
  });

  it('spare movements in an evening, and are told', () => {
    const one = patchOn(curlew, { cutoff: 0.2 });
    const with_ = (setting: Setting): Patch => ({
      ...one,
      settings: { ...one.settings, resonance: setting },
    });
    const patches: Record<string, Patch> = {
      a: with_(range(0.2, 0.5, 0.25)),
      b: with_(range(0.4, 0.8, 0.7)),
    };
    const evening = eveningSchema.parse({
      format: 'hurrel-set',
      version: 1,
      name: 'x',
      panels: [{ id: 'c', name: 'C', instrument: curlew.id }],
      songs: ['a', 'b', 'a'].map((patch, i) => ({
        id: `s${i}`,
        name: `S${i}`,
        pause: 60,
        plays: [{ panel: 'c', patch }],
      })),
    });
    const plan = planEvening(
      evening,
      new Ways((id) => patches[id] && { patch: patches[id], instrument: curlew }),
    );
    expect(plan.compromises).toEqual([
      {
        panel: 'c',
        control: 'resonance',
        from: 's0',
        to: 's2',
        setting: { kind: 'range', from: 0.4, to: 0.5, best: expect.closeTo(0.4, 6) },
      },
    ]);
    const later = plan.breaks.slice(1).flatMap((b) => b.portions);
    expect(later).toEqual([]);
  });
});
