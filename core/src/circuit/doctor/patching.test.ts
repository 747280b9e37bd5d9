import { phraseToNotes } from '../../pattern/timed';
import type { Instrument } from '../../instrument';
import { peakOf } from '../../measure/level';
import { type Patch, settingsAt } from '../../patch';
import { render } from '../../sound';
import { cabinet, curlew, estuary, patchOn } from '../../testing/panels';
import { sluice, initWith } from '../../testing/sluice';
import { compile } from '../compile';
import { applyMend, diagnose, type Finding, openFindings } from './index';

const ids = (instrument: Instrument, patch: Patch): string[] =>
  diagnose(instrument, patch).map((f) => f.id);
function find(instrument: Instrument, patch: Patch, id: string): Finding {
  const all = diagnose(instrument, patch);
  const found = all.find((f) => f.id.startsWith(id));
  if (!found) throw new Error(`No ${id} in ${all.map((f) => f.id).join(', ')}`);
  return found;
}
const mended = (instrument: Instrument, patch: Patch, id: string): Patch =>
  applyMend(patch, find(instrument, patch, id).mend!);
const peak = (instrument: Instrument, patch: Patch): number =>
  peakOf(
    render(compile(instrument, patch), {
      sampleRate: 24000,
      seconds: 0.5,
      notes: phraseToNotes(patch.phrase, patch.tempo),
    }).samples,
  );

/** A voice of the cabinet that sounds: one oscillator, its filter, an amplifier, an envelope. */
const VOICE =
  'kb-pitch>bank-1-pitch bank-1-a>ladder-1-in ladder-1-out>vca-1-in vca-1-out>line-in env-1-out>vca-1-cv';
const open = { 'ladder-1-cutoff': 0.9, level: 0.7 };

describe('gates and S-triggers', () => {
  const through = `${VOICE.replace('env-1-out', 'senv-1-out')} kb-gate>senv-1-gate`;
  const patch = patchOn(cabinet, open, through);

  it('do not drive each other: it is silent, and the cable is named', () => {
    expect(peak(cabinet, patch)).toBeLessThan(1e-5);
    const finding = find(cabinet, patch, 'gate-standard');
    expect(finding.title).toContain('Keyboard gate → Contour S S-trig');
    expect(finding.cables).toEqual(['c6']);
  });

  it('are joined by the converter that is free', () => {
    const finding = find(cabinet, patch, 'gate-standard');
    expect(finding.mend!.text).toBe('Go through Converters gate and Converters S-trig');
    const after = applyMend(patch, finding.mend!);
    expect(ids(cabinet, after)).not.toContain(finding.id);
    expect(peak(cabinet, after)).toBeGreaterThan(0.02);
  });
});

describe('pitch standards', () => {
  const patch = patchOn(
    cabinet,
    open,
    `${VOICE} kb-gate>env-1-gate kb-trig>mult-1-in mult-1-o1>hzosc-1-pitch hzosc-1-out>mixer-1-in1`,
  );

  it('that do not match are told with their names, and mended by the converter', () => {
    const direct = { ...patch, cables: patch.cables.filter((c) => c.from !== 'kb-pitch') };
    const wrong = patchOn(cabinet, open, 'kb-pitch>hzosc-1-pitch hzosc-1-out>line-in');
    const finding = find(cabinet, wrong, 'pitch-standard');
    expect(finding.why).toContain('Keyboard pitch counts V/oct, Osc Hz Hz/V counts Hz/V');
    const after = applyMend(wrong, finding.mend!);
    expect(ids(cabinet, after).filter((id) => id.startsWith('pitch-standard'))).toEqual([]);
    expect(after.cables.map((c) => `${c.from}>${c.to}`)).toContain('conv-1-hz>hzosc-1-pitch');
    // A trigger is no pitch: it has no standard to be wrong about.
    expect(ids(cabinet, direct).filter((id) => id.startsWith('pitch-standard'))).toEqual([]);
  });

  it('are followed through a multiple', () => {
    const wrong = patchOn(
      cabinet,
      open,
      'kb-pitch>mult-1-in mult-1-o1>hzosc-1-pitch hzosc-1-out>line-in',
    );
    expect(find(cabinet, wrong, 'pitch-standard').why).toContain('Keyboard pitch counts V/oct');
  });
});

