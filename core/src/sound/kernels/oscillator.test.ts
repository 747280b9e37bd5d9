import { spectrum } from '../../measure/spectrum';
import { benchGraph, held, record } from '../../testing/bench';
import { C4_HZ, pulseHarmonic } from '../../theory';
import { REACH } from '../band-limit';

const SIZE = 65536;
const RATE = 48000;
const graphOf = (params: Record<string, number | string>) =>
  benchGraph(
    { keys: ['keyboard'], osc: ['oscillator', params], out: ['output'] },
    ['keys.pitch1 > osc.pitch', 'osc.out > out.in'],
    'out',
  );

/** Interval in semitones that tunes middle C to a frequency at the centre of a bin: no window leaks there. */
const tuned = (hz: number): { interval: number; bin: number } => {
  const bin = Math.round((hz * SIZE) / RATE);
  return { interval: 12 * Math.log2((bin * RATE) / SIZE / C4_HZ), bin };
};
const levels = (params: Record<string, number | string>, graph = graphOf(params)): Float64Array => {
  const sound = record(graph, 'out.out', 0.2 + SIZE / RATE, { notes: [held(60)] });
  return spectrum(sound, RATE, Math.round(0.1 * RATE), SIZE).decibels;
};
const db = (ratio: number): number => 20 * Math.log10(ratio);

describe('harmonics, to 10 kHz', () => {
  const { interval, bin } = tuned(220);
  const shapes: [string, Record<string, number | string>, (n: number) => number][] = [
    ['saw', { wave: 'saw' }, (n) => (5 * 2) / (Math.PI * n)],
    ['square', { wave: 'pulse', width: 50 }, (n) => (5 * 4 * pulseHarmonic(n, 0.5)) / Math.PI],
    [
      'pulse of 18 %',
      { wave: 'pulse', width: 18 },
      (n) => (5 * 4 * pulseHarmonic(n, 0.18)) / Math.PI,
    ],
    ['triangle', { wave: 'triangle' }, (n) => (n % 2 ? (5 * 8) / (Math.PI * n) ** 2 : 0)],
    ['sine', { wave: 'sine' }, (n) => (n === 1 ? 5 : 0)],
  ];
  it.each(shapes)('%s', (_, params, amplitude) => {
    const found = levels({ ...params, interval });
    for (let n = 1; n * bin * (RATE / SIZE) < 10000; n++) {
      const wanted = amplitude(n);
      // Where the closed form has nothing, nothing within 80 dB of the fundamental may stand.
      if (wanted < 0.0005) expect(found[n * bin]).toBeLessThan(db(5) - 80);
      else expect(Math.abs(found[n * bin]! - db(wanted))).toBeLessThan(0.05);
    }
  });
});

describe('aliases', () => {
  /** Highest level in dB, against the fundamental, of anything up to 16 kHz that is no harmonic. */
  const worst = (found: Float64Array, bin: number): number => {
    let most = -Infinity;
    for (let i = 20; i < (16000 * SIZE) / RATE; i++) {
      const away = Math.abs(i - bin * Math.round(i / bin));
      if (away > 8) most = Math.max(most, found[i]!);
    }
    return most - found[bin]!;
  };

  it.each([110, 987, 2093, 3520, 4978])('saw, pulse and triangle at %p Hz: 90 dB down', (hz) => {
    const { interval, bin } = tuned(hz);
    for (const wave of ['saw', 'pulse', 'triangle']) {
      expect([wave, worst(levels({ wave, width: 31, interval }), bin) < -90]).toEqual([wave, true]);
    }
  });

  it.each([500, 1500])('hard sync of a saw to %p Hz: 80 dB down', (hz) => {
    const { interval, bin } = tuned(hz);
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        master: ['oscillator', { wave: 'saw', interval }],
        slave: ['oscillator', { wave: 'saw', interval: interval + 8.3, sync: 'on' }],
        out: ['output'],
      },
      [
        'keys.pitch1 > master.pitch',
        'keys.pitch1 > slave.pitch',
        'master.sync > slave.sync',
        'slave.out > out.in',
      ],
      'out',
    );
    expect(worst(levels({}, graph), bin)).toBeLessThan(-80);
  });
});

