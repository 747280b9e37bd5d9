import {
  applyVariation,
  centroidOf,
  checkup,
  compile,
  createEngine,
  formatSetting,
  instrumentSchema,
  type Instrument,
  foldPath,
  notesEnd,
  panelOf,
  type Patch,
  patchSchema,
  phraseToNotes,
  pitchOf,
  render,
  shapesOf,
  type TimedNote,
} from '@hurrel/core';
import { withDemoSound } from '../testing/fed';
import { demoInstruments, demoPatches } from './library';

// What players do every day, done on the demo library and measured: docs/coverage.md tells where.

const RATE = 24000;
const instruments = new Map(
  demoInstruments.map((d) => [instrumentSchema.parse(d).id, instrumentSchema.parse(d)]),
);
const patches = new Map(
  demoPatches.map((d) => withDemoSound(patchSchema.parse(d))).map((patch) => [patch.name, patch]),
);
const patchOf = (name: string): Patch => patches.get(name)!;
const faceOf = (patch: Patch): Instrument => panelOf(instruments.get(patch.instrument)!, patch);
const key = (note: number, duration = 10, velocity = 100, start = 0): TimedNote => ({
  start,
  duration,
  note,
  velocity,
});

function sound(patch: Patch, seconds: number, notes?: TimedNote[]): Float32Array {
  const played = notes ?? phraseToNotes(patch.phrase, patch.tempo);
  return render(compile(faceOf(patch), patch), {
    sampleRate: RATE,
    seconds,
    notes: played,
    tempo: patch.tempo,
  }).samples;
}
const varied = (patch: Patch, name: RegExp): Patch =>
  applyVariation(
    patch,
    patch.variations.find((v) => name.test(v.name))!,
  );
const set = (patch: Patch, settings: Record<string, number | string>): Patch => ({
  ...patch,
  settings: {
    ...patch.settings,
    ...Object.fromEntries(
      Object.entries(settings).map(([id, value]) => [id, { kind: 'set' as const, value }]),
    ),
  },
});
/** What stands at a port, sample by sample. */
function traced(patch: Patch, port: string, seconds: number, notes: TimedNote[]): Float64Array {
  const engine = createEngine(compile(faceOf(patch), patch), {
    sampleRate: RATE,
    notes,
    tempo: patch.tempo,
  });
  const [node = '', name = ''] = port.split('.');
  const out = new Float64Array(Math.round(seconds * RATE));
  for (let at = 0; at < out.length; at += 64) {
    const n = Math.min(64, out.length - at);
    engine.advance(n);
    out.set(engine.port(node, name).subarray(0, n), at);
  }
  return out;
}
const rms = (of: ArrayLike<number>, from = 0, to = of.length): number => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += of[i]! ** 2;
  return Math.sqrt(sum / Math.max(1, to - from));
};
const hzOf = (of: Float32Array, from: number, to: number): number =>
  pitchOf(of.subarray(Math.round(from * RATE), Math.round(to * RATE)), RATE)?.hz ?? NaN;
/** Share of the power of a sound that lies below a frequency. */
function below(of: Float32Array, hz: number): number {
  const a = Math.exp((-2 * Math.PI * hz) / RATE);
  let [x, y, sum] = [0, 0, 0];
  for (const v of of) {
    x += (1 - a) * (v - x);
    y += (1 - a) * (x - y);
    sum += y * y;
  }
  return sum / Math.max(1e-12, of.length * rms(of) ** 2);
}
const titles = (patch: Patch): string[] => {
  const face = faceOf(patch);
  const path = foldPath(compile(face, patch), phraseToNotes(patch.phrase, patch.tempo));
  return shapesOf(path, face, patch).map((s) => s.title);
};
const findings = (patch: Patch): string[] => checkup(faceOf(patch), patch).map((f) => f.id);

