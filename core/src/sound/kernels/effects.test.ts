import type { ModuleKind } from '../../catalogue/index';
import { amplitudeAt, benchGraph, impulseResponse, record } from '../../testing/bench';

const RATE = 48000;
const db = (ratio: number): number => 20 * Math.log10(ratio);

/** A stereo effect fed with a click of 1 V on both sides: what comes out of left and right. */
function click(
  kind: ModuleKind,
  params: Record<string, number | string>,
  seconds: number,
  tempo = 120,
): [Float64Array, Float64Array] {
  const one = new Float32Array([0.1]);
  const graph = benchGraph(
    { source: ['external'], fx: [kind, { mix: 100, ...params }], out: ['output'] },
    ['source.out > fx.in', 'fx.left > out.left', 'fx.right > out.right'],
    'out',
  );
  const options = { notes: [], external: [one, one] as const, tempo };
  return [record(graph, 'fx.left', seconds, options), record(graph, 'fx.right', seconds, options)];
}
/** Samples at which a sound stands out, with their heights. */
const peaks = (sound: Float64Array, over: number): number[] =>
  [...sound.keys()].filter(
    (i) =>
      Math.abs(sound[i]!) > over &&
      Math.abs(sound[i]!) >= Math.abs(sound[i - 1] ?? 0) &&
      Math.abs(sound[i]!) > Math.abs(sound[i + 1] ?? 0),
  );

describe('delay', () => {
  const open = { 'low-cut': 5, 'high-cut': 20000 };

  it('repeats after its time, each time by the feedback quieter', () => {
    const [left] = click('delay', { ...open, 'time-left': 0.1, feedback: 50 }, 0.55);
    const found = peaks(left, 0.02);
    [4800, 9600, 14400, 19200].forEach((at, n) =>
      expect(Math.abs(found[n]! - at)).toBeLessThanOrEqual(1),
    );
    expect(left[4800]).toBeCloseTo(1, 1);
    // The low-pass at 20 kHz takes a little off a click; the ratio between repeats is the same.
    expect(left[14400]! / left[9600]!).toBeLessThan(0.5);
    expect(left[14400]! / left[9600]!).toBeGreaterThan(0.35);
  });

  it('is tied to the tempo, left and right at their own ratios', () => {
    const params = { ...open, clock: 'tempo', 'beats-left': 0.75, 'beats-right': 1, feedback: 0 };
    const [left, right] = click('delay', params, 0.6, 132);
    // 132 bpm: a dotted eighth 340.91 ms, a quarter 454.55 ms.
    expect(Math.abs(peaks(left, 0.3)[0]! - 0.34091 * RATE)).toBeLessThan(1.5);
    expect(Math.abs(peaks(right, 0.3)[0]! - 0.45455 * RATE)).toBeLessThan(1.5);
  });

  it('plays ping-pong: what was left comes right next', () => {
    const params = {
      ...open,
      routing: 'ping-pong',
      'time-left': 0.1,
      'time-right': 0.1,
      feedback: 60,
    };
    const [left, right] = click('delay', params, 0.45);
    expect(peaks(left, 0.1).slice(0, 2)).toEqual([4800, 14400]);
    expect(peaks(right, 0.1).slice(0, 2)).toEqual([9600, 19200]);
  });

  it('oscillates by itself above 100 %, and its limiter holds it', () => {
    const params = { 'time-left': 0.02, 'time-right': 0.02, feedback: 120 };
    const [left] = click('delay', params, 20);
    const late = left.subarray(19 * RATE);
    expect(Math.max(...late)).toBeGreaterThan(1);
    expect(Math.max(...late)).toBeLessThan(15);
  });
});

describe('reverb', () => {
  it('falls by 60 dB in its decay', () => {
    for (const decay of [0.8, 3]) {
      const params = { decay, damping: 20000, 'high-cut': 20000, 'low-cut': 5, 'pre-delay': 0 };
      const [left] = click('reverb', params, decay);
      const power = (from: number): number => {
        const part = left.subarray(from * RATE, (from + 0.1 * decay) * RATE);
        return 10 * Math.log10(part.reduce((sum, v) => sum + v * v, 0));
      };
      const fall = (power(0.2 * decay) - power(0.8 * decay)) / 0.6;
      expect(Math.abs(fall - 60)).toBeLessThan(4);
    }
  });

  it('begins after the pre-delay, and is not the same on both sides', () => {
    const [left, right] = click('reverb', { 'pre-delay': 0.2 }, 0.4);
    expect(Math.max(...left.subarray(0, 0.2 * RATE).map(Math.abs))).toBeLessThan(1e-9);
    expect(Math.max(...left.subarray(0.2 * RATE))).toBeGreaterThan(0.001);
    const product = left.reduce((sum, v, i) => sum + v * right[i]!, 0);
    expect(Math.abs(product) / left.reduce((sum, v) => sum + v * v, 0)).toBeLessThan(0.3);
  });

  it('damps high partials faster', () => {
    const [left] = click('reverb', { decay: 4, damping: 1500, 'high-cut': 20000 }, 2);
    const late = left.subarray(RATE, 2 * RATE);
    const early = left.subarray(0, RATE);
    const loss = (hz: number): number => {
      const band = (part: Float64Array): number =>
        Math.hypot(...Array.from({ length: 60 }, (_, k) => amplitudeAt(part, hz + k * 3)));
      return db(band(late) / band(early));
    };
    expect(loss(6000)).toBeLessThan(loss(300) - 10);
  });
});