describe('plugs too many', () => {
  it('in an input: the second is pulled', () => {
    const patch = patchOn(cabinet, open, `${VOICE} kb-gate>env-1-gate noise-1-out>ladder-1-in`);
    expect(find(cabinet, patch, 'driven-twice').cables).toEqual(['c2', 'c7']);
    expect(ids(cabinet, mended(cabinet, patch, 'driven-twice'))).not.toContain(
      'driven-twice:ladder-1-in',
    );
  });

  it('in an output: a multiple that is free goes between', () => {
    const patch = patchOn(cabinet, open, `${VOICE} kb-gate>env-1-gate kb-gate>env-2-gate`);
    const after = mended(cabinet, patch, 'split:kb-gate');
    expect(after.cables.map((c) => `${c.from}>${c.to}`).slice(-3)).toEqual([
      'kb-gate>mult-1-in',
      'mult-1-o1>env-1-gate',
      'mult-1-o2>env-2-gate',
    ]);
    expect(ids(cabinet, after).filter((id) => id.startsWith('split'))).toEqual([]);
    expect(peak(cabinet, after)).toBeGreaterThan(0.02);
  });
});

describe('a pitch that loses level', () => {
  const cables = `${VOICE.replace('kb-pitch>bank-1-pitch', 'kb-pitch>att-1-in1 att-1-out1>boost-1-in boost-1-out>bank-1-pitch')} kb-gate>env-1-gate`;
  const patch = patchOn(cabinet, { ...open, 'att-1-g1': 1, 'boost-1-gain': 0.5 }, cables);

  it('is told in cents, with the gain that repairs it: 0.93 makes 1116, 1.0753 repairs it', () => {
    const finding = find(cabinet, patch, 'pitch-loss');
    expect(finding.why).toMatch(/times 0\.93: an octave of 1200 cents comes as 1116/);
    expect(finding.why).toMatch(/gain of 1\.0753 \(\+0\.63 dB\)/);
  });

  it('is repaired by the control that can, as exactly as the panel resolves', () => {
    const after = mended(cabinet, patch, 'pitch-loss');
    expect(after.settings['boost-1-gain']).toMatchObject({ kind: 'set' });
    const set = after.settings['boost-1-gain'];
    expect(set?.kind === 'set' && Math.abs(Number(set.value) - 1.0753 / 2)).toBeLessThan(0.01);
  });
});

describe('broken normals', () => {
  it('that were needed are mended by pulling the plug', () => {
    const patch = patchOn(curlew, {}, '>j-amp');
    const [finding] = diagnose(curlew, patch);
    expect(finding!.severity).toBe('silent');
    expect(finding!.mend!.pull).toEqual(['c1']);
    expect(peak(curlew, applyMend(patch, finding!.mend!))).toBeGreaterThan(0.02);
  });

  it('say why a knob no longer answers', () => {
    const patch = patchOn(curlew, { 'amp-mode': 'gate' }, 'j-gate>j-amp');
    const idle = diagnose(curlew, patch).find((f) => f.id === 'idle:amp-mode');
    expect(idle?.why).toBe('The plug in amp breaks its wire.');
  });
});