describe('mirror sync', () => {
  it.each(['saw', 'pulse', 'triangle', 'sine'])(
    'of a %s: nothing but multiples of half the master’s pitch, 75 dB down',
    (wave) => {
      const { bin } = tuned(1000);
      const even = 2 * Math.round(bin / 2);
      const interval = tuned((even * RATE) / SIZE).interval;
      const graph = benchGraph(
        {
          keys: ['keyboard'],
          master: ['oscillator', { wave: 'saw', interval }],
          slave: ['oscillator', { wave, width: 31, interval: interval + 6.3, sync: 'mirror' }],
          out: ['output'],
        },
        [
          'keys.pitch1 > master.pitch',
          'keys.pitch1 > slave.pitch',
          'master.sync > slave.sync',
          'slave.out > out.in',
        ],
        'out',
      );
      const found = levels({}, graph);
      const half = even / 2;
      let [most, other] = [-Infinity, -Infinity];
      for (let i = 20; i < (16000 * SIZE) / RATE; i++) {
        const away = Math.abs(i - half * Math.round(i / half));
        if (away === 0) most = Math.max(most, found[i]!);
        else if (away > 8) other = Math.max(other, found[i]!);
      }
      expect(other - most).toBeLessThan(-75);
      // And it is not the master's own pitch: every other cycle runs the other way.
      expect(Math.max(found[half]!, found[3 * half]!)).toBeGreaterThan(most - 40);
    },
  );
});

describe('tuning', () => {
  it('adds octave, interval, fine and volts, and holds still', () => {
    // Octave up, fifth up, 50 cents down, C3 instead of C4: 0.75 of a whole tone is left out of nothing.
    const sound = record(
      graphOf({ wave: 'sine', octave: 12, interval: 7, fine: -50 }),
      'osc.out',
      2,
      {
        notes: [held(48)],
      },
    );
    const wanted = C4_HZ * 2 ** ((12 + 7 - 0.5 - 12) / 12);
    let crossings = 0;
    let [first, last] = [0, 0];
    for (let i = 5000; i < sound.length - 1; i++) {
      if (sound[i]! < 0 && sound[i + 1]! >= 0) {
        last = i + sound[i]! / (sound[i]! - sound[i + 1]!);
        if (crossings++ === 0) first = last;
      }
    }
    expect(((crossings - 1) * RATE) / (last - first)).toBeCloseTo(wanted, 3);
  });

  it('falls silent at the ends of the pulse’s width', () => {
    for (const width of [0, 100]) {
      const sound = record(graphOf({ wave: 'pulse', width }), 'osc.out', 0.2).subarray(2000);
      const mean = sound.reduce((a, b) => a + b, 0) / sound.length;
      const off = sound.map((v) => Math.abs(v - mean));
      expect(off.reduce((a, b) => Math.max(a, b))).toBeLessThan(1e-9);
    }
  });
});