it('filter boards are kept side by side: each variation sounds through its own', () => {
  const patch = patchOf('Winch Room boards');
  const bright = [patch, ...patch.variations.map((v) => applyVariation(patch, v))].map((p) =>
    Math.round(centroidOf(sound(p, 1), RATE)),
  );
  expect(bright).toHaveLength(4);
  expect(new Set(bright).size).toBe(4);
});

it('a cabinet plays itself: two rows, eight steps, their intervals, its gate through a converter', () => {
  const patch = patchOf('Low Tide loom');
  const row = traced(patch, 'steps-1-r.a', 1.4, []);
  const steps = Array.from({ length: 8 }, (_, i) =>
    Math.round(12 * row[Math.round(((i + 0.5) / 6.2) * RATE)]!),
  );
  expect(steps).toEqual([0, 3, 7, 10, 12, 10, 7, 3]);
  expect(rms(sound(patch, 1.4, []))).toBeGreaterThan(0.01);
  expect(titles(patch)).toContain('Shared modulation: Contour S');
  const anvil = titles(patchOf('Ropewalk anvil'));
  expect(anvil).toEqual(expect.arrayContaining(['2 layers', 'Two filters in line']));
});

it('only one oscillator stumbles at random, and the edge takes the lows away', () => {
  const patch = patchOf('Night Lock gates');
  const spread = (port: string): number => {
    const all = traced(patch, port, 1.5, [key(60)]);
    return Math.max(...all) - Math.min(...all);
  };
  expect(spread('vib.out')).toBe(0);
  expect(12 * spread('vib2.out')).toBeGreaterThan(0.5);
  const full = set(patch, { thin: 0 });
  expect(below(sound(patch, 1), 150)).toBeLessThan(0.3 * below(sound(full, 1), 150));
  expect(
    formatSetting(
      faceOf(patch).controls.find((c) => c.id === 'sweep')!,
      patch.settings['sweep'],
    ),
  ).toMatch(/–/);
});

it('a drone needs no key; one wheel moves three pitches, a level and the cutoff', () => {
  const patch = patchOf('Fog Signal drone');
  expect(rms(sound(patch, 1, []))).toBeGreaterThan(0.05);
  expect(titles(patch)).toContain('One hand, five things: wheel');
  const [down, up] = [0, 1].map((wheel) => set(patch, { wheel }));
  const at = (p: Patch, port: string): number => traced(p, port, 0.1, []).at(-1)!;
  expect(at(up!, 'ladder-1-f.hz') / at(down!, 'ladder-1-f.hz')).toBeGreaterThan(3);
  expect(rms(traced(up!, 'vca-2-a.out', 0.1, []))).toBeGreaterThan(1);
  expect(rms(traced(down!, 'vca-2-a.out', 0.1, []))).toBeLessThan(1e-6);
  const bare: Patch = { ...up!, outboard: [] };
  delete bare.settings['out-amp-gain'];
  expect(centroidOf(sound(up!, 0.5, []), RATE)).not.toBeCloseTo(
    centroidOf(sound(bare, 0.5, []), RATE),
    -1,
  );
});

it('four channels: one is held open without a key, one hops in steps of the clock', () => {
  const patch = patchOf('Low Tide rookery');
  expect(rms(sound(patch, 1, []))).toBeGreaterThan(0.005);
  expect(rms(sound(set(patch, { 'c4-hold': 'keys' }), 1, []))).toBeLessThan(1e-4);
  // At 72 to the minute half a beat is 417 ms: five levels in two seconds.
  const levels = new Set(traced(patch, 'c1-lfo.out', 2, [key(60)]));
  expect(levels.size).toBe(5);
});

