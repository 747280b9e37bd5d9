import { amplitudeAt, benchGraph, impulseResponse, record } from '../../testing/bench';

const RATE = 48000;
const db = (ratio: number): number => 20 * Math.log10(ratio);

describe('an equaliser', () => {
  const level = (params: Record<string, number>, hz: number): number =>
    db(amplitudeAt(impulseResponse('equaliser', params, 0.5), hz) / 1e-3);

  it.each([-12, 6, 18])('gives %d dB where its bands stand, and nothing elsewhere', (gain) => {
    expect(level({ low: gain }, 5)).toBeCloseTo(gain, 1);
    expect(level({ low: gain }, 120)).toBeCloseTo(gain / 2, 1);
    expect(level({ low: gain }, 10000)).toBeCloseTo(0, 1);
    expect(level({ bell: gain, sharpness: 3 }, 1000)).toBeCloseTo(gain, 2);
    expect(level({ bell: gain, sharpness: 3 }, 30)).toBeCloseTo(0, 1);
    expect(level({ high: gain }, 23000)).toBeCloseTo(gain, 1);
    expect(level({ high: gain }, 5000)).toBeCloseTo(gain / 2, 1);
    expect(level({ high: gain }, 100)).toBeCloseTo(0, 1);
  });

  it('changes nothing with all bands at 0', () => {
    for (const hz of [30, 1000, 15000]) expect(level({}, hz)).toBeCloseTo(0, 6);
  });
});

describe('a compressor', () => {
  const into = (volts: number, params: Record<string, number>, side?: number) =>
    benchGraph(
      {
        v: ['offset', { volts }],
        s: ['offset', { volts: side ?? 0 }],
        m: ['compressor', params],
        out: ['output'],
      },
      ['v.out > m.in', ...(side === undefined ? [] : ['s.out > m.side']), 'm.out > out.in'],
      'out',
    );
  const settled = (...a: Parameters<typeof into>): number =>
    record(into(...a), 'm.out', 0.5, { sampleRate: 8000 }).at(-1)!;

  it.each([
    [1, 2, 4, 1],
    [8, 2, 4, 2 * 4 ** 0.25],
    [-8, 2, 2, -4],
    [10, 1, 20, 10 ** 0.05],
  ])('%d V over a threshold of %d V at %d to one are %d V', (volts, threshold, ratio, wanted) => {
    expect(settled(volts, { threshold, ratio })).toBeCloseTo(wanted, 4);
  });

  it('makes up for what it takes, and listens to its side input', () => {
    expect(settled(1, { makeup: 6 })).toBeCloseTo(10 ** 0.3, 4);
    expect(settled(1, { threshold: 1, ratio: 2 }, 4)).toBeCloseTo(0.5, 4);
    expect(settled(5, { threshold: 1, ratio: 2 }, 0)).toBeCloseTo(5, 6);
  });

  it('has 1 % of the way left in dB after its attack', () => {
    const attack = 0.1;
    const sound = record(into(8, { threshold: 2, ratio: 4, attack }), 'm.out', 0.2);
    const full = 0.75 * db(4);
    const taken = db(8 / sound[Math.round(attack * RATE) - 1]!);
    expect(taken / full).toBeCloseTo(0.99, 3);
  });
});

describe('a frequency shifter', () => {
  it.each([
    [440, 100],
    [440, -100],
    [3000, 1234],
    [60, 7],
  ])('moves %d Hz by %d Hz, and leaves nothing on the other side', (hz, shift) => {
    const graph = benchGraph(
      { o: ['lfo', { shape: 'sine', rate: hz }], m: ['shifter', { shift }], out: ['output'] },
      ['o.out > m.in', 'm.out > out.in'],
      'out',
    );
    const all = (port: string): Float64Array => record(graph, port, 1.5).subarray(RATE / 2);
    const level = (sound: Float64Array, f: number): number =>
      (2 * amplitudeAt(sound, f)) / sound.length;
    const [up, down] = [all('m.up'), all('m.down')];
    expect(level(up, hz + shift)).toBeCloseTo(5, 1);
    expect(db(level(up, hz - shift) / 5)).toBeLessThan(-40);
    expect(level(down, hz - shift)).toBeCloseTo(5, 1);
    expect(db(level(down, hz + shift) / 5)).toBeLessThan(-40);
  });
});

describe('a spring', () => {
  const click = new Float32Array([0.1]);
  const shaken = (params: Record<string, number>, seconds: number): Float64Array => {
    const graph = benchGraph(
      { x: ['external'], m: ['spring', { mix: 100, ...params }], out: ['output'] },
      ['x.out > m.in', 'm.out > out.in'],
      'out',
    );
    return record(graph, 'm.left', seconds, { notes: [], external: [click, click] });
  };
  const energy = (sound: Float64Array, from: number, to: number): number => {
    let sum = 0;
    for (let i = Math.round(from * RATE); i < to * RATE; i++) sum += sound[i]! ** 2;
    return sum;
  };

  it.each([0.8, 2, 4])('loses 60 dB in its decay of %d s', (decay) => {
    const sound = shaken({ decay, damping: 8000 }, 0.8 * decay + 0.3);
    const [a, b] = [0.1, 0.1 + 0.5 * decay];
    const lost = 10 * Math.log10(energy(sound, a, a + 0.15) / energy(sound, b, b + 0.15));
    // Damping takes more than decay says.
    expect(lost).toBeGreaterThan(29);
    expect(lost).toBeLessThan(36);
  });

  it('is silent until the first echo, which sweeps: low sounds before those under 4 kHz', () => {
    const sound = shaken({ damping: 8000, decay: 0.5 }, 0.2);
    expect(Math.max(...sound.subarray(0, 0.04 * RATE))).toBeLessThan(1e-6);
    /** Middle of the energy around a frequency, of the first echo. */
    const middle = (hz: number): number => {
      let [sum, moment] = [0, 0];
      for (let at = 0.036 * RATE; at < 0.076 * RATE; at += 24) {
        const some = sound
          .subarray(at, at + 384)
          .map((v, i) => v * Math.sin((Math.PI * i) / 384) ** 2);
        const size = amplitudeAt(some, hz) ** 2;
        sum += size;
        moment += size * (at + 192);
      }
      return moment / sum / RATE;
    };
    // Forty all-passes of six samples: 1.3 ms at 700 Hz, 6.1 ms at 3 kHz, behind 41 ms.
    expect(Math.abs(middle(700) - 0.0423)).toBeLessThan(0.001);
    expect(Math.abs(middle(3000) - 0.0471)).toBeLessThan(0.001);
  });
});
