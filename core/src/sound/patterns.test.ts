import fc from 'fast-check';
import type { ParamChange } from '../circuit/param-changes';
import { peakOf } from '../measure/level';
import { events } from '../sequence/events';
import { type Pattern, patternSchema } from '../pattern/pattern';
import { heldKey } from '../sequence/rows';
import { PatternRun } from '../sequence/run';
import { parseSteps } from '../sequence/text';
import { amplitudeAt, benchGraph } from '../testing/bench';
import { anySteps } from '../testing/patterns';
import { initWith, sluice } from '../testing/sluice';
import { Act } from './key-feed';
import { silentMeter } from './live-message';
import { LiveSound } from './live';
import { PatternPlayer } from './pattern-player';
import { partSource } from './part-source';
import { renderParts } from './render-parts';
import { runs } from '../testing/runs';

const RATE = 48000;
const pattern = (text: string, more: object = {}): Pattern => {
  const reading = parseSteps(text, 60);
  if (!reading.ok) throw new Error(reading.error.message);
  const track = { id: 't', name: 'T', length: reading.length, steps: reading.steps };
  return patternSchema.parse({ id: 'p', name: 'P', tracks: [track], ...more });
};
const tone = benchGraph(
  {
    keys: ['keyboard'],
    o: ['oscillator', { wave: 'sine' }],
    e: ['envelope', { attack: 0.0005, decay: 0.01, sustain: 100, release: 0.005 }],
    a: ['amplifier'],
    out: ['output'],
  },
  ['keys.pitch1 > o.pitch', 'keys.gate > e.gate', 'o.out > a.in', 'e.out > a.cv', 'a.out > out.in'],
  'out',
);

/** Notes with the sample at which they are struck, as a player in blocks tells them. */
function struck(
  patterns: readonly Pattern[],
  samples: number,
  tempos: Record<number, number>,
): number[] {
  const at: number[] = [];
  let now = 0;
  const first = tempos[0] ?? 120;
  const hands = {
    play: (act: Act, _note: number, _value: number, after: number) => {
      if (act === Act.press) at.push(now + after);
    },
    turn: () => undefined,
    exchange: () => undefined,
  };
  const player = new PatternPlayer(patterns, [], null, RATE, first, hands);
  for (; now < samples; now += 64) {
    const changed = tempos[now];
    if (changed !== undefined) player.setTempo(changed);
    player.advance(64);
  }
  return at;
}

