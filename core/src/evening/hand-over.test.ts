import fc from 'fast-check';
import { curlew, estuary, patchOn } from '../testing/panels';
import { runs } from '../testing/runs';
import type { Patch } from '../patch';
import { defaultTimes } from '../rebuild/time';
import { handOver, type Laid } from './hand-over';
import { planEvening } from './plan';
import { type Evening, eveningSchema } from './schema';
import { Ways } from './ways';

const patches: Record<string, Patch> = {
  bass: patchOn(curlew, { cutoff: 0.2, resonance: 0.3, 'env-decay': 0.4, 'delay-mix': 0.2 }),
  lead: patchOn(curlew, { cutoff: 0.9, resonance: 0.3, 'delay-mix': 0.4, 'delay-time': 0.7 }),
  pad: patchOn(estuary, { cutoff: 0.4, 'env1-attack': 0.6 }),
  arp: patchOn(estuary, { cutoff: 0.7, 'env1-decay': 0.2, 'delay-mix': 0.5 }),
};
const instrumentOf = (id: string) => (id === 'pad' || id === 'arp' ? estuary : curlew);
const ways = (slow?: string): Ways =>
  new Ways(
    (id) => patches[id] && { patch: patches[id], instrument: instrumentOf(id) },
    undefined,
    (_, person) =>
      person !== undefined && person === slow ? { ...defaultTimes, knob: 60 } : undefined,
  );

/** Two panels that one person moves, and another who may; before the second song both want moving. */
const evening = (pause: number, also: object[], songs: object[] = []): Evening =>
  eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Hallow Staithe',
    people: [
      { id: 'low', name: 'low keys' },
      { id: 'hand', name: 'stage hand' },
    ],
    panels: [
      { id: 'c', name: 'Curlew', instrument: curlew.id, by: 'low', also },
      { id: 'e', name: 'Estuary', instrument: estuary.id, by: 'low', also },
    ],
    songs: [
      {
        id: 'one',
        name: 'One',
        pause: 900,
        plays: [
          { panel: 'c', patch: 'bass' },
          { panel: 'e', patch: 'pad' },
        ],
      },
      {
        id: 'two',
        name: 'Two',
        pause,
        plays: [
          { panel: 'c', patch: 'lead' },
          { panel: 'e', patch: 'arp' },
        ],
      },
      ...songs,
    ],
  });

describe('who makes a changeover', () => {
  const curlews = ways().seconds('c', { patch: 'bass' }, { patch: 'lead' });
  const estuaries = ways().seconds('e', { patch: 'pad' }, { patch: 'arp' });
  // What changes nothing in the first song is done before it.
  const both = planEvening(evening(0, []), ways()).breaks[1]!.loads['low']!;
  /** Enough for either of the two with the way there, not for both. */
  const tight = both - 1;

  it('is whoever usually does, as long as the break suffices', () => {
    expect(Math.max(curlews, estuaries) + 3).toBeLessThan(tight);
    const plan = planEvening(evening(curlews + estuaries, [{ by: 'hand' }]), ways());
    expect([plan.handed, plan.handedSure, plan.worst]).toEqual([[], true, -1]);
  });

  it('is somebody else where it does not: one changeover, and the way there counts', () => {
    expect(planEvening(evening(tight, []), ways()).worst).toBe(1);
    const plan = planEvening(evening(tight, [{ by: 'hand', walk: 3 }]), ways());
    expect(plan.worst).toBe(-1);
    expect(plan.handed).toHaveLength(1);
    const [given] = plan.handed;
    const theirs = plan.breaks[1]!.portions.find((p) => p.panel === given!.panel)!;
    expect(theirs.person).toBe('hand');
    const work = theirs.steps.reduce((sum, s) => sum + s.seconds, 0);
    expect(theirs.seconds).toBeCloseTo(work + 3, 9);
    expect(plan.breaks[1]!.loads['hand']).toBeCloseTo(work + 3, 9);
    expect(plan.breaks[1]!.portions.filter((p) => p.person === 'low')).toHaveLength(1);
    // Further away than the break is long they are of no use.
    expect(planEvening(evening(tight, [{ by: 'hand', walk: 600 }]), ways()).handed).toEqual([]);
  });

  it('is reckoned in the times of whoever makes it', () => {
    expect(planEvening(evening(tight, [{ by: 'hand' }]), ways('hand')).worst).toBe(1);
  });

  it('never makes an evening worse, and never two people move one panel in one break', () => {
    const song = fc.record({
      c: fc.constantFrom('bass', 'lead', undefined),
      e: fc.constantFrom('pad', 'arp', undefined),
      pause: fc.integer({ min: 0, max: 60 }),
    });
    fc.assert(
      fc.property(fc.array(song, { minLength: 1, maxLength: 4 }), (told) => {
        const songs = told.map(({ c, e, pause }, i) => ({
          id: `s${i}`,
          name: `S${i}`,
          pause,
          plays: [
            ...(c ? [{ panel: 'c', patch: c }] : []),
            ...(e ? [{ panel: 'e', patch: e }] : []),
          ],
        }));
        const all = ways();
        const lacks = (also: object[]) => {
          const plan = planEvening(evening(20, also, songs), all);
          return { plan, lacking: plan.breaks.reduce((sum, b) => sum + b.over, 0) };
        };
        const helped = lacks([{ by: 'hand', walk: 2 }]);
        const alone = lacks([]);
        expect(helped.lacking).toBeLessThanOrEqual(alone.lacking + 1e-9);
        const beside = lacks([{ by: 'hand', walk: 2, beside: true }]);
        expect(beside.lacking).toBeLessThanOrEqual(alone.lacking + 1e-9);
        const moved = ({ plan }: typeof alone): string[] =>
          plan.breaks
            .flatMap(({ portions, during }) => [...portions, ...during])
            .flatMap((p) => p.steps.map((step) => `${p.song} ${p.panel} ${step.id}`))
            .sort();
        expect(moved(beside)).toEqual(moved(alone));
        for (const { portions } of helped.plan.breaks)
          for (const panel of ['c', 'e'])
            expect(
              new Set(portions.filter((p) => p.panel === panel).map((p) => p.person)).size,
            ).toBeLessThanOrEqual(1);
      }),
      { numRuns: runs(15, 150) },
    );
  });
});