describe('hints', () => {
  it('tell two oscillators in tune and equally loud, with the dip of unequal ones', () => {
    const even = initWith({ 'mix-osc1': 0.8, 'mix-osc2': 0.8, 'osc2-fine': 0.5 });
    expect(find(sluice, even, 'cancelling').why).toContain('dips to nothing');
    const softer = initWith({ 'mix-osc1': 0.8, 'mix-osc2': 0.56, 'osc2-fine': 0.5 });
    expect(ids(sluice, softer).filter((id) => id.startsWith('cancelling'))).toEqual([]);
    const apart = initWith({ 'mix-osc1': 0.8, 'mix-osc2': 0.8, 'osc2-fine': 0.6 });
    expect(ids(sluice, apart).filter((id) => id.startsWith('cancelling'))).toEqual([]);
  });

  const wet = { 'delay-mix': 0.5, 'reverb-mix': 0.5 };
  it('tell a reverb behind a delay, and none when they stand side by side', () => {
    expect(ids(estuary, patchOn(estuary, wet))).toContain('chain:delay>reverb');
    const beside = patchOn(estuary, { ...wet, 'fx-routing': 'parallel' });
    expect(ids(estuary, beside)).not.toContain('chain:delay>reverb');
  });

  it('are silent about what is meant so, and keep the reason', () => {
    const patch = patchOn(estuary, wet, '', { meant: { 'chain:delay>reverb': 'a hall' } });
    expect(find(estuary, patch, 'chain').meant).toBe('a hall');
    expect(openFindings(diagnose(estuary, patch)).map((f) => f.id)).not.toContain(
      'chain:delay>reverb',
    );
  });

  it('tell a filter release that nobody hears', () => {
    const patch = initWith({
      'filter-amount': 0.8,
      'env2-sustain': 0.5,
      'env2-release': 0.9,
      'env1-release': 0.2,
    });
    const finding = find(sluice, patch, 'tail:env2');
    expect(ids(sluice, applyMend(patch, finding.mend!))).not.toContain('tail:env2');
  });

  it('tell an amount that drives the cutoff past the end of the filter', () => {
    const patch = initWith({ cutoff: 1, 'filter-amount': 1 });
    expect(find(sluice, patch, 'cutoff-past').why).toMatch(/it ends at 20 kHz/);
    expect(ids(sluice, initWith({ cutoff: 0.5 })).join()).not.toContain('cutoff-past');
  });
});

describe('time', () => {
  const tied = { 'lfo-1-shape': 'square', 'clock-1-beats': 'b8' };

  it('tells a delay that runs free beside a clock, with the nearest note length', () => {
    // At 120 bpm an eighth is 250 ms.
    const cables = 'j-lfo>j-env-gate';
    const patch = patchOn(curlew, { 'delay-mix': 0.5, 'delay-time': 0.62 }, cables);
    expect(ids(curlew, patch).join()).not.toContain('free-delay');
    const tied = settingsAt({ 'lfo-tied': 'b1', 'filter-lfo': 0.5 });
    const clocked = { ...patch, cables: [], settings: { ...patch.settings, ...tied } };
    const finding = find(curlew, clocked, 'free-delay:delay');
    expect(finding.why).toMatch(/LFO is tied to 120 bpm/);
    const after = applyMend(clocked, finding.mend!);
    expect(ids(curlew, after)).not.toContain('free-delay:delay');
  });

  it('tells an LFO that opens a gate with its phase running free', () => {
    const patch = patchOn(cabinet, { ...open, ...tied }, `${VOICE} lfo-1-out>env-1-gate`);
    const finding = find(cabinet, patch, 'free-gate:lfo-1-l');
    expect(finding.why).toContain('Patch a gate into its reset');
  });
});

describe('levels', () => {
  it('that are more than an input takes are told with how far to turn down', () => {
    const jacks = curlew.jacks.map((j) => (j.id === 'j-ext' ? { ...j, level: 5 } : j));
    const soft = { ...curlew, jacks };
    const patch = patchOn(soft, {}, 'j-filter>j-ext');
    expect(find(soft, patch, 'hot:c1').why).toMatch(/up to 8 V, and 5 V .* down to 63 %/);
    expect(ids(curlew, patch).join()).not.toContain('hot:');
  });
});

describe('what was left on', () => {
  it('is a matrix row whose goal is not heard', () => {
    const matrix = [{ row: 0, source: 'lfo', destination: 'pitch2', depth: 0.5 }];
    const patch = patchOn(estuary, { 'mix-osc2': 0 }, '', { matrix });
    const finding = find(estuary, patch, 'idle-row:0');
    expect(applyMend(patch, finding.mend!).matrix).toEqual([]);
    const heard = patchOn(estuary, { 'mix-osc2': 0.7 }, '', { matrix });
    expect(ids(estuary, heard)).not.toContain('idle-row:0');
  });

  it('is a cable that leads nowhere, and a plug that breaks nothing', () => {
    const patch = patchOn(curlew, {}, 'j-lfo>j-att >j-cutoff');
    expect(find(curlew, patch, 'idle-cable:c1').why).toContain('attenuator is not heard');
    expect(find(curlew, patch, 'idle-cable:c2').why).toContain('No wire inside is broken');
    const resting = {
      ...patch,
      cables: patch.cables.map((c) => ({ ...c, inactive: true })),
    };
    expect(ids(curlew, resting).filter((id) => id.startsWith('idle-cable'))).toEqual([]);
  });
});