describe('patterns in the audio thread', () => {
  it('strike at the very sample that the events say, whatever the pattern', () => {
    fc.assert(
      fc.property(
        anySteps({ ownValues: false }),
        fc.integer({ min: 50, max: 200 }),
        (steps, tempo) => {
          const track = { id: 't', name: 'T', length: 16, steps: steps.slice(0, 16), swing: 57 };
          const p = patternSchema.parse({ id: 'p', name: 'P', tracks: [track] });
          const beats = (4 * tempo) / 60;
          const wanted = events([p], { beats, tempo }).flatMap((e) =>
            e.kind === 'press' ? [e.seconds * RATE] : [],
          );
          const told = struck([p], 4 * RATE, { 0: tempo }).slice(0, wanted.length);
          expect(told).toHaveLength(wanted.length);
          // The nearest sample; of one half-way between two, either.
          told.forEach((at, i) =>
            expect(Math.abs(at - wanted[i]!)).toBeLessThanOrEqual(0.5 + 1e-6),
          );
        },
      ),
      { numRuns: runs(40) },
    );
  });

  it('go on at another tempo from the quarter note where they are', () => {
    // A second at 120 bpm is two quarter notes; then a quarter note takes a second.
    expect(struck([pattern('x . . .')], 3 * RATE, { 0: 120, [RATE]: 60 })).toEqual([
      0,
      RATE / 2,
      RATE,
      2 * RATE,
    ]);
  });

  it('turn a control for its step and give it back at the next', () => {
    const turned: number[] = [];
    const turns: ParamChange[][] = [[{ node: 'f', param: 'cutoff', value: 900 }], [], [], []];
    turns[2] = [{ node: 'f', param: 'cutoff', value: 200 }];
    const player = new PatternPlayer([pattern('x . x .')], [[turns]], null, RATE, 120, {
      play: () => undefined,
      turn: ({ value }) => void turned.push(value),
      exchange: () => undefined,
    });
    for (let i = 0; i < RATE / 64; i++) player.advance(64);
    expect(turned).toEqual([900, 200, 900, 200]);
  });

  describe('own values of a switch', () => {
    const voice = initWith({ 'amp-sustain': 1, cutoff: 1, 'osc2-level': 0 });
    const owned = pattern('c3 - - - c3 - - -');
    const steps = owned.tracks[0]!.steps.map((step, i) =>
      i >= 4 && i < 8 ? { ...step, ownValues: { 'osc1-shape': 'sine' } } : step,
    );
    const withOwnValues = { ...owned, tracks: [{ ...owned.tracks[0]!, steps }] };
    const source = partSource({
      instrument: sluice,
      patch: voice,
      patterns: [withOwnValues],
      gain: 1,
      pan: 0,
    });
    /** How much of a stretch lies above the fundamental of C3: much of a saw, next to nothing of a sine. */
    const overtones = (sound: Float32Array, from: number): number => {
      const part = Float64Array.from(sound.subarray(from, from + 4800));
      const hz = 130.8128;
      return (
        [2, 3, 4].reduce((sum, n) => sum + amplitudeAt(part, n * hz), 0) / amplitudeAt(part, hz)
      );
    };

    it('and another circuit sounds for its steps, live and rendered', () => {
      const sides = renderParts([source], { sampleRate: RATE, tempo: 120, beats: 2, tail: 0 })!;
      const live = new LiveSound(RATE);
      live.receive({ type: 'graph', side: 'a', graph: source.graph, tempo: 120 });
      live.receive({ type: 'volume', volume: 1 });
      const { turns, switches = null } = source;
      live.receive({ type: 'run', patterns: [withOwnValues], turns, switches, tempo: 120 });
      const heard = new Float32Array(RATE);
      const [l, r] = [new Float32Array(128), new Float32Array(128)];
      for (let at = 0; at < RATE; at += 128) {
        live.process(l, r, 128);
        heard.set(l.subarray(0, Math.min(128, RATE - at)), at);
      }
      for (const sound of [sides[0], heard]) {
        expect(overtones(sound, 0.2 * RATE)).toBeGreaterThan(0.5);
        expect(overtones(sound, 0.7 * RATE)).toBeLessThan(0.1);
      }
    });

    it('and what hands have turned meanwhile stays where it is', () => {
      const live = new LiveSound(RATE);
      live.receive({ type: 'graph', side: 'a', graph: source.graph, tempo: 120 });
      live.receive({ type: 'volume', volume: 1 });
      const { turns, switches = null } = source;
      live.receive({ type: 'run', patterns: [withOwnValues], turns, switches, tempo: 120 });
      const [l, r] = [new Float32Array(128), new Float32Array(128)];
      const peakUntil = (end: number, from: number): number => {
        let peak = 0;
        for (let at = from; at < end; at += 128) {
          live.process(l, r, 128);
          peak = Math.max(peak, peakOf(l));
        }
        return peak;
      };
      expect(peakUntil(0.25 * RATE, 0)).toBeGreaterThan(0.05);
      live.receive({ type: 'turn', side: 'a', turns: [{ node: 'out', param: 'level', value: 0 }] });
      peakUntil(0.3 * RATE, 0.25 * RATE);
      // Both circuits stay turned down: the sine's when it comes, and the first when it comes back. What they were made
      // with goes within a block, while they are still faded in.
      expect(peakUntil(1.4 * RATE, 0.3 * RATE)).toBeLessThan(0.005);
    });
  });

  it('are heard live: struck, edited while they run, filled, moved, interrupted, stopped', () => {
    const live = new LiveSound(RATE);
    const [left, right] = [new Float32Array(128), new Float32Array(128)];
    const heard = (seconds: number): number => {
      let peak = 0;
      for (let i = 0; i < (seconds * RATE) / 128; i++) {
        live.process(left, right, 128);
        peak = Math.max(peak, peakOf(left));
      }
      return peak;
    };
    const meter = silentMeter();
    live.receive({ type: 'graph', side: 'a', graph: tone, tempo: 120 });
    live.receive({ type: 'run', patterns: [pattern('x?fill . . .')], turns: [], tempo: 120 });
    expect(heard(1)).toBe(0);
    live.receive({ type: 'fill', held: true });
    expect(heard(1)).toBeGreaterThan(0.05);
    expect(live.meter(meter).beat).toBeCloseTo(4, 2);
    live.receive({ type: 'fill', held: false });
    live.receive({ type: 'run', patterns: [pattern('x x x x')], turns: [], tempo: 120 });
    expect(heard(1)).toBeGreaterThan(0.05);
    expect(live.meter(meter).beat).toBeCloseTo(6, 2);
    live.receive({ type: 'mute', track: 0, muted: true });
    heard(0.2);
    expect(heard(0.5)).toBeLessThan(1e-4);
    live.receive({ type: 'mute', track: 0, muted: false });
    live.receive({ type: 'keys', do: 'interrupt' });
    live.receive({ type: 'act', act: Act.press, note: 72, value: 100 });
    heard(0.2);
    expect(live.meter(meter).held).toBe(1);
    live.receive({ type: 'act', act: Act.release, note: 72, value: 0 });
    expect(heard(0.5)).toBeGreaterThan(0.05);
    live.receive({ type: 'run-stop', returned: [] });
    heard(0.2);
    expect(heard(0.5)).toBeLessThan(1e-4);
    expect(live.meter(meter).beat).toBe(-1);
  });

  it('move the key that hands hold at once, the new one pressed before the old one is let go', () => {
    const run = new PatternRun(
      heldKey(pattern('.'), { phrase: [{ beat: 0, length: 1, note: 48, velocity: 80 }] }),
    );
    const said: string[] = [];
    const sink = {
      press: (at: number, note: number) => void said.push(`${at} on ${note}`),
      release: (at: number, note: number) => void said.push(`${at} off ${note}`),
      step: () => undefined,
    };
    run.advance(1, sink);
    run.moveHeld(-5, 1, sink);
    run.advance(2, sink);
    run.moveHeld(-5, 2, sink);
    run.moveHeld(0, 3, sink);
    run.stop(4, sink);
    expect(said).toEqual(['0 on 48', '1 on 43', '1 off 48', '3 on 48', '3 off 43', '4 off 48']);
  });

  describe('of several instruments', () => {
    const source = (text: string, pan = 0, gain = 1) => ({
      graph: tone,
      patterns: [pattern(text)],
      turns: [],
      gain,
      pan,
    });
    /** Runs a pattern of rests, so that only the others are heard; tells the samples of so many quarter notes at 120. */
    const band = () => {
      const live = new LiveSound(RATE);
      live.receive({ type: 'volume', volume: 1 });
      live.receive({ type: 'run', patterns: [pattern('. .')], turns: [], tempo: 120 });
      const [l, r] = [new Float32Array(128), new Float32Array(128)];
      const hear = (beats: number): [Float32Array, Float32Array] => {
        const length = Math.floor((beats * RATE) / 2 / 128) * 128;
        const sides: [Float32Array, Float32Array] = [
          new Float32Array(length),
          new Float32Array(length),
        ];
        for (let at = 0; at < length; at += 128) {
          live.process(l, r, 128);
          sides[0].set(l, at);
          sides[1].set(r, at);
        }
        return sides;
      };
      return { live, hear };
    };

    it('sound together, each at its place', () => {
      const { live, hear } = band();
      live.receive({ type: 'band', parts: { bass: source('x', -1) } });
      const [l, r] = hear(1);
      expect(peakOf(l)).toBeGreaterThan(0.2);
      expect(peakOf(r)).toBe(0);
    });

    it('who joins while they run begins at the next bar, at its sample', () => {
      const { live, hear } = band();
      hear(1.3);
      live.receive({ type: 'band', parts: { bass: source('x . . .') } });
      const [before] = hear(2.6);
      expect(peakOf(before)).toBe(0);
      const [after] = hear(0.5);
      const heardBefore = Math.floor((1.3 * RATE) / 2 / 128) * 128 + before.length;
      // Bar 2 begins after 4 quarter notes of half a second; the sine of the oscillator comes 16 samples late, and begins at 0.
      const began = heardBefore + after.findIndex((v) => v !== 0);
      expect(began - 2 * RATE).toBeGreaterThanOrEqual(0);
      expect(began - 2 * RATE).toBeLessThan(20);
    });

    it('get louder without a jump, and leave without one', () => {
      const { live, hear } = band();
      const steepest = (side: Float32Array): number =>
        side.reduce((most, v, i) => Math.max(most, i ? Math.abs(v - side[i - 1]!) : 0), 0);
      live.receive({ type: 'band', parts: { bass: source('x - - - - - - -', 0, 0.5) } });
      hear(0.5);
      const [steady] = hear(0.25);
      live.receive({ type: 'band', parts: { bass: source('x - - - - - - -', 0, 1) } });
      const [louder] = hear(0.25);
      expect(peakOf(louder)).toBeCloseTo(2 * peakOf(steady), 1);
      live.receive({ type: 'band', parts: {} });
      const [leaves] = hear(0.25);
      expect(leaves.at(-1)).toBe(0);
      // A tone of twice the level is twice as steep; letting go and fading out add a little to that.
      const twice = 2.01 * steepest(steady);
      expect(steepest(louder)).toBeLessThan(twice);
      expect(steepest(leaves)).toBeLessThan(1.15 * twice);
    });
  });
});

