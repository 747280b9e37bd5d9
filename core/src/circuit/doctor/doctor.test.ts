import type { PhraseNote } from '../../pattern/phrase';
import { phraseToNotes } from '../../pattern/timed';
import fc from 'fast-check';
import { isSwitched, type Value } from '../../instrument';
import type { Patch } from '../../patch';
import { peakOf } from '../../measure/level';
import { render } from '../../sound';
import { runs } from '../../testing/runs';
import { anyPanel, initWith, sluice } from '../../testing/sluice';
import { compile } from '../compile';
import { applyMend, diagnose, type Finding } from './index';

const phrase: PhraseNote[] = [{ beat: 0, length: 0.2, note: 45, velocity: 100 }];
const patchOf = (values: Record<string, Value>, more: Partial<Patch> = {}): Patch =>
  initWith(values, { phrase, revision: 'board-b', ...more });
const play = (patch: Patch, seconds = 0.3): Float32Array =>
  render(compile(sluice, patch), {
    sampleRate: 24000,
    seconds,
    notes: phraseToNotes(patch.phrase, patch.tempo),
  }).samples;
const find = (patch: Patch, id: string): Finding => {
  const all = diagnose(sluice, patch);
  const found = all.find((f) => f.id.startsWith(id));
  if (!found) throw new Error(`No ${id} in ${all.map((f) => f.id).join(', ')}`);
  return found;
};
const silent = (patch: Patch): Finding[] =>
  diagnose(sluice, patch).filter((f) => f.severity === 'silent');
/** -120 dB: no more than the hiss of a circuit. */
const SILENCE = 1e-6;
/** Loud enough to be heard: -60 dB. */
const heard = (patch: Patch): boolean => peakOf(play(patch)) > 0.001;

describe('a patch that sounds', () => {
  it('is not called silent', () => {
    expect(silent(patchOf({}))).toEqual([]);
    expect(diagnose(sluice, patchOf({})).filter((f) => f.severity === 'wrong')).toEqual([]);
  });
});

