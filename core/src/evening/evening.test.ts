import fc from 'fast-check';
import { curlew, estuary, patchOn } from '../testing/panels';
import { runs } from '../testing/runs';
import type { Patch } from '../patch';
import { panelAtStart, planRebuild } from '../rebuild/plan';
import { isWork } from '../rebuild/step';
import { leastWork } from './least-work';
import { betterOrder, betterPanels } from './better';
import { eveningDifferences, mergeEvenings } from './diff';
import { planEvening } from './plan';
import { type Evening, eveningSchema } from './schema';
import { type Library, Ways } from './ways';

const patches: Record<string, Patch> = {
  bass: patchOn(curlew, { cutoff: 0.2, resonance: 0.3, 'env-decay': 0.4 }),
  lead: patchOn(curlew, { cutoff: 0.9, resonance: 0.3, 'delay-mix': 0.4, 'delay-time': 0.7 }),
  drum: patchOn(curlew, { cutoff: 0.25, resonance: 0.7, 'mix-noise': 0.6, 'env-decay': 0.1 }),
  bell: patchOn(curlew, { cutoff: 0.85, 'osc1-fm': 0.5, 'env-release': 0.6 }),
  pad: patchOn(estuary, { cutoff: 0.4, 'env1-attack': 0.6 }),
  arp: patchOn(estuary, { cutoff: 0.7, 'env1-decay': 0.2, 'delay-mix': 0.5 }),
};
const library: Library = (id) =>
  patches[id] && {
    patch: patches[id],
    instrument: id === 'pad' || id === 'arp' ? estuary : curlew,
  };
const ways = (): Ways => new Ways(library);

/** Songs as `panel:patch panel:patch`, with the seconds before each. */
const evening = (songs: [string, number, boolean?][], more: Partial<Evening> = {}): Evening =>
  eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Hallow Staithe',
    people: [
      { id: 'left', name: 'left hand' },
      { id: 'right', name: 'right hand' },
    ],
    panels: [
      { id: 'c1', name: 'the old one', instrument: curlew.id, by: 'left' },
      { id: 'c2', name: 'the new one', instrument: curlew.id, by: 'left' },
      { id: 'e', name: 'Estuary', instrument: estuary.id, by: 'right' },
    ],
    songs: songs.map(([plays, pause, fixed = false], i) => ({
      id: `s${i}`,
      name: `Song ${i}`,
      pause,
      fixed,
      plays: plays
        .split(' ')
        .filter(Boolean)
        .map((p) => ({ panel: p.split(':')[0], patch: p.split(':')[1] })),
    })),
    ...more,
  });

const curlews = ['bass', 'lead', 'drum', 'bell'];
const anyEvening = fc
  .array(
    fc.record({
      c1: fc.option(fc.constantFrom(...curlews)),
      c2: fc.option(fc.constantFrom(...curlews)),
      e: fc.option(fc.constantFrom('pad', 'arp')),
      pause: fc.integer({ min: 0, max: 120 }),
    }),
    { minLength: 1, maxLength: 6 },
  )
  .map((songs) =>
    evening(
      songs.map(({ pause, ...plays }) => [
        Object.entries(plays)
          .filter(([, patch]) => patch !== null)
          .map(([panel, patch]) => `${panel}:${patch}`)
          .join(' '),
        pause,
      ]),
    ),
  );

describe('a set', () => {
  it('is refused where it names what is not there, or a panel twice', () => {
    const wrong = (change: (e: Evening) => void): string[] => {
      const copy = JSON.parse(JSON.stringify(evening([['c1:bass', 60]])));
      change(copy);
      const read = eveningSchema.safeParse(copy);
      return read.success ? [] : read.error.issues.map((i) => i.path.join('/'));
    };
    expect(wrong((e) => (e.songs[0]!.plays[0]!.panel = 'none'))).toEqual(['songs/0/plays/0/panel']);
    expect(wrong((e) => (e.panels[0]!.by = 'nobody'))).toEqual(['panels/0/by']);
    expect(wrong((e) => e.songs.push(e.songs[0]!))).toEqual(['songs/1/id']);
    expect(wrong((e) => e.songs[0]!.plays.push(e.songs[0]!.plays[0]!))).toEqual([
      'songs/0/plays/1/panel',
    ]);
    expect(wrong((e) => (e.songs[0]!.pause = -1))).toEqual(['songs/0/pause']);
  });
});

