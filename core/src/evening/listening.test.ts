import fc from 'fast-check';
import { panelAfter, panelAtStart, planRebuild } from '../rebuild/plan';
import { estuary, patchOn } from '../testing/panels';
import { runs } from '../testing/runs';
import { sluice } from '../testing/sluice';
import type { Checkpoint, Patch } from '../patch/schema';
import { listeningPlaces, placeNow } from './listening';
import { type Work, workOf } from './ways';

const checkpoint = (after: string) => ({ after, note: 45, hear: `${after} alone` });
const lead: Patch = {
  ...patchOn(sluice, { cutoff: 0.6, 'mix-osc2': 0.7, 'env1-decay': 0.4, level: 0.8 }),
  checkpoints: [checkpoint('filter'), checkpoint('mix')],
};
const before = panelAtStart(sluice);
const plan = planRebuild(sluice, before, lead);
const work = workOf(plan);

describe('places to listen in a changeover', () => {
  it('come where a rebuild stops to listen, with what is moved before and nothing of what comes later', () => {
    const places = listeningPlaces(sluice, lead, work);
    expect(places.map((p) => p.checkpoints[0].after)).toEqual(['mix', 'filter']);
    for (const place of places) {
      const at = plan.steps.findIndex((s) => s.id === place.id);
      const earlier = plan.steps.slice(0, at).flatMap((s) => (s.kind === 'listening' ? [] : s.id));
      expect([...place.behind].sort()).toEqual(earlier.sort());
      const then = panelAfter(before, plan, lead, at);
      for (const step of work) {
        if (step.kind !== 'movement') continue;
        expect(place.there.settings[step.control]).toEqual(then.settings[step.control]);
      }
    }
    // There is something that comes later, or nothing would have been shown by this.
    expect(places[0]!.behind.length).toBeLessThan(work.length);
  });

  it('do not depend on the order in which somebody makes the movements', () => {
    const told = (steps: Work[]) =>
      listeningPlaces(sluice, lead, steps).map((p) => [p.id, [...p.behind].sort()]);
    fc.assert(
      fc.property(fc.shuffledSubarray(work, { minLength: work.length }), (mixed) => {
        expect(told(mixed)).toEqual(told(work));
      }),
      { numRuns: runs(20) },
    );
  });

  it('are none where nothing was moved since the place before', () => {
    const filter = work.filter((s) => 'section' in s && s.section !== 'mix');
    expect(listeningPlaces(sluice, lead, filter).map((p) => p.checkpoints[0].after)).toEqual([
      'mix',
      'filter',
    ]);
    const onlyFilter = work.filter((s) => s.kind === 'movement' && s.control === 'cutoff');
    expect(listeningPlaces(sluice, lead, onlyFilter).map((p) => p.id)).toEqual(['listen-0']);
    expect(listeningPlaces(sluice, lead, [])).toEqual([]);
  });

  it('are one where several keys tell of the same section', () => {
    const [low, high] = [checkpoint('mix'), { ...checkpoint('mix'), note: 69, hear: 'a whistle' }];
    const patch = { ...lead, checkpoints: [low, checkpoint('filter'), high] };
    const places = listeningPlaces(sluice, patch, work);
    expect(places.map((p) => [p.id, p.checkpoints])).toEqual([
      ['listen-0', [low, high]],
      ['listen-1', [checkpoint('filter')]],
    ]);
  });

  it('are none where the sound is loaded, and none behind a section that is gone', () => {
    const load: Work = { kind: 'load', id: 'load', place: 'A1', text: 'Load A1', seconds: 3 };
    expect(listeningPlaces(sluice, lead, [...work, load])).toEqual([]);
    const gone = { ...lead, checkpoints: [checkpoint('nowhere')] };
    expect(listeningPlaces(sluice, gone, work)).toEqual([]);
  });

  it('stand without the cables and rows that come later', () => {
    const row = { row: 0, source: 'lfo', destination: 'cutoff', depth: 20 };
    const old = { ...row, depth: 10 };
    const patch = {
      ...patchOn(estuary, { cutoff: 0.4 }),
      matrix: [row],
      checkpoints: [checkpoint('filter')],
    };
    const there = (matrix: Patch['matrix']) => {
      const before = { ...panelAtStart(estuary), matrix };
      const steps = workOf(planRebuild(estuary, before, patch));
      expect(steps.filter((s) => s.kind === 'row')).toHaveLength(1);
      return listeningPlaces(estuary, patch, steps)[0]?.there.matrix;
    };
    expect(there([])).toEqual([]);
    expect(there([old])).toEqual([old]);
  });
});

describe('the place where one stands', () => {
  const place = (id: string, ...behind: string[]) => ({
    id,
    checkpoints: [checkpoint(id)] as [Checkpoint],
    behind,
    there: lead,
  });
  const places = [place('one', 'a', 'b'), place('two', 'a', 'b', 'c', 'd')];
  it.each([
    ['none before all is done that comes before it', ['a'], 'a', undefined],
    ['the one that was just reached', ['a', 'b'], 'b', 'one'],
    ['the same whichever came last', ['b', 'a'], 'a', 'one'],
    ['none once the next movement is made', ['a', 'b', 'c'], 'c', undefined],
    ['the next one', ['a', 'b', 'c', 'd'], 'd', 'two'],
    ['none while what was put off is missing', ['a', 'c', 'd'], 'd', undefined],
    [
      'none where something behind the places was done last',
      ['a', 'b', 'c', 'd', 'e'],
      'e',
      undefined,
    ],
    ['the furthest, where what was put off comes last', ['a', 'c', 'd', 'b'], 'b', 'two'],
  ])('is %s', (_, done, last, id) => {
    expect(placeNow(places, new Set(done), last)?.id).toBe(id);
  });
});