describe('a changeover that two people make', () => {
  // All else that the second song wants is done before the first: only the Curlew's part is due.
  const only = (pause: number, also: object[]): Evening => {
    const songs = evening(pause, also).songs.map((song) => ({
      ...song,
      plays: song.plays.filter((p) => p.panel === 'c'),
    }));
    return { ...evening(pause, also), songs };
  };
  const alone = planEvening(only(0, []), ways()).breaks[1]!;
  const whole = alone.loads['low']!;
  const steps = alone.portions.flatMap((p) => p.steps);

  it('is parted between whole sections, each movement once, so that the longer part is the shortest', () => {
    const plan = planEvening(only(whole - 1, [{ by: 'hand', walk: 1, beside: true }]), ways());
    const { portions, loads, over } = plan.breaks[1]!;
    expect(plan.handed).toEqual([{ song: 'two', panel: 'c', person: 'hand', beside: true }]);
    expect(over).toBe(0);
    const of = (person: string) =>
      portions.filter((p) => p.person === person).flatMap((p) => p.steps);
    expect([...of('low'), ...of('hand')].map((s) => s.id).sort()).toEqual(
      steps.map((s) => s.id).sort(),
    );
    const sections = (person: string) =>
      new Set(of(person).flatMap((s) => ('section' in s ? [s.section] : [])));
    expect([...sections('low')].filter((s) => sections('hand').has(s))).toEqual([]);
    expect(sections('hand').size).toBeGreaterThan(0);
    // By hand: every place where it can be parted.
    const order = [...new Set(steps.flatMap((s) => ('section' in s ? [s.section] : [])))];
    const seconds = (own: (section: string) => boolean): number =>
      steps.reduce((sum, s) => sum + ('section' in s && own(s.section) ? s.seconds : 0), 0);
    const longer = order.slice(1).map((_, k) =>
      Math.max(
        seconds((s) => order.indexOf(s) <= k),
        1 + seconds((s) => order.indexOf(s) > k),
      ),
    );
    expect(Math.max(...Object.values(loads))).toBeCloseTo(Math.min(...longer), 9);
  });

  it('is made by one where there is room for one, where the break suffices, or help comes too late', () => {
    for (const [pause, also] of [
      [whole - 1, [{ by: 'hand', walk: 5 }]],
      [whole, [{ by: 'hand', walk: 1, beside: true }]],
      [whole - 1, [{ by: 'hand', walk: 600, beside: true }]],
    ] as const)
      expect(planEvening(only(pause, [...also]), ways()).handed).toEqual([]);
  });

  it('lacks no more than before, and is not said to be the best where it still lacks', () => {
    const plan = planEvening(only(0, [{ by: 'hand', walk: 0, beside: true }]), ways());
    expect(plan.breaks[1]!.over).toBeLessThan(whole);
    expect(plan.breaks[1]!.over).toBeGreaterThan(0);
    expect(plan.handedSure).toBe(false);
  });
});

describe('changeovers that are shared out', () => {
  /** Loads of people, each with so many seconds: what lacks is what is over. */
  const costs = fc.record({
    works: fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 1, maxLength: 12 }),
    length: fc.integer({ min: 1, max: 40 }),
  });
  const layer =
    (works: readonly number[], length: number) =>
    (who: readonly string[]): Laid & { who: readonly string[] } => {
      const load = (person: string): number =>
        works.reduce((sum, w, i) => sum + (who[i] === person ? w : 0), 0);
      return {
        who,
        lacking: Math.max(0, load('a') - length, load('b') - length),
        handed: who.filter((p) => p === 'b').length,
        seconds: works.reduce((sum, w) => sum + w, 0),
        pressing: works.flatMap((_, i) => (load(who[i]!) > length ? [i] : [])),
      };
    };

  it('are as good as the best of all ways, up to eight of them', () => {
    fc.assert(
      fc.property(costs, ({ works, length }) => {
        const lay = layer(works, length);
        const { laid, sure } = handOver(
          works.map(() => ['a', 'b']),
          lay,
          true,
        );
        const all = Array.from({ length: 2 ** works.length }, (_, code) =>
          lay(works.map((_, i) => ((code >> i) & 1 ? 'b' : 'a'))),
        );
        const least = Math.min(...all.map((l) => l.lacking));
        if (sure) expect(laid.lacking).toBe(least);
        else expect(laid.lacking).toBeGreaterThanOrEqual(least);
        if (works.length <= 8) expect(sure).toBe(true);
        if (works.length <= 8) {
          const fewest = Math.min(...all.filter((l) => l.lacking === least).map((l) => l.handed));
          expect(laid.handed).toBe(fewest);
        }
        expect(laid.lacking).toBeLessThanOrEqual(lay(works.map(() => 'a')).lacking);
      }),
      { numRuns: runs(60, 600) },
    );
  });
});