describe('the plan of an evening', () => {
  it('is what rebuilds say, song by song: from the start, then from patch to patch', () => {
    const plan = planEvening(
      evening([
        ['c1:bass', 600],
        ['c1:lead', 600],
        ['c1:bass', 600],
      ]),
      ways(),
    );
    const first = planRebuild(curlew, panelAtStart(curlew), patches['bass']!);
    const second = planRebuild(curlew, patches['bass']!, patches['lead']!);
    const back = planRebuild(curlew, patches['lead']!, patches['bass']!);
    const work = [first, second, back].map((p) => p.steps.filter(isWork));
    expect(plan.movements).toBe(work.flat().length);
    const ids = (song: number): string[] =>
      plan.breaks
        .flatMap((b) => b.portions.filter((p) => p.song === `s${song}`))
        .flatMap((p) => p.steps.map((s) => s.id));
    work.forEach((steps, i) => expect(ids(i).sort()).toEqual(steps.map((s) => s.id).sort()));
    expect(plan.worst).toBe(-1);
  });

  it('does every step once, after the panel is free and before it is needed; early what changes nothing', () => {
    fc.assert(
      fc.property(anyEvening, (set) => {
        const all = ways();
        const plan = planEvening(set, all);
        const order = new Map(set.songs.map((s, i) => [s.id, i]));
        for (const panel of set.panels) {
          const uses = set.songs.flatMap((s, i) =>
            s.plays.some((p) => p.panel === panel.id) ? [i] : [],
          );
          plan.breaks.forEach((one, at) => {
            for (const portion of one.portions.filter((p) => p.panel === panel.id)) {
              const until = order.get(portion.song)!;
              const last = uses.filter((u) => u < until).at(-1);
              expect(at).toBeLessThanOrEqual(until);
              if (last === undefined || at > last) continue;
              // Before the song that is still to be played on it: only what does nothing there.
              expect(at).toBe(last);
              const play = set.songs[last]!.plays.find((p) => p.panel === panel.id)!;
              for (const step of portion.steps)
                expect(
                  step.kind === 'movement' && all.changesNothing(play, panel.id).has(step.control),
                ).toBe(true);
            }
          });
        }
        const seconds = plan.breaks.flatMap((b) => b.portions).reduce((s, p) => s + p.seconds, 0);
        expect(seconds).toBeCloseTo(plan.seconds, 6);
        const said = plan.breaks.reduce(
          (s, b) => s + Object.values(b.loads).reduce((a, c) => a + c, 0),
          0,
        );
        expect(said).toBeCloseTo(plan.seconds, 6);
      }),
      { numRuns: runs(40, 400) },
    );
  });

  it('lacks no time where there is a way of sharing the work out: long breaks before are used for short ones', () => {
    // The second panel rests in the first song: it is set before, so that the short break has nothing to do.
    const set = evening([
      ['c1:bass', 900],
      ['c2:lead', 0],
      ['c1:lead', 900],
    ]);
    expect(planEvening(set, ways())).toMatchObject({ worst: -1 });
    const printed = evening([
      ['c1:bass', 900],
      ['c1:lead', 5],
    ]);
    const plan = planEvening(printed, ways());
    expect(plan.worst).toBe(1);
    expect(plan.breaks[1]!.over).toBeCloseTo(plan.breaks[1]!.loads['left']! - 5, 6);
  });

  it('lacks nothing in a break whose length is a wish: it is longer', () => {
    const printed = evening([
      ['c1:bass', 900],
      ['c1:lead', 0],
      ['c1:bass', 8],
    ]);
    const songs = printed.songs.map((s, i) => ({ ...s, wished: i === 1 }));
    const plan = planEvening({ ...printed, songs }, ways());
    expect(plan.breaks[1]!.over).toBeGreaterThan(plan.breaks[2]!.over);
    expect(plan.worst).toBe(2);
    const all = printed.songs.map((s) => ({ ...s, wished: true }));
    expect(planEvening({ ...printed, songs: all }, ways()).worst).toBe(-1);
  });

  it('tells what is gone, and plans the rest', () => {
    const set = evening([
      ['c1:nothing c2:bass', 900],
      ['c1:lead', 900],
    ]);
    const plan = planEvening(set, ways());
    expect(plan.gone).toEqual([{ song: 's0', panel: 'c1' }]);
    expect(plan.movements).toBeGreaterThan(0);
    expect(planEvening(evening([]), ways())).toMatchObject({ movements: 0, worst: -1, breaks: [] });
  });
});

