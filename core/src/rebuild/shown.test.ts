import fc from 'fast-check';
import { compile } from '../circuit/compile';
import { diagnose } from '../circuit/doctor';
import { panelOf } from '../instrument';
import type { Patch } from '../patch';
import { curlew, estuary, patchOn } from '../testing/panels';
import { runs } from '../testing/runs';
import { render } from '../sound/render';
import { held } from '../testing/bench';
import { panelAtStart, planRebuild } from './plan';
import {
  beforeShown,
  certainOf,
  shownAfter,
  shownAs,
  shownHeardThen,
  shownLoaded,
  shownMoved,
  shownTurned,
  shownUnknown,
  wayBack,
} from './shown';
import { isWork } from './step';

const AT = '2026-11-29T18:00:00.000Z';
const named = (patch: Patch) => ({ id: 'p1', name: 'Fog', patch });
const first = patchOn(
  curlew,
  { cutoff: 0.3, resonance: 0.6, 'mix-osc2': 0.4, 'delay-mix': 0.3 },
  'j-lfo>j-cutoff',
);
const second = patchOn(curlew, { cutoff: 0.8, 'mix-noise': 0.5 }, 'j-env>j-lfo-rate');
const plan = (from: Parameters<typeof planRebuild>[1], to: Patch) =>
  planRebuild(panelOf(curlew, to), from, to);

describe('what a panel shows', () => {
  it('is the patch once all steps are done: nothing is left to do from there', () => {
    const before = panelAtStart(curlew);
    const steps = plan(before, first);
    const ids = steps.steps.map((s) => s.id);
    const shown = shownAfter(null, before, steps, named(first), ids, AT);
    expect(shown).toMatchObject({ finished: true, name: 'Fog', uncertain: [] });
    expect(plan(shown.panel, first).steps.filter(isWork)).toEqual([]);
    // And the next rebuild begins there, not at the start.
    const on = plan(shown.panel, second);
    expect(on.steps.filter(isWork).length).toBeGreaterThan(0);
    expect(on.steps).toEqual(plan(first, second).steps);
  });

  it('is known too when a whole patch was what it showed before', () => {
    const steps = plan(first, second);
    const shown = shownAfter(null, first, steps, named(second), [steps.steps[0]!.id], AT);
    expect(shown.finished).toBe(false);
    expect(shown.panel).not.toHaveProperty('song');
    expect(plan(shown.panel, second).steps.filter(isWork)).toHaveLength(
      steps.steps.filter(isWork).length - 1,
    );
  });

  it('broken off anywhere, in any order: what is left is done, and no more than that', () => {
    const before = panelAtStart(curlew);
    const whole = plan(before, first);
    const all = whole.steps.filter(isWork);
    fc.assert(
      fc.property(fc.subarray(all), (done) => {
        const ids = done.map((s) => s.id);
        const shown = shownAfter(null, before, whole, named(first), ids, AT);
        expect(shown.finished).toBe(done.length === all.length);
        const left = plan(shown.panel, first).steps.filter(isWork);
        const wanted = all.filter((s) => !ids.includes(s.id)).map((s) => s.id);
        expect(left.map((s) => s.id).sort()).toEqual(wanted.sort());
      }),
      { numRuns: runs(60, 1000) },
    );
  });

  it('goes on from one patch to the next as the hands do, and sounds like each', () => {
    const start = panelAtStart(curlew);
    let shown = shownAs(named({ ...first, ...start }), AT);
    for (const goal of [first, second, first]) {
      const steps = plan(shown.panel, goal);
      shown = shownAfter(
        shown,
        shown.panel,
        steps,
        named(goal),
        steps.steps.map((s) => s.id),
        AT,
      );
      const sound = (panel: Pick<Patch, 'settings' | 'cables' | 'matrix'>): Float32Array =>
        render(compile(curlew, { ...goal, ...panel }), {
          sampleRate: 12000,
          seconds: 0.3,
          notes: [held(48, 0.3)],
        }).samples;
      expect(sound(shown.panel)).toEqual(sound(goal));
    }
  });

  it('when somebody has turned things asks only for what the patch is made of', () => {
    const shown = shownTurned(shownAs(named(first), AT), curlew, AT);
    const looks = plan(beforeShown(shown, curlew, first), first).steps.flatMap((s) =>
      s.kind === 'movement' ? [s.control] : [],
    );
    expect(looks).toContain('cutoff');
    // A knob of a pulse that is not there, a drop of pitch that is none: no look is spent on what changes nothing.
    expect(looks).not.toContain('osc1-width');
    const idle = diagnose(curlew, first).flatMap((f) => (f.severity === 'idle' ? f.controls : []));
    expect(idle.length).toBeGreaterThan(2);
    expect(looks).toHaveLength(curlew.controls.length - new Set(idle).size);
    // Whatever stands at those that are left out, the sound is the patch's.
    const steps = plan(beforeShown(shown, curlew, first), first);
    const [look] = steps.steps.filter((s) => s.kind === 'movement');
    const after = shownAfter(
      shown,
      beforeShown(shown, curlew, first),
      steps,
      named(first),
      [look!.id],
      AT,
    );
    expect(after.uncertain).not.toContain(look!.id);
    expect(after.uncertain).toHaveLength(curlew.controls.length - 1);
  });

  it('keeps what stands behind, what is stored, and rows of a matrix', () => {
    const matrix = [{ row: 0, source: 'lfo', destination: 'cutoff1', depth: 0.5 }];
    const goal: Patch = {
      ...patchOn(estuary, { cutoff: 0.5 }, '', { matrix }),
      stored: { bank: 1, slot: 2, name: 'FOG' },
    };
    const before = panelAtStart(estuary);
    const steps = planRebuild(estuary, before, goal);
    const ids = steps.steps.map((s) => s.id);
    const some = ids.filter((id) => !id.startsWith('store'));
    const half = shownAfter(null, before, steps, named(goal), some, AT);
    expect(half).toMatchObject({ finished: false, panel: { matrix } });
    expect(half.panel.stored).toBeUndefined();
    const whole = shownAfter(null, before, steps, named(goal), ids, AT);
    expect(whole.panel.stored).toEqual(goal.stored);
    expect(planRebuild(estuary, whole.panel, goal).steps.filter(isWork)).toEqual([]);
  });
});