it('one voice makes a track: thin, middle and fat, wind, and a ramp of eight bars that only rises', () => {
  const patch = patchOf('Winch Room, one voice');
  const lows = (p: Patch): number => below(sound(p, 2), 150);
  expect(lows(varied(patch, /^thin/))).toBeLessThan(0.1 * lows(patch));
  expect(lows(varied(patch, /^band/))).toBeLessThan(0.7 * lows(patch));
  expect(hzOf(sound(varied(patch, /^wind/), 1), 0.1, 0.4)).not.toBeCloseTo(65.4, 0);
  const ramp = varied(patch, /^ramp/);
  // 32 beats at 118 to the minute.
  const seconds = (32 * 60) / 118;
  const lfo = traced(ramp, 'lfo.out', seconds + 0.5, [key(36, 30)]);
  const tenths = Array.from(
    { length: 10 },
    (_, i) => lfo[Math.round(((i + 0.5) / 10) * seconds * RATE)]!,
  );
  expect(tenths.every((v, i) => i === 0 || v > tenths[i - 1]!)).toBe(true);
  expect(lfo.at(-1)).toBeCloseTo(5, 3);
});

it('exact values stay what they are, and the matrix reaches levels, resonance, echoes and times', () => {
  const patch = patchOf('Night Lock numbers');
  const sustain = faceOf(patch).controls.find((c) => c.id === 'env1-sustain')!;
  expect(formatSetting(sustain, patch.settings['env1-sustain'])).toMatch(/^67\.9/);
  const without: Patch = { ...patch, matrix: [] };
  for (const { row } of patch.matrix.slice(0, 7)) {
    const one: Patch = { ...patch, matrix: patch.matrix.filter((r) => r.row === row) };
    const wheel = set(one, { wheel: 1 });
    expect([row, sound(wheel, 1)]).not.toEqual([row, sound(set(without, { wheel: 1 }), 1)]);
  }
});

it('the right echo comes at two thirds of the left, and the reverb stands beside it', () => {
  const patch = patchOf('Night Lock oars');
  const graph = compile(faceOf(patch), patch);
  const { params } = graph.nodes.find((n) => n.id === 'delay')!;
  expect(Number(params['beats-right']) / Number(params['beats-left'])).toBeCloseTo(2 / 3, 6);
  expect(findings(patch).some((id) => id.startsWith('chain:'))).toBe(false);
  const [dark, lit] = [0, 1].map((wheel) => centroidOf(sound(set(patch, { wheel }), 1), RATE));
  expect(lit! / dark!).toBeGreaterThan(1.3);
});

it('delay and reverb stand in line either way round, or side by side, by one switch', () => {
  const patch = varied(patchOf('Low Tide haze'), /far bank/);
  const chains = (routing: string): string[] =>
    checkup(faceOf(patch), set(patch, { 'fx-routing': routing }))
      .map((f) => f.id)
      .filter((id) => id.startsWith('chain:'));
  expect(chains('series')).toEqual(['chain:delay>reverb']);
  expect(chains('parallel')).toEqual([]);
  expect(chains('reverb-first')).toEqual(['chain:reverb>delay']);
  // Two such things in line sound alike in either order, but for what goes from one side to the other.
  const [one, other] = ['series', 'reverb-first'].map((routing) =>
    sound(set(patch, { 'fx-routing': routing }), 4, [key(60, 0.2)]),
  );
  const apart = Math.max(...one!.map((sample, i) => Math.abs(sample - other![i]!)));
  expect(apart).toBeGreaterThan(0.001);
});

it('keys go through the scale into the cutoff, and a plug overrides its knob, which is said', () => {
  const patch = patchOf('Ropewalk knots');
  const hz = (note: number): number => traced(patch, 'filter.hz', 0.3, [key(note)]).at(-1)!;
  // An octave of keys through a scale at a half.
  expect(Math.log2(hz(72) / hz(60))).toBeCloseTo(0.5, 1);
  const idle = checkup(faceOf(patch), patch).find((f) => f.id === 'idle:width1');
  expect(idle?.why).toMatch(/plug|cable|jack/i);
  expect(sound(set(patch, { width1: 1 }), 0.5)).toEqual(sound(patch, 0.5));
});

it('six notes from one key climb through their inversions', () => {
  const patch = patchOf('Low Tide choir');
  const graph = compile(faceOf(patch), patch);
  expect(graph.nodes.find((n) => n.id === 'ch')!.params['type']).toBe('minor11');
  const high = set(patch, { inversion: 'i6' });
  expect(centroidOf(sound(high, 2), RATE)).toBeGreaterThan(1.2 * centroidOf(sound(patch, 2), RATE));
});