describe('a better evening', () => {
  const lacks = (set: Evening, all: Ways): number =>
    planEvening(set, all).breaks.reduce((sum, b) => sum + b.over, 0);

  it('in another order is the best of all orders, fixed songs where they are', () => {
    const every = (of: number[]): number[][] =>
      of.length === 0
        ? [[]]
        : of.flatMap((f) => every(of.filter((x) => x !== f)).map((r) => [f, ...r]));
    fc.assert(
      fc.property(anyEvening, fc.nat(5), (made, k) => {
        const set = {
          ...made,
          songs: made.songs.slice(0, 5).map((s, i) => ({ ...s, fixed: i === k })),
        };
        const all = ways();
        const better = betterOrder(set, all);
        expect(better.exact).toBe(true);
        const free = set.songs.flatMap((s, i) => (s.fixed ? [] : [i]));
        const best = Math.min(
          ...every(free).map((order) => {
            const songs = set.songs.map((s, i) => {
              const at = free.indexOf(i);
              return at < 0 ? s : { ...set.songs[order[at]!]!, pause: s.pause };
            });
            return lacks({ ...set, songs }, all);
          }),
        );
        expect(lacks(better.evening, all)).toBeCloseTo(best, 6);
        if (k < set.songs.length) expect(better.evening.songs[k]!.id).toBe(set.songs[k]!.id);
        expect(better.evening.songs.map((s) => s.pause)).toEqual(set.songs.map((s) => s.pause));
      }),
      { numRuns: runs(12, 100) },
    );
  });

  it('takes no less work than is said that any order takes', () => {
    fc.assert(
      fc.property(anyEvening, (made) => {
        const set = { ...made, songs: made.songs.slice(0, 5) };
        const all = ways();
        const least = leastWork(set, all);
        const orders = (of: number[]): number[][] =>
          of.length === 0
            ? [[]]
            : of.flatMap((f) => orders(of.filter((x) => x !== f)).map((r) => [f, ...r]));
        const works = orders(set.songs.map((_, i) => i)).map((order) => {
          const songs = order.map((k) => set.songs[k]!);
          return planEvening({ ...set, songs }, all, 'plain').seconds;
        });
        expect(least).toBeLessThanOrEqual(Math.min(...works) + 1e-6);
        // It says something: what is set up at all has to be set up.
        if (Math.min(...works) > 0) expect(least).toBeGreaterThan(0);
      }),
      { numRuns: runs(12, 100) },
    );
  });

  it('with equal panels shared out lacks the least, and is the least work, of all ways of sharing', () => {
    fc.assert(
      fc.property(anyEvening, (made) => {
        const set = { ...made, songs: made.songs.slice(0, 5) };
        const all = ways();
        const better = betterPanels(set, all);
        expect(better.exact).toBe(true);
        // Every song either way round: what lacks least, then what is least work.
        let [best, lack] = [Infinity, Infinity];
        for (let code = 0; code < 2 ** set.songs.length; code++) {
          const songs = set.songs.map((song, i) => ({
            ...song,
            plays: song.plays.map((p) => ({
              ...p,
              panel: (code >> i) & 1 ? ({ c1: 'c2', c2: 'c1' }[p.panel] ?? p.panel) : p.panel,
            })),
          }));
          const way = { ...set, songs };
          const [seconds, lacking] = [planEvening(way, all).seconds, lacks(way, all)];
          if (lacking < lack - 1e-6 || (lacking < lack + 1e-6 && seconds < best))
            [best, lack] = [seconds, lacking];
        }
        expect(lacks(better.evening, all)).toBeCloseTo(lack, 6);
        expect(better.plan.seconds).toBeCloseTo(best, 6);
      }),
      { numRuns: runs(20, 200) },
    );
  });
});

describe('two changes of a set', () => {
  it('are merged song by song, and told', () => {
    const base = evening([
      ['c1:bass', 60],
      ['c1:lead', 60],
    ]);
    const mine: Evening = {
      ...base,
      songs: base.songs.map((s, i) => (i === 0 ? { ...s, pause: 90 } : s)),
    };
    const theirs: Evening = {
      ...base,
      songs: [...base.songs, { ...base.songs[0]!, id: 's9', name: 'Encore' }],
    };
    const { merged, conflicts } = mergeEvenings(base, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(merged.songs.map((s) => s.pause)).toEqual([90, 60, 60]);
    const told = eveningDifferences(base, merged).map((d) => `${d.subject}: ${d.after}`);
    expect(told).toEqual([
      'Song Song 0: 1, 1 panel, 90 s before it',
      'Song Encore: 3, 1 panel, 60 s before it',
    ]);
  });
});