describe('silence', () => {
  it.each<[string, Record<string, Value>, string[]]>([
    ['the level is down', { level: 0 }, ['level']],
    ['the mixer is down', { 'mix-osc1': 0 }, ['mix-osc1']],
    ['both are down', { level: 0, 'mix-osc1': 0 }, ['mix-osc1', 'level']],
  ])('%s: names the gains and mends them', (_, values, controls) => {
    const patch = patchOf(values);
    expect(peakOf(play(patch))).toBeLessThan(SILENCE);
    const [finding] = silent(patch);
    expect(finding!.id).toMatch(/^silent-gain/);
    expect(finding!.controls).toEqual(controls);
    expect(Object.keys(finding!.mend!.settings).sort()).toEqual([...controls].sort());
    const mended = applyMend(patch, finding!.mend!);
    expect(silent(mended)).toEqual([]);
    expect(heard(mended)).toBe(true);
  });

  it('tells it in the panel’s words', () => {
    const [finding] = silent(patchOf({ level: 0 }));
    expect(finding!.why).toContain('Out level is at 0');
    expect(finding!.mend!.text).toBe('Set Out level to 7');
  });

  it('finds a cutoff below the lowest partial, with everything that lifts it', () => {
    const dark = { cutoff: 0, 'osc1-octave': 'f2' };
    const patch = patchOf(dark);
    const finding = find(patch, 'cutoff-below');
    expect(finding.severity).toBe('silent');
    expect(finding.why).toMatch(/20 Hz at most.*440 Hz/);
    expect(heard(patch)).toBe(false);
    expect(heard(applyMend(patch, finding.mend!))).toBe(true);
    // An envelope that lifts it by five octaves is enough.
    expect(
      diagnose(sluice, patchOf({ ...dark, 'filter-amount': 1 })).some(
        (f) => f.severity === 'silent',
      ),
    ).toBe(false);
  });

  it('finds a high-pass that takes what the low-pass leaves', () => {
    const patch = patchOf({ cutoff: 0.2, 'high-pass': 1 });
    const finding = find(patch, 'band-closed');
    expect(finding.severity).toBe('silent');
    expect(finding.controls).toEqual(['high-pass', 'cutoff']);
    expect(heard(patch)).toBe(false);
    expect(heard(applyMend(patch, finding.mend!))).toBe(true);
  });

  it('finds an envelope that never opens while the notes last', () => {
    const patch = patchOf({ 'env1-attack': 1 });
    const finding = find(patch, 'envelope-closed');
    expect(finding.controls[0]).toBe('env1-attack');
    expect(finding.why).toMatch(/10 s.*100 ms/);
    expect(peakOf(play(applyMend(patch, finding.mend!)))).toBeGreaterThan(10 * peakOf(play(patch)));
  });

  it('finds a pulse at the end of its width, alone and beside others', () => {
    const alone = patchOf({ 'osc1-shape': 'pulse', 'osc1-width': 0 });
    expect(find(alone, 'pulse-vanished').severity).toBe('silent');
    expect(heard(applyMend(alone, find(alone, 'pulse-vanished').mend!))).toBe(true);
    const beside = patchOf({ 'osc1-shape': 'pulse', 'osc1-width': 0, 'mix-osc2': 0.8 });
    expect(find(beside, 'pulse-vanished').severity).toBe('wrong');
  });

  it('finds that a plug has broken the only way, and which to pull', () => {
    const copy = structuredClone(sluice);
    copy.jacks.push({ ...copy.jacks[1]!, id: 'amp-in', name: 'amp in', port: 'amp.in' });
    copy.circuit.wires.find((w) => w.to === 'amp.in')!.normalOf = 'amp-in';
    const patch = patchOf({}, { cables: [{ id: 'dead', to: 'amp-in' }] });
    const [finding] = diagnose(copy, patch);
    expect(finding!.id).toBe('silent-no-path');
    expect(finding!.mend!.pull).toEqual(['dead']);
    expect(
      diagnose(copy, applyMend(patch, finding!.mend!)).some((f) => f.severity === 'silent'),
    ).toBe(false);
  });
});

describe('what is hardly meant', () => {
  it('a pulse that goes silent at the end of its modulation; the mend keeps it sounding', () => {
    const patch = patchOf({ 'osc1-shape': 'pulse', 'osc1-width': 0.3, 'osc1-pwm': 1 });
    const finding = find(patch, 'pulse-at-end');
    expect(finding.title).toMatch(/lower end/);
    expect(finding.controls).toContain('osc1-pwm');
    const mended = applyMend(patch, finding.mend!);
    expect(diagnose(sluice, mended).some((f) => f.id.startsWith('pulse-at-end'))).toBe(false);
  });

  it('a synced oscillator below its master; an octave mends it', () => {
    const low = { 'osc2-sync': 'on', 'osc2-octave': 'f16', 'mix-osc2': 0.8 };
    const patch = patchOf(low);
    const finding = find(patch, 'sync-low');
    expect(finding.why).toMatch(/12 semitones/);
    expect(finding.mend!.settings).toEqual({ 'osc2-octave': { kind: 'set', value: 'f8' } });
    expect(
      diagnose(sluice, patchOf({ ...low, 'osc2-sweep': 0.5 })).some((f) =>
        f.id.startsWith('sync-low'),
      ),
    ).toBe(false);
  });

  it('an envelope that is only a click', () => {
    const patch = patchOf({ 'env1-attack': 0, 'env1-decay': 0, 'env1-sustain': 0 });
    expect(find(patch, 'envelope-click').controls).toEqual(['env1-sustain', 'env1-decay']);
  });
});