describe('aliases under modulation at audio rate: 80 dB down', () => {
  // Carrier and modulator share a divisor that the sample rate does not have: what is no multiple of it is an alias.
  const common = 131;
  const hzOf = (n: number): number => (n * common * RATE) / SIZE;
  const worstOf = (found: Float64Array): number => {
    let most = -Infinity;
    let top = -Infinity;
    for (let i = 20; i < (16000 * SIZE) / RATE; i++) {
      const away = Math.abs(i - common * Math.round(i / common));
      if (away === 0) top = Math.max(top, found[i]!);
      if (away > 8) most = Math.max(most, found[i]!);
    }
    return most - top;
  };
  const semitones = (hz: number): number => 12 * Math.log2(hz / C4_HZ);
  const modulated = (
    params: Record<string, number | string>,
    carrier: number,
    modulator: number,
    gain: number,
    port: string,
  ) =>
    benchGraph(
      {
        keys: ['keyboard'],
        m: ['oscillator', { wave: 'sine', interval: semitones(hzOf(modulator)) }],
        depth: ['attenuator', { gain }],
        c: ['oscillator', { interval: semitones(hzOf(carrier)), ...params }],
        out: ['output'],
      },
      [
        'keys.pitch1 > m.pitch',
        'keys.pitch1 > c.pitch',
        'm.out > depth.in',
        `depth.out > c.${port}`,
        'c.out > out.in',
      ],
      'out',
    );

  it.each([
    ['saw', 10, 3],
    ['saw', 7, 2],
    ['pulse', 10, 3],
  ])('linear FM of a %s', (wave, carrier, modulator) =>
    expect(
      worstOf(levels({}, modulated({ wave, 'fm-depth': 50 }, carrier, modulator, 0.5, 'fm'))),
    ).toBeLessThan(-80),
  );

  it('a pulse compares phase and width all the time: also where the width overtakes the phase', () => {
    const [carrier, modulator, gain] = [3, 10, 0.8];
    const graph = modulated({ wave: 'pulse', width: 50 }, carrier, modulator, gain, 'width');
    expect(worstOf(levels({}, graph))).toBeLessThan(-80);
    // The modulator is heard REACH samples late; a comparator by definition, many times in each sample.
    const late = (REACH * hzOf(modulator)) / RATE;
    const steps = 200_000;
    let high = 0;
    let edges = 0;
    let was = true;
    for (let i = 0; i < steps; i++) {
      const t = i / steps;
      const width = 0.5 + 0.5 * gain * Math.sin(2 * Math.PI * (modulator * t - late));
      const now = (carrier * t) % 1 < width;
      if (now) high++;
      if (now && !was) edges++;
      was = now;
    }
    // More edges than cycles: what this is about.
    expect(edges).toBeGreaterThan(carrier);
    // 131 of their common cycles.
    const sound = record(graph, 'c.out', 0.2 + SIZE / RATE).subarray(4800, 4800 + SIZE);
    const mean = sound.reduce((a, b) => a + b, 0) / SIZE;
    expect(Math.abs(mean - 5 * ((2 * high) / steps - 1))).toBeLessThan(0.01);
  });

  it.each(['saw', 'triangle'])('exponential FM of a %s', (wave) => {
    // The mean of 2^(v sin) lifts the carrier: by the modified Bessel function I0(v ln 2), here 1 + x^2/4 + x^4/64 + ...
    const x = (5 * 0.03 * Math.LN2) ** 2 / 4;
    const lifted = 12 * Math.log2(1 + x + x ** 2 / 4 + x ** 3 / 36);
    const graph = modulated({ wave, fine: -100 * lifted }, 10, 3, 0.03, 'mod');
    expect(worstOf(levels({}, graph))).toBeLessThan(-80);
  });

  it.each([
    [10, 1],
    [9, 2],
  ])('width modulation of a pulse', (carrier, modulator) =>
    expect(
      worstOf(levels({}, modulated({ wave: 'pulse' }, carrier, modulator, 0.5, 'width'))),
    ).toBeLessThan(-80),
  );
});

describe('a saw far from its edges', () => {
  it('is what it would be if each of its samples went through the ring', () => {
    // Keys from far below to far above, not at the beginnings of blocks; the last so high that edges never rest.
    const notes = [24, 48, 36, 60, 59, 84, 100, 30, 127].map((note, i) => ({
      start: 0.0813 * i,
      duration: 0.0813,
      note,
      velocity: 100,
    }));
    const saw = (amount: number): Float64Array =>
      record(
        benchGraph(
          {
            keys: ['keyboard'],
            shake: ['noise'],
            amount: ['attenuator', { gain: amount }],
            osc: ['oscillator', { wave: 'saw', fine: 3 }],
            out: ['output'],
          },
          [
            'keys.pitch1 > osc.pitch',
            'shake.out > amount.in',
            'amount.out > osc.mod',
            'osc.out > out.in',
          ],
          'out',
        ),
        'osc.out',
        0.75,
        { notes },
      );
    // Shaken by a millionth of a millionth of a volt its pitch is never steady.
    const [steady, shaken] = [saw(0), saw(1e-12)];
    const off = steady.reduce((most, v, i) => Math.max(most, Math.abs(v - shaken[i]!)), 0);
    expect(off).toBeLessThan(1e-6);
    expect(Math.max(...steady)).toBeGreaterThan(4.9);
  });
});