describe('chorus and phaser', () => {
  it('chorus delays by 7 ms, moved to both sides of it by as much as its depth', () => {
    const [left] = click('chorus', { depth: 0 }, 0.02);
    expect(peaks(left, 0.2)).toEqual([336]);
    const [moved] = click('chorus', { depth: 100 }, 0.02);
    for (const at of peaks(moved, 0.2)) {
      expect(at).toBeGreaterThan(0.002 * RATE - 1);
      expect(at).toBeLessThan(0.012 * RATE + 1);
    }
  });

  it('phaser standing still passes every frequency alike, and half wet it has notches', () => {
    const still = { depth: 0, feedback: 0 };
    const [wet] = click('phaser', still, 0.3);
    for (const hz of [50, 700, 5000]) expect(db(amplitudeAt(wet, hz))).toBeCloseTo(0, 1);
    const [half] = click('phaser', { ...still, mix: 50, centre: 700 }, 0.3);
    // Four all-passes turn by half a cycle where each turns by an eighth: at tan(pi/8) of the centre, and its inverse.
    const low = 700 * Math.tan(Math.PI / 8);
    expect(db(amplitudeAt(half, low))).toBeLessThan(-25);
    expect(db(amplitudeAt(half, 700))).toBeCloseTo(0, 1);
  });
});

describe('drive', () => {
  it.each([
    [1, 6, 1, 6.2],
    [1, 40, -14.5, -11],
    [0.2, 20, 6, 11.3],
  ])(
    'of a saw of %d times 5 V at %d dB is so much louder or quieter as it says',
    (gain, drive, lo, hi) => {
      const level = (params: Record<string, number | string>): number => {
        const graph = benchGraph(
          {
            keys: ['keyboard'],
            o: ['oscillator', { octave: -12 }],
            a: ['attenuator', { gain }],
            d: ['drive', params],
            out: ['output'],
          },
          ['keys.pitch1 > o.pitch', 'o.out > a.in', 'a.out > d.in', 'd.out > out.in'],
          'out',
        );
        const sound = record(graph, 'd.out', 1).subarray(24000);
        return 10 * Math.log10(sound.reduce((sum, v) => sum + v * v, 0) / sound.length);
      };
      const clean = level({ gain: 0 });
      const louder = ['soft', 'hard', 'fold', 'one-sided'].map(
        (curve) => level({ gain: drive, curve }) - clean,
      );
      expect(Math.min(...louder)).toBeGreaterThanOrEqual(lo);
      expect(Math.max(...louder)).toBeLessThanOrEqual(hi);
    },
  );

  it('is flat to 18 kHz for small signals, and late by 50 samples, a millisecond', () => {
    const sound = impulseResponse('drive', { gain: 20 }, 0.1);
    // Slope of the curve through nothing: gain, made up by its square root.
    for (const hz of [100, 1000, 10000, 18000]) {
      expect(db(amplitudeAt(sound, hz) / 1e-3)).toBeCloseTo(10, 1);
    }
    expect(sound.indexOf(Math.max(...sound))).toBe(50);
    const clean = impulseResponse('drive', { gain: 0 }, 0.1);
    expect(clean.findIndex((v) => v > 0)).toBe(50);
  });

  it.each(['soft', 'hard', 'one-sided'])('%s: aliases of a 3 kHz sine stay 70 dB down', (curve) => {
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        s: ['oscillator', { wave: 'sine', interval: 12 * Math.log2(3010 / 261.6255653) }],
        d: ['drive', { gain: 12, curve }],
        out: ['output'],
      },
      ['keys.pitch1 > s.pitch', 's.out > d.in'],
      'out',
    );
    const sound = record(graph, 'd.out', 1.2, {
      notes: [{ start: 0, duration: 9, note: 60, velocity: 90 }],
    });
    const part = sound.subarray(0.2 * RATE, 1.2 * RATE);
    const top = amplitudeAt(part, 3010);
    for (const n of [11, 12, 13, 17, 18, 19]) {
      const alias = Math.abs(RATE - 3010 * n);
      if (alias < 16000) expect(db(amplitudeAt(part, alias) / top)).toBeLessThan(-70);
    }
  });
});

describe('limiter', () => {
  it('holds peaks at its ceiling and leaves what is below alone', () => {
    const through = (position: number): number =>
      record(
        benchGraph(
          { l: ['controller', { position }], m: ['limiter', { ceiling: 3 }], out: ['output'] },
          ['l.out > m.in'],
          'out',
        ),
        'm.out',
        0.01,
      ).at(-1)!;
    expect(through(100)).toBeCloseTo(3, 9);
    expect(through(40)).toBeCloseTo(2, 9);
  });
});