describe('a sound that was loaded from a memory', () => {
  it('brings its settings, and leaves the cables where they were', () => {
    const was = { ...shownAs(named(first), AT), uncertain: ['cutoff'] };
    const shown = shownLoaded(was, { ...named(second), id: 'p2' }, AT);
    expect(shown).toMatchObject({ patch: 'p2', finished: true, uncertain: [] });
    expect(shown.panel.settings).toEqual(second.settings);
    expect(shown.panel.cables).toEqual(first.cables);
    const left = plan(shown.panel, second).steps.filter(isWork);
    expect(left.length).toBeGreaterThan(0);
    expect(left.every((s) => s.kind === 'move' || s.kind === 'pull' || s.kind === 'add')).toBe(
      true,
    );
  });

  it('is without any cable that is known where nothing was', () => {
    const shown = shownLoaded(null, named(second), AT);
    expect(shown.panel.cables).toEqual([]);
    expect(shown.panel.settings).toEqual(second.settings);
  });

  it('makes every control uncertain where nobody knows what it is, and is no patch any more', () => {
    const half = { ...shownAs(named(first), AT), finished: false, way: { origin: 'start' } };
    const shown = shownUnknown(half, curlew, 'what A12 holds', AT);
    expect(shown).toMatchObject({ name: 'what A12 holds', finished: true });
    expect(shown.patch).toBeUndefined();
    expect(shown.way).toBeUndefined();
    expect(shown.uncertain).toHaveLength(curlew.controls.length);
    expect(shown.panel.cables).toEqual(first.cables);
  });
});

