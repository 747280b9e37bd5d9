import { type Better, type Evening, type EveningPlan, eveningSchema } from '@hurrel/core';
import { betterSays, handedSays, planSays } from './plan-says';

const evening: Evening = eveningSchema.parse({
  format: 'hurrel-set',
  version: 1,
  name: 'Skerrow Lock',
  people: [
    { id: 'low', name: 'low keys' },
    { id: 'hand', name: 'stage hand' },
  ],
  panels: [{ id: 's', name: 'Sluice', instrument: 'oxbow-sluice', by: 'low' }],
  songs: ['one', 'two'].map((id) => ({ id, name: id.toUpperCase() })),
});
const plan = (over: number[], changes: Partial<EveningPlan> = {}): EveningPlan => ({
  breaks: over.map((o, i) => ({
    song: evening.songs[i]!.id,
    length: 60,
    portions: [],
    during: [],
    loads: {},
    over: o,
  })),
  seconds: 90,
  movements: 12,
  worst: over.indexOf(Math.max(...over.filter((o) => o > 0))),
  gone: [],
  kept: [],
  noPlaces: [],
  compromises: [],
  handed: [],
  handedSure: true,
  keptSure: true,
  ...changes,
});

describe('a plan in words', () => {
  it('tells whether the breaks suffice, and which lacks the most', () => {
    const work = '12 movements, 1:30 of hands in all.';
    expect(planSays(plan([0, 0]), evening)).toBe(`Every break is long enough. ${work}`);
    expect(planSays(plan([0, 20]), evening)).toBe(
      `1 break is too short: the worst by 0:20, before TWO. ${work}`,
    );
    expect(planSays(plan([30, 20]), evening)).toContain(
      '2 breaks are too short: the worst by 0:30, before ONE.',
    );
  });

  it('tells which breaks are longer than wished, of which nothing is lacking', () => {
    const wished = (...at: number[]): Evening => ({
      ...evening,
      songs: evening.songs.map((s, i) => ({ ...s, wished: at.includes(i) })),
    });
    expect(planSays(plan([0, 20], { worst: -1 }), wished(1))).toMatch(
      /^1 break is over target, by 0:20 at most\. Every other break is long enough\./,
    );
    expect(planSays(plan([30, 20], { worst: 0 }), wished(1))).toMatch(
      /^1 break is too short: the worst by 0:30, before ONE\. 1 break is over target/,
    );
    expect(planSays(plan([30, 20], { worst: -1 }), wished(0, 1))).toContain(
      '2 breaks are over target, by 0:30 at most.',
    );
  });

  it('does not call enough what is not known', () => {
    const gone = [{ song: 'one', panel: 's' }];
    expect(planSays(plan([0, 0], { gone }), evening)).toMatch(
      /^1 patch is gone, and what it needs is not known\. The other breaks are long enough\./,
    );
  });

  it('tells who makes what, who helps, and whether another way may be better', () => {
    expect(handedSays(plan([0]), evening)).toBe('');
    const one = { song: 'two', panel: 's', person: 'hand' };
    const handed = [
      { ...one, beside: false },
      { ...one, song: 'one', beside: true },
    ];
    expect(handedSays(plan([0], { handed }), evening)).toBe(
      'Because time would be lacking, stage hand moves Sluice before TWO; stage hand helps at Sluice before ONE. No other way of sharing it out lacks less.',
    );
    expect(handedSays(plan([5], { handed, handedSure: false }), evening)).toMatch(
      /Another way may lack less\.$/,
    );
  });

  it('tells what a search has won, and what it cannot promise', () => {
    const found = (over: number[], exact: boolean, bound?: Better['bound']): Better =>
      ({ plan: plan(over), exact, bound, evening }) as unknown as Better;
    expect(betterSays(plan([30]), found([30], true))).toBe(
      'Nothing better was found. There is none better.',
    );
    expect(betterSays(plan([30]), found([10], false))).toBe(
      'Time that is lacking: 0:30 before, 0:10 now; hands: 1:30 before, 1:30 now. A better one may exist.',
    );
    expect(betterSays(plan([30]), found([10], false, { takes: 80, least: 60 }))).toMatch(
      /takes 1:20 of hands, and none less than 1:00\.$/,
    );
  });
});