describe('controls that change nothing', () => {
  /** Any panel with its gains up, so that most of them sound. */
  const anySounding = anyPanel.map((panel): Record<string, Value> => ({
    ...panel,
    level: 0.7,
    'mix-osc1': 0.8,
    cutoff: 0.9,
    'high-pass': 0,
    'env1-attack': 0,
  }));
  const why = (id: string, values: Record<string, Value>): string | undefined =>
    diagnose(sluice, patchOf(values)).find((f) => f.id === `idle:${id}`)?.why;

  it.each<[string, Record<string, Value>, RegExp]>([
    ['osc1-width', {}, /A saw has no width/],
    ['osc2-fine', {}, /Mix osc 2 is at 0/],
    ['env2-attack', {}, /env 2 amount is at 0|Filter env 2 amount is at 0/],
    ['env1-decay', {}, /sustain is full up/],
    ['osc1-octave', { 'osc1-shape': 'noise' }, /Noise has no pitch/],
    ['osc1-shape', { 'mix-osc1': 0, 'osc2-sync': 'on', 'mix-osc2': 0.8 }, /only the sync is used/],
    ['wheel', {}, /vibrato is at 0/],
  ])('%s', (id, values, reason) => expect(why(id, values)).toMatch(reason));

  it('says nothing of what does not matter, is not recorded, or can be heard when turned', () => {
    const patch = patchOf({});
    delete patch.settings['osc2-fine'];
    patch.settings['osc2-width'] = { kind: 'any' };
    const ids = diagnose(sluice, patch).map((f) => f.id);
    for (const id of ['osc2-fine', 'osc2-width', 'cutoff', 'mix-osc2', 'filter-amount', 'level']) {
      expect(ids).not.toContain(`idle:${id}`);
    }
  });

  it('really change nothing: not one sample moves when they are turned', () => {
    let turned = 0;
    fc.assert(
      fc.property(anySounding, fc.constantFrom('board-a', 'board-b'), (values, revision) => {
        const patch = patchOf(values, { revision });
        fc.pre(silent(patch).length === 0);
        const before = play(patch, 0.15);
        const idle = diagnose(sluice, patch).filter((f) => f.severity === 'idle');
        for (const { controls } of idle) {
          const control = sluice.controls.find((c) => c.id === controls[0])!;
          // One at a time: what is idle now need not be when something else has been turned.
          const other = isSwitched(control)
            ? control.positions.at(-1)!.id
            : Number(values[control.id]) > 0.5
              ? 0.13
              : 0.87;
          const after = play(patchOf({ ...values, [control.id]: other }, { revision }), 0.15);
          expect([control.id, after.findIndex((v, i) => v !== before[i])]).toEqual([
            control.id,
            -1,
          ]);
          turned++;
        }
      }),
      { numRuns: runs(25) },
    );
    expect(turned).toBeGreaterThan(20);
  });
});

describe('any panel', () => {
  /** Panels of which some gain is down that everything goes through. */
  const anyQuiet = fc
    .tuple(anyPanel, fc.constantFrom('level', 'mix-osc1'))
    .map(([panel, down]) => ({
      ...panel,
      'mix-osc2': 0,
      'mix-noise': 0,
      [down]: 0,
    }));

  it('that is called silent for its gains is silent, and the mend leaves no gain in the way', () => {
    fc.assert(
      fc.property(anyQuiet, (values) => {
        const patch = patchOf(values);
        const gains = silent(patch).filter((f) => f.id.startsWith('silent-gain'));
        fc.pre(gains.length > 0);
        expect(peakOf(play(patch, 0.1))).toBeLessThan(SILENCE);
        const mended = gains.reduce((p, f) => (f.mend ? applyMend(p, f.mend) : p), patch);
        expect(silent(mended).filter((f) => f.id.startsWith('silent-gain'))).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });

  it('that sounds is silent with its level down, and the mend brings the sound back', () => {
    fc.assert(
      fc.property(anyPanel, (values) => {
        fc.pre(heard(patchOf({ ...values, level: 0.7 })));
        const patch = patchOf({ ...values, level: 0 });
        const [finding] = silent(patch);
        expect(finding?.id).toMatch(/^silent-gain/);
        expect(peakOf(play(patch, 0.1))).toBeLessThan(SILENCE);
        expect(heard(applyMend(patch, finding!.mend!))).toBe(true);
      }),
      { numRuns: runs(60) },
    );
  });
});
