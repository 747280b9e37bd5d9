import type { Value } from '../instrument/schema';
import { curlew, patchOn } from '../testing/panels';
import { sluice } from '../testing/sluice';
import { panelAtStart, planRebuild } from '../rebuild/plan';
import { isWork } from '../rebuild/step';
import { forgottenAt, HEARD, notesToTry, tellingNote, withoutSteps } from './tell-note';
import type { Work } from './ways';

const phrase = [36, 43, 60].map((note, i) => ({ beat: i, length: 1, note, velocity: 100 }));
const bright = {
  ...patchOn(curlew, { cutoff: 0.6, 'env-decay': 0.4, 'mix-noise': 0.6, 'delay-mix': 0.4 }),
  phrase,
};
const steps = planRebuild(curlew, panelAtStart(curlew), bright).steps.filter(
  (s): s is Work => isWork(s) && s.kind === 'movement',
);

describe('the note that tells most', () => {
  it('is one of the phrase, or two octaves over its lowest', () => {
    expect(notesToTry({ phrase })).toEqual([36, 43, 60]);
    expect(notesToTry({ phrase: [] })).toEqual([48, 60, 72]);
    expect(notesToTry({ phrase: phrase.slice(0, 1) })).toEqual([36, 60]);
  });

  it('tells of a forgotten cutoff, and not of what changes nothing', () => {
    const cutoff: Work = {
      kind: 'movement',
      id: 'cutoff',
      control: 'cutoff',
      section: 'filter',
      from: '1',
      to: '6',
      fromValue: 0.1,
      toValue: 0.6,
      seconds: 3,
    };
    const same: Work = { ...cutoff, id: 'again', fromValue: 0.6 };
    let told = 0;
    const found = tellingNote(curlew, bright, [cutoff, same], { told: () => told++ });
    expect(notesToTry(bright)).toContain(found.note);
    expect(found.heard.map((f) => f.step.id)).toEqual(['cutoff']);
    expect(found.heard[0]!.distance).toBeGreaterThan(HEARD);
    expect(found.unheard.map((s) => s.id)).toEqual(['again']);
    expect(told).toBe(2 * notesToTry(bright).length);
  });

  it('is such that no other note tells of more movements', () => {
    const some = steps.slice(0, 5);
    expect(some.length).toBeGreaterThan(1);
    const best = tellingNote(curlew, bright, some);
    const heardAt = (note: number): number =>
      forgottenAt(curlew, bright, some, note).filter((f) => f.distance >= HEARD).length;
    expect(best.heard).toHaveLength(Math.max(...notesToTry(bright).map(heardAt)));
    expect(best.heard.length + best.unheard.length).toBe(some.length);
    const distances = best.heard.map((f) => f.distance);
    expect(distances).toEqual([...distances].sort((a, b) => b - a));
  });

  it('knows what stands while some movements are not made', () => {
    const stands = withoutSteps(bright, steps.slice(0, 1));
    expect(stands.settings[steps[0]!.id]).not.toEqual(bright.settings[steps[0]!.id]);
    expect(withoutSteps(bright, [])).toEqual(bright);
  });

  it('knows of two that hide each other: an octave up and twelve semitones down are nothing', () => {
    const patch = {
      ...patchOn(sluice, { 'mix-osc1': 0, 'mix-osc2': 0.7, cutoff: 0.8, 'osc2-interval': 0.5 }),
      phrase,
    };
    const settings = { ...patch.settings, 'osc2-octave': { kind: 'set', value: 'f8' } as const };
    const move = (control: string, fromValue: Value, toValue: Value): Work => ({
      kind: 'movement',
      id: control,
      control,
      section: 'x',
      from: '',
      to: '',
      fromValue,
      toValue,
      seconds: 1,
    });
    const octave = move('osc2-octave', 'f4', 'f8');
    const interval = move('osc2-interval', 0, 0.5);
    const cutoff = move('cutoff', 0.2, 0.8);
    const found = tellingNote(sluice, { ...patch, settings }, [octave, interval, cutoff]);
    expect(found.heard).toHaveLength(3);
    expect(found.hiding.map((pair) => pair.map((s) => s.id).sort())).toEqual([
      ['osc2-interval', 'osc2-octave'],
    ]);
  });

  it('tells whether a sound was loaded, against what stood there before', () => {
    const load: Work = { kind: 'load', id: 'load', place: 'A1', text: 'Load A1', seconds: 4 };
    const dull = patchOn(curlew, { cutoff: 0.2 });
    const found = tellingNote(curlew, bright, [load], { stood: dull });
    expect(found.heard.map((f) => f.step.id)).toEqual(['load']);
    expect(withoutSteps(bright, [load], dull).settings).toEqual({
      ...bright.settings,
      ...dull.settings,
    });
    // The same sound was there already: it is not heard.
    expect(tellingNote(curlew, bright, [load], { stood: bright }).unheard).toEqual([load]);
    // Of what stood there nobody knows.
    expect(tellingNote(curlew, bright, [load]).heard).toEqual([]);
    expect(withoutSteps(bright, [load])).toEqual(bright);
  });

  it('says how far it is', () => {
    const said: [number, number][] = [];
    tellingNote(curlew, bright, steps.slice(0, 2), { told: (...far) => said.push(far) });
    const of = 2 * notesToTry(bright).length;
    expect(said).toEqual(Array.from({ length: of }, (_, i) => [i + 1, of]));
  });

  it('can be stopped', () => {
    const stop = (): void => {
      throw new Error('enough');
    };
    expect(() => tellingNote(curlew, bright, steps.slice(0, 3), { told: stop })).toThrow('enough');
  });
});
