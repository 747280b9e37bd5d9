import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { applyMend, compile, diagnose, type Finding } from '../circuit';
import { type Instrument, instrumentSchema, isSwitched, panelOf, type Value } from '../instrument';
import { type Patch, patchSchema } from '../patch';
import { phraseToNotes } from '../pattern';
import { startRender } from '../sound';
import { cabinet, curlew, patchOn } from '../testing/panels';
import { runs } from '../testing/runs';
import { initWith, sluice } from '../testing/sluice';
import { checkup } from './checkup';
import { SILENCE } from './sounding';

const library = join(import.meta.dirname, '../../../library');
const read = (folder: string): unknown[] =>
  readdirSync(join(library, folder), { recursive: true })
    .map(String)
    .filter((name) => name.endsWith('.json'))
    .map((name) => JSON.parse(readFileSync(join(library, folder, name), 'utf8')) as unknown);
const instruments = new Map(
  read('instruments').map((source): [string, Instrument] => {
    const instrument = instrumentSchema.parse(source);
    return [instrument.id, instrument];
  }),
);
const patches = read('patches').map((source) => patchSchema.parse(source));
const panel = (patch: Patch): Instrument => panelOf(instruments.get(patch.instrument)!, patch);

/** Highest sample over a phrase and the seconds behind it, given up once it is heard; what settles at the sockets left out. */
function peakOf(instrument: Instrument, patch: Patch, seconds = 10): number {
  const notes = phraseToNotes(patch.phrase, patch.tempo).map((n) => ({ ...n, start: n.start + 1 }));
  const options = { sampleRate: 48000, seconds: seconds + 1, notes, tempo: patch.tempo };
  const job = startRender(compile(instrument, patch), options);
  let peak = 0;
  for (let until = 2; until <= seconds + 1 && peak < 10 * SILENCE; until++) {
    job.continueTo(until);
    const { samples } = job.rendering;
    const heard = samples.subarray(48000, until * 48000);
    peak = heard.reduce((top, v) => Math.max(top, Math.abs(v)), 0);
  }
  return peak;
}
const silent = (findings: readonly Finding[]): boolean =>
  findings.some((f) => f.severity === 'silent');
const find = (instrument: Instrument, patch: Patch, id: string): Finding | undefined =>
  checkup(instrument, patch).find((f) => f.id.startsWith(id));

/** A patch of the library whose every control stands somewhere. */
const anyPatch: fc.Arbitrary<Patch> = fc
  .constantFrom(...patches.filter((p) => p.instrument !== 'marram-estuary'))
  .chain((patch) =>
    fc
      .tuple(
        ...panel(patch).controls.map((c): fc.Arbitrary<Value> =>
          isSwitched(c)
            ? fc.constantFrom(...c.positions.map((p) => p.id))
            : fc.oneof(
                fc.constantFrom(0, 0.5, 1),
                fc.integer({ min: 0, max: 100 }).map((n) => n / 100),
              ),
        ),
      )
      .map((values) => ({
        ...patch,
        meant: {},
        settings: Object.fromEntries(
          panel(patch).controls.map((c, i) => [c.id, { kind: 'set' as const, value: values[i]! }]),
        ),
      })),
  );

describe('any panel', () => {
  it('is called silent when it is, and every mend that is shown mends it', () => {
    let [quiet, mended] = [0, 0];
    fc.assert(
      fc.property(anyPatch, (patch) => {
        const instrument = panel(patch);
        const findings = checkup(instrument, patch);
        const isQuiet = peakOf(instrument, patch) < SILENCE;
        expect(silent(findings)).toBe(isQuiet);
        if (isQuiet) quiet++;
        for (const f of findings.filter((f) => f.severity !== 'idle' && f.mend).slice(0, 2)) {
          const after = checkup(instrument, applyMend(patch, f.mend!));
          expect([f.id, after.map((g) => g.id).includes(f.id)]).toEqual([f.id, false]);
          if (f.severity === 'silent') expect([f.id, silent(after)]).toEqual([f.id, false]);
          mended++;
        }
      }),
      // One seed, so that both kinds are among the few.
      { numRuns: runs(8, 300), seed: 11 },
    );
    expect(quiet).toBeGreaterThan(0);
    expect(mended).toBeGreaterThan(3);
  }, 120_000);
});

describe('small losses', () => {
  // Each lets something through; all of them together nothing that is heard.
  const patch = initWith({ level: 0.04, 'mix-osc1': 0.04, cutoff: 0.12, 'osc1-octave': 'f4' });

  it('that add up to silence are told, with what each takes and the cheapest cure', () => {
    expect(peakOf(sluice, patch)).toBeLessThan(SILENCE);
    expect(silent(diagnose(sluice, patch))).toBe(false);
    const finding = find(sluice, patch, 'silent-sum')!;
    expect(finding.why).toMatch(/Filter cutoff takes \d+ dB/);
    expect(Object.keys(finding.mend!.settings)).toHaveLength(1);
    expect(peakOf(sluice, applyMend(patch, finding.mend!))).toBeGreaterThan(SILENCE);
  });
});

describe('what runs by itself', () => {
  const cables = 'bank-1-a>vca-1-in vca-1-out>line-in lfo-1-out>vca-1-cv';
  const patch = patchOn(cabinet, { level: 0.7 }, cables, { phrase: [] });

  it('is heard without a key: an oscillator that an LFO lets through is not silent', () => {
    expect(peakOf(cabinet, patch)).toBeGreaterThan(0.01);
    expect(silent(checkup(cabinet, patch, []))).toBe(false);
  });
});