it('velocity and bend are voltages: struck hard it rings on', () => {
  const patch = patchOf('Winch Room elbow');
  const left = (velocity: number): number => {
    const all = sound(patch, 0.6, [key(48, 1, velocity)]);
    return rms(all, 0.35 * RATE, 0.45 * RATE) / rms(all, 0.01 * RATE, 0.1 * RATE);
  };
  expect(left(127)).toBeGreaterThan(1.2 * left(20));
});

it('octaves of a row are octaves, the loss of the attenuator made up', () => {
  const patch = patchOf('Ropewalk octaves');
  const volts = traced(patch, 'vca-2-a.out', 2.5, []);
  const steps = [0, 1, 2, 3].map((i) => volts[Math.round(((i + 0.6) / 3.2) * RATE)]!);
  expect(steps[1]).toBeCloseTo(1, 1);
  expect(steps[3]).toBeCloseTo(2, 1);
  const free: Patch = { ...patch, cables: patch.cables.filter((c) => c.from !== undefined) };
  expect(traced(patch, 'att-1-b.out', 0.1, []).at(-1)).toBe(0);
  expect(traced(free, 'att-1-b.out', 0.1, []).at(-1)).toBeGreaterThan(1);
});

it('a filter goes straight to the desk, with no amplifier and no keys in its cutoff', () => {
  const patch = patchOf('Fog Signal, bare filter');
  expect(rms(sound(patch, 1, []))).toBeGreaterThan(0.02);
  const hz = (p: Patch, note: number): number => traced(p, 'filter.hz', 0.2, [key(note)]).at(-1)!;
  expect(hz(patch, 84)).toBeCloseTo(hz(patch, 36), 6);
  const unplugged: Patch = { ...patch, cables: [] };
  expect(hz(unplugged, 84) / hz(unplugged, 36)).toBeGreaterThan(10);
});

it('pipes by footage: four octaves from one key, through 18 dB and through its substitute', () => {
  const patch = patchOf('Fog Signal pipes');
  const all = traced(patch, 'mix.out', 2, [key(60, 5)]).subarray(RATE);
  const level = (hz: number): number => {
    let [re, im] = [0, 0];
    for (let i = 0; i < all.length; i++) {
      re += all[i]! * Math.cos((2 * Math.PI * hz * i) / RATE);
      im += all[i]! * Math.sin((2 * Math.PI * hz * i) / RATE);
    }
    return (2 * Math.hypot(re, im)) / all.length;
  };
  const pipes = [0.5, 1, 2, 4].map((ratio) => level(261.626 * ratio));
  for (const pipe of pipes) expect(pipe).toBeGreaterThan(0.02);
  const kit = varied(patch, /two poles/);
  expect(compile(faceOf(kit), kit).nodes.find((n) => n.id === 'c1-f')!.kind).toBe('low-pass-12');
  expect(20 * Math.log10(rms(sound(kit, 2)) / rms(sound(patch, 2)))).toBeCloseTo(0, 0);
  // The LFO opens the gate seven times a second.
  const paddle = traced(patchOf('Night Lock paddle'), 'env.out', 2, [key(60)]);
  let strokes = 0;
  for (let i = 1; i < paddle.length; i++) if (paddle[i]! > 4.5 && paddle[i - 1]! <= 4.5) strokes++;
  expect(strokes).toBe(14);
});

it('a box tuned up by an octave sounds an octave up', () => {
  const patch = patchOf('Eel Run, high water');
  expect(
    hzOf(sound({ ...patch, ...set(patch, { beneath: 0 }) }, 1, [key(41)]), 0.1, 0.5),
  ).toBeCloseTo(174.61, 0);
});