describe('a rebuild that was left half way', () => {
  it('goes on from where it began, towards the same patch only', () => {
    const began = shownAs(named(second), AT);
    const steps = plan(began.panel, first);
    const [one] = steps.steps.filter(isWork);
    const half = shownAfter(began, began.panel, steps, named(first), [one!.id], AT, 'shown');
    const way = wayBack(half, 'p1', 'Fog')!;
    expect(way).toMatchObject({ origin: 'shown', began: { name: 'Fog', panel: began.panel } });
    expect(plan(way.began.panel, first).steps).toEqual(steps.steps);
    expect(wayBack(half, 'p2', 'Fog')).toBeUndefined();
    expect(wayBack(half, 'p1', 'Fog: thin')).toBeUndefined();
    const start = panelAtStart(curlew);
    const fromStart = plan(start, first);
    const [level] = fromStart.steps.filter(isWork);
    const left = shownAfter(null, start, fromStart, named(first), [level!.id], AT, 'start');
    expect(wayBack(left, 'p1', 'Fog')?.origin).toBe('start');
    const ids = fromStart.steps.map((s) => s.id);
    const done = shownAfter(left, start, fromStart, named(first), ids, AT, 'start');
    expect([done.way, wayBack(done, 'p1', 'Fog')]).toEqual([undefined, undefined]);
  });

  it('follows hands that do on it what is done to the patch', () => {
    const shown = shownAs(named(first), AT);
    const later = '2026-11-29T18:05:00.000Z';
    const turned: Patch = {
      ...first,
      settings: { ...first.settings, cutoff: { kind: 'set', value: 0.55 } },
      cables: second.cables,
    };
    const now = shownMoved(shown, first, turned, later);
    expect(now.at).toBe(later);
    // Nothing is left to do for the patch as it is now; for what it was, the cutoff and the cables.
    expect(plan(now.panel, turned).steps.filter(isWork)).toEqual([]);
    const back = plan(now.panel, first).steps.filter(isWork);
    expect(back.map((s) => (s.kind === 'movement' ? s.control : s.kind)).sort()).toEqual(
      plan(turned, first)
        .steps.filter(isWork)
        .map((s) => (s.kind === 'movement' ? s.control : s.kind))
        .sort(),
    );
    expect(shownMoved(shown, first, first, AT)).toEqual(shown);
  });

  it('is certain again of what a hand has turned, and says nothing of what is not', () => {
    const unsure = shownTurned(shownAs(named(first), AT), panelOf(curlew, first), AT);
    const turned: Patch = {
      ...first,
      settings: { ...first.settings, cutoff: { kind: 'set', value: 0.55 } },
    };
    const now = shownMoved(unsure, first, turned, AT);
    expect(now.uncertain).not.toContain('cutoff');
    expect(now.uncertain.length).toBe(unsure.uncertain.length - 1);
    expect(Object.keys(certainOf(now).settings)).toEqual(['cutoff']);
    expect(certainOf(shownAs(named(first), AT))).toEqual(shownAs(named(first), AT).panel);
    // What is not known has to be looked at: its movement begins with a question.
    const steps = plan(certainOf(now), second).steps;
    const level = steps.find((s) => s.kind === 'movement' && s.control === 'resonance');
    expect(level).toMatchObject({ from: '?' });
  });
});

describe('what was heard of a panel and is told later', () => {
  const [moved, other] = ['cutoff', 'resonance'].map((id) =>
    curlew.controls.find((c) => c.id === id)!,
  );
  const shown = { ...shownAs(named(first), AT), uncertain: [other!.id] };
  const at = (seconds: number) => new Date(Date.parse(AT) + 1000 * seconds).toISOString();
  const heard = (value: number, seconds: number, control = moved!) => ({
    control,
    value,
    at: at(seconds),
  });

  it('stands where nothing was said of the panel since', () => {
    const now = shownHeardThen(shown, [heard(0.9, 5), heard(0.1, 2, other)], AT);
    expect(now.panel.settings[moved!.id]).toEqual({ kind: 'set', value: 0.9 });
    expect(now.panel.settings[other!.id]).toEqual({ kind: 'set', value: 0.1 });
    expect(now).toMatchObject({ uncertain: [], at: at(5) });
  });

  it('makes uncertain what may have been moved back since, and leaves what is believed', () => {
    const now = shownHeardThen(shown, [heard(0.9, -1)], AT);
    expect(now.panel).toEqual(shown.panel);
    expect(now).toMatchObject({ uncertain: [other!.id, moved!.id], at: AT });
  });

  it('says nothing new where it is what is believed anyhow, as near as 128 values tell', () => {
    expect(shownHeardThen(shown, [heard(38 / 127, -1)], AT)).toEqual(shown);
  });
});
