import { compile } from '../circuit/compile';
import { checkup } from '../checkup';
import { panelOf } from '../instrument';
import { outboardKinds } from '../instrument/outboard-kinds';
import { outboardSchema, type Outboard } from '../instrument/outboard';
import { panelAtStart, planRebuild } from '../rebuild';
import { render } from '../sound/render';
import { amplitudeAt, held } from '../testing/bench';
import { curlew, estuary, lockgate, patchOn } from '../testing/panels';
import { checkPatch } from './check';
import { diffPatches } from './diff';
import { mergePatches } from './merge';
import type { Patch } from './schema';

const kind = (id: string): Outboard =>
  outboardSchema.parse(outboardKinds.find((k) => k.id === `out-${id}`));
const set = (value: number | string) => ({ kind: 'set', value }) as const;
const sound = (patch: Patch, instrument = curlew, seconds = 0.5): Float32Array =>
  render(compile(panelOf(instrument, patch), patch), {
    sampleRate: 24000,
    seconds,
    notes: [held(48, 0.3)],
  }).samples;
describe('what stands behind an instrument', () => {
  it.each(outboardKinds.map((k) => [k.name, k] as const))(
    '%s: fits its module, stands below the panel, is heard',
    (_, thing) => {
      const own = outboardSchema.parse(thing);
      const patch: Patch = { ...patchOn(curlew), outboard: [own] };
      expect(checkPatch(patch, curlew)).toEqual([]);
      const face = panelOf(curlew, patch);
      const section = face.sections.at(-1)!;
      expect(section).toMatchObject({ id: own.id, name: own.name });
      expect(section.y).toBeGreaterThan(curlew.panel.height);
      expect(section.y + section.height).toBeLessThan(face.panel.height);
      expect(face.controls).toHaveLength(curlew.controls.length + own.controls.length);
      expect(Math.max(...sound(patch).map(Math.abs))).toBeGreaterThan(0.005);
    },
  );

  it('is the same face for the same things, and the face of a face is itself', () => {
    const patch: Patch = { ...patchOn(curlew), outboard: [kind('strip')] };
    const face = panelOf(curlew, patch);
    expect(panelOf(curlew, patch)).toBe(face);
    expect(panelOf(face, patch)).toBe(face);
    expect(panelOf(curlew, { ...patch, outboard: [] })).toBe(curlew);
  });

  it('changes nothing while nothing of it is heard, on two sides and on one', () => {
    for (const instrument of [curlew, estuary]) {
      const bare = patchOn(instrument);
      const noted: Patch = { ...bare, outboard: [kind('other')] };
      expect(sound(noted, instrument)).toEqual(sound(bare, instrument));
      const off: Patch = { ...bare, outboard: [{ ...kind('strip'), off: true }] };
      expect(sound(off, instrument)).toEqual(sound(bare, instrument));
    }
  });

  it('sounds in its order, as its knobs stand', () => {
    const dark = { 'out-speaker-edge': set(0) };
    const patch = (outboard: Outboard[], settings = {}): Patch => {
      const bare = patchOn(curlew);
      return { ...bare, outboard, settings: { ...bare.settings, ...settings } };
    };
    const highs = (p: Patch): number => {
      const all = sound(p);
      let sum = 0;
      for (let h = 30; h < 70; h++) sum += amplitudeAt(all, 130.81 * h, 24000) ** 2;
      return sum;
    };
    const [through, none] = [patch([kind('speaker')], dark), patch([])];
    expect(highs(through)).toBeLessThan(highs(none) / 100);
    const [a, b] = [kind('overload'), kind('speaker')];
    expect(sound(patch([a, b], dark))).not.toEqual(sound(patch([b, a], dark)));
    // An overload in front of the speaker loses its edges there; behind it they are heard.
    expect(highs(patch([b, a], dark))).toBeGreaterThan(2 * highs(patch([a, b], dark)));
  });

  it('is taken off at another jack, and judged from there', () => {
    const bare = patchOn(curlew);
    const shut: Patch = { ...bare, settings: { ...bare.settings, level: set(0) } };
    const outlet: Patch = { ...shut, outlet: 'j-filter' };
    expect(Math.max(...sound(shut).map(Math.abs))).toBeLessThan(1e-6);
    expect(Math.max(...sound(outlet).map(Math.abs))).toBeGreaterThan(0.05);
    const silent = (p: Patch): boolean =>
      checkup(panelOf(curlew, p), p).some((f) => f.id.startsWith('silent'));
    expect([silent(shut), silent(outlet)]).toEqual([true, false]);
    expect(checkPatch({ ...bare, outlet: 'j-cutoff' }, curlew)[0]?.pointer).toBe('/outlet');
  });

  it('is refused where it does not fit, with its place', () => {
    const wrong = (thing: Partial<Outboard>): string[] =>
      checkPatch({ ...patchOn(curlew), outboard: [{ ...kind('strip'), ...thing }] }, curlew).map(
        (p) => p.pointer,
      );
    const [first] = kind('strip').controls;
    expect(wrong({ id: 'filter' })).toEqual(['/outboard/0/id']);
    expect(wrong({ module: 'oscillator' })[0]).toBe('/outboard/0/module');
    expect(wrong({ controls: [{ ...first!, turns: ['nothing'] }] })).toEqual([
      '/outboard/0/controls/0/turns/0',
    ]);
    expect(wrong({ controls: [{ ...first!, scale: [1, 1] }] })).toEqual([
      '/outboard/0/controls/0/scale',
    ]);
    expect(wrong({ controls: [first!, first!] })).toEqual(['/outboard/0/controls/1/id']);
  });

  it('is told in differences, merged thing by thing, and led through when it is rebuilt', () => {
    const bare = patchOn(curlew);
    const mine: Patch = { ...bare, outboard: [kind('strip')] };
    const theirs: Patch = { ...bare, outboard: [kind('room')] };
    const merged = mergePatches(bare, mine, theirs).merged;
    expect(merged.outboard.map((t) => t.id).sort()).toEqual(['out-room', 'out-strip']);
    const both: Patch = { ...bare, outboard: [kind('strip'), { ...kind('room'), off: true }] };
    expect(
      diffPatches(panelOf(curlew, both), mine, both).find((d) => d.pointer === '/outboard'),
    ).toMatchObject({ before: 'Desk channel', after: 'Desk channel, then Reverb (off)' });
    const texts = (from: Patch, to: Patch): string[] =>
      planRebuild(panelOf(curlew, to), from, to).steps.flatMap((s) =>
        s.kind === 'outboard' ? [s.text] : [],
      );
    expect(texts(bare, both)).toEqual([
      'Put Desk channel behind the output',
      'Put Reverb behind Desk channel',
      'Switch Reverb off',
    ]);
    expect(texts(both, { ...bare, outlet: 'j-filter' })).toEqual([
      'Take away: Desk channel',
      'Take away: Reverb',
      'Take the sound off at the jack filter',
    ]);
    expect(texts(both, { ...both, outboard: both.outboard.toReversed() })).toHaveLength(1);
    expect(texts(both, both)).toEqual([]);
  });

  it('its knobs are movements like any others', () => {
    const bare = patchOn(curlew);
    const patch: Patch = {
      ...bare,
      outboard: [kind('strip')],
      settings: { ...bare.settings, 'out-strip-lows': set(0.8) },
    };
    const face = panelOf(curlew, patch);
    const plan = planRebuild(face, panelAtStart(face), patch);
    const step = plan.steps.find((s) => s.kind === 'movement' && s.control === 'out-strip-lows');
    expect(step).toMatchObject({ to: '9', section: 'out-strip' });
  });

  it('stands below a cabinet too', () => {
    const patch: Patch = { ...patchOn(panelOf(lockgate)), outboard: [kind('strip')] };
    const face = panelOf(lockgate, patch);
    expect(face.sections.some((s) => s.id === 'out-strip')).toBe(true);
    expect(face.sections.some((s) => s.id === 'bank-1')).toBe(true);
    expect(checkPatch(patch, lockgate)).toEqual([]);
    expect(checkPatch(patch, face)).toEqual([]);
  });
});