describe('oscillators that meet', () => {
  const even = (values: Record<string, Value>): Patch =>
    initWith({ 'mix-osc1': 0.5, 'mix-osc2': 0.5, 'osc2-fine': 0.5, ...values });
  const met = (patch: Patch): Finding | undefined => find(sluice, patch, 'cancelling');

  it('pulse and saw at one level do not cancel: their fundamentals are 2 to 1, a dip of 9.5 dB', () => {
    const patch = even({ 'osc1-shape': 'pulse', 'osc1-width': 0.5, 'osc2-shape': 'saw' });
    expect(met(patch)).toBeUndefined();
  });

  it('saws at one level do; one at half leaves 9.5 dB, as rendering says too', () => {
    const finding = met(even({ 'osc1-shape': 'saw', 'osc2-shape': 'saw' }))!;
    expect(finding.why).toContain('the fundamental dips to nothing');
    expect(finding.mend).toBeDefined();
    expect(
      met(applyMend(even({ 'osc1-shape': 'saw', 'osc2-shape': 'saw' }), finding.mend!)),
    ).toBeUndefined();
  });

  it('two cents apart they beat so slowly that a note may fall into the hole', () => {
    const fine = sluice.controls.find((c) => c.id === 'osc2-fine')!;
    const taper =
      'rest' in fine && 'taper' in fine.bindings[0]! ? fine.bindings[0].taper : undefined;
    const span = taper?.kind === 'linear' ? taper.hi - taper.lo : 0;
    const patch = even({ 'osc1-shape': 'saw', 'osc2-shape': 'saw', 'osc2-fine': 0.5 + 2 / span });
    expect(met(patch)?.why).toMatch(/With their beat, once in .* s on the lowest note/);
  });

  it('an octave apart it is the second partial that meets the fundamental', () => {
    const octave = {
      'osc1-shape': 'saw',
      'osc2-shape': 'saw',
      'osc1-octave': 'f16',
      'osc2-octave': 'f8',
    };
    // At one level they are 1 to 2 where they meet.
    expect(met(even(octave))).toBeUndefined();
    expect(met(even({ ...octave, 'mix-osc1': 1 }))?.why).toContain(
      'second partial of oscillator 1',
    );
  });
});

describe('a wheel straight into a width', () => {
  const patch = patchOn(curlew, { 'osc2-wave': 'pulse', 'mix-osc2': 0.8 }, 'j-wheel>j-osc2-width');

  it('goes through the attenuator that is free, turned so far down that the pulse stays', () => {
    const finding = find(curlew, patch, 'pulse-at-end')!;
    expect(finding.mend!.pull).toEqual(['c1']);
    const after = applyMend(patch, finding.mend!);
    expect(after.cables.map((c) => `${c.from}>${c.to}`)).toEqual([
      'j-wheel>j-att',
      'j-att-out>j-osc2-width',
    ]);
    expect(find(curlew, after, 'pulse-at-end')).toBeUndefined();
  });
});

describe('a voice of the cabinet', () => {
  const VOICE =
    'kb-pitch>bank-1-pitch bank-1-a>ladder-1-in ladder-1-out>vca-1-in vca-1-out>line-in';
  const open = { 'ladder-1-cutoff': 0.9, 'ladder-1-depth': 0.2, level: 0.7 };

  it('that velocity holds open for ever goes by the gate', () => {
    const patch = patchOn(cabinet, open, `${VOICE} kb-vel>vca-1-cv`);
    const finding = find(cabinet, patch, 'drone:')!;
    const after = applyMend(patch, finding.mend!);
    expect(after.cables.map((c) => c.from)).toContain('kb-gate');
    expect(find(cabinet, after, 'drone:')).toBeUndefined();
    expect(silent(checkup(cabinet, after))).toBe(false);
  });

  it('whose pitch a plug pins says so; a lone plug that is pulled brings the keys back', () => {
    const patch = patchOn(curlew, {}, '>j-osc1-pitch');
    const pinned = find(curlew, patch, 'pitch-pinned:osc1');
    expect(pinned?.mend?.pull).toEqual(['c1']);
    expect(find(curlew, applyMend(patch, pinned!.mend!), 'pitch-pinned')).toBeUndefined();
  });

  it('with a cable behind an attenuator at 0 is told that it carries nothing', () => {
    const cables = `${VOICE} kb-gate>vca-1-cv lfo-1-out>att-1-in1 att-1-out1>ladder-1-cv`;
    const dead = checkup(cabinet, patchOn(cabinet, { ...open, 'att-1-g1': 0 }, cables));
    const told = dead.filter((f) => f.id.startsWith('idle-cable')).map((f) => f.title);
    expect(told).toEqual([
      expect.stringContaining('leads nowhere') as string,
      expect.stringContaining('carries nothing') as string,
    ]);
    const live = patchOn(cabinet, { ...open, 'att-1-g1': 0.9 }, cables);
    expect(find(cabinet, live, 'idle-cable')).toBeUndefined();
  });

  it('whose filter rises after the amplifier has shut is told both times', () => {
    const late = {
      'env1-sustain': 0,
      'env1-decay': 0.2,
      'env2-attack': 0.95,
      'filter-amount': 0.8,
    };
    const finding = find(sluice, initWith({ ...late, cutoff: 0.5 }), 'late-rise:env2')!;
    expect(finding.why).toMatch(/attack takes .* s; the amplifier has shut after/);
    expect(finding.mend!.settings['env2-attack']).toBeDefined();
  });
});