describe('parts rendered together', () => {
  const source = { graph: tone, turns: [], gain: 1, pan: 0 };
  const options = { sampleRate: RATE, tempo: 120, beats: 2, tail: 0.25 };

  it('are the sum of each alone, the same every time, as long as they should be', () => {
    const a = { ...source, patterns: [pattern('x . . .')] };
    const b = { ...source, patterns: [pattern('. . g3?50% .')], pan: 0.5 };
    const both = renderParts([a, b], options)!;
    const [one, other] = [renderParts([a], options)!, renderParts([b], options)!];
    expect(both[0]).toHaveLength(1.25 * RATE);
    const off = both[0].reduce(
      (m, v, i) => Math.max(m, Math.abs(v - one[0][i]! - other[0][i]!)),
      0,
    );
    expect(off).toBeLessThan(1e-6);
    expect(renderParts([a, b], options)).toEqual(both);
  });

  it('end with the pattern: nothing of the next round is struck', () => {
    const [left] = renderParts([{ ...source, patterns: [pattern('x . . .')] }], {
      ...options,
      beats: 1,
    })!;
    expect(peakOf(left.subarray(Math.round(0.5 * RATE)))).toBeLessThan(1e-3);
  });

  it('are cancelled between blocks', () => {
    const a = { ...source, patterns: [pattern('x')] };
    expect(renderParts([a], { ...options, cancelled: (done) => done > 0.2 })).toBeUndefined();
  });
});