it('a note climbs over eight bars in fill only, and hats begin elsewhere in their noise', () => {
  const patch = patchOf('Winch Room surge');
  const [pattern] = patch.patterns;
  const synth = pattern!.tracks.find((t) => t.id === 'synth')!;
  expect(synth.steps[0]).toMatchObject({ condition: 'fill', length: 63 });
  // 32 beats, from the bottom to the top of the ramp.
  const lfo = traced(patch, 'lfo.out', (31 * 60) / 118, [key(60, 30)]);
  expect(lfo.at(-1)! - lfo[0]!).toBeGreaterThan(9);
  const fade = traced(patch, 'lfo2.out', 12, [key(60, 30)]);
  expect(rms(fade, 0, RATE)).toBeLessThan(0.15 * rms(fade, 11 * RATE, 12 * RATE));
  const hit = (start: number): Float64Array =>
    traced(set(patch, { 'hat-start': start }), 'hv.out', 0.1, [key(52, 0.1)]);
  expect(hit(0.26)).toEqual(hit(0.26));
  expect(hit(0.26)).not.toEqual(hit(0.39));
});

it('a lead from the init patch is synced, alone, legato', () => {
  const patch = patchOf('Night Lock bellows');
  expect(notesEnd(phraseToNotes(patch.phrase, patch.tempo))).toBeGreaterThan(1);
  const free = set(patch, { 'osc-sync': 'off' });
  expect(sound(free, 1)).not.toEqual(sound(patch, 1));
  const two = [key(60, 2), key(64, 2, 100, 0.5)];
  // One voice: the second key takes over from the first, a major third up.
  const alone = sound({ ...patch, matrix: [] }, 1.6, two);
  expect(hzOf(alone, 1.1, 1.5) / hzOf(alone, 0.2, 0.45)).toBeCloseTo(2 ** (4 / 12), 2);
});

it('a bar of drums into an input: started by each key, cut by the keys, or speaking through a chord', () => {
  const weir = patchOf('Eel Run over the weir');
  const { fed: _, ...unfed } = weir as Patch & { fed: unknown };
  expect(rms(sound(unfed, 1))).toBeLessThan(1e-4);
  // Each key begins the bar anew: two strokes of one key are the same sound.
  const strokes = sound(weir, 3, [key(60, 0.4), key(60, 0.4, 100, 1.5)]);
  const [one, two] = [0, 1.5].map((s) => strokes.subarray(s * RATE, (s + 0.4) * RATE));
  const apart = one!.map((v, i) => v - two![i]!);
  expect(rms(one!)).toBeGreaterThan(0.02);
  expect(rms(apart)).toBeLessThan(0.02 * rms(one!));

  const gate = sound(patchOf('Eel Run, gate on the drums'), 3, [
    key(60, 0.5),
    key(60, 0.5, 100, 2),
  ]);
  const at = (from: number, to: number): number => rms(gate, from * RATE, to * RATE);
  expect(at(0, 0.5)).toBeGreaterThan(0.02);
  expect(at(1.2, 1.9)).toBeLessThan(0.001);
  // It ran on meanwhile: 2 s in, the bar of 1.9 s is not at its beginning.
  const [first, later] = [gate.subarray(0, RATE / 4), gate.subarray(2 * RATE, 2.25 * RATE)];
  expect(rms(first.map((v, i) => v - later[i]!))).toBeGreaterThan(0.3 * rms(first));

  const spoken = patchOf('Eel Run, drums in the cutoff');
  const bright = (of: Patch): number[] => {
    const all = sound(of, 2.5, [key(48, 3)]);
    return Array.from({ length: 20 }, (_, i) => {
      const from = Math.round((0.5 + 0.1 * i) * RATE);
      return centroidOf(all.subarray(from, from + 2048), RATE);
    });
  };
  const ratio = (all: number[]): number => Math.max(...all) / Math.min(...all);
  const { fed: __, ...still } = spoken as Patch & { fed: unknown };
  expect(ratio(bright(still))).toBeLessThan(1.5);
  expect(ratio(bright(spoken))).toBeGreaterThan(3);
});
