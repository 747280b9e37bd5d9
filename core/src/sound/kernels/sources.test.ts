import type { ModuleKind } from '../../catalogue/index';
import FFT from 'fft.js';
import { chordNotes } from '../../theory/chord';
import { C4_HZ } from '../../theory/pitch';
import { amplitudeAt, benchGraph, countedHz, held, record } from '../../testing/bench';

const RATE = 48000;
const source = (
  kind: ModuleKind,
  params: Record<string, number | string>,
  seconds: number,
  more: Parameters<typeof record>[3] = {},
): Float64Array =>
  record(
    benchGraph(
      { keys: ['keyboard'], s: [kind, params], out: ['output'] },
      kind === 'noise' ? [] : ['keys.pitch1 > s.pitch'],
      'out',
    ),
    's.out',
    seconds,
    { notes: [held(60)], ...more },
  );
/** Level in V of a partial, over whole periods of middle C tuned to 240 Hz. */
const interval = 12 * Math.log2(240 / C4_HZ);
const partial = (sound: Float64Array, hz: number): number => {
  const part = sound.subarray(RATE * 0.2, RATE * 0.2 + RATE);
  return (2 * amplitudeAt(part, hz)) / part.length;
};

describe('noise', () => {
  /** Power in octave bands around each frequency, in dB for each Hz. */
  function densities(colour: string, seconds: number): number[] {
    const sound = source('noise', { colour }, seconds);
    const size = 8192;
    const fft = new FFT(size);
    const power = new Float64Array(size / 2);
    const out = fft.createComplexArray();
    for (let from = 0; from + size <= sound.length; from += size) {
      fft.realTransform(
        out,
        Array.from(
          sound.subarray(from, from + size),
          (v, i) => v * Math.sin((Math.PI * i) / size) ** 2,
        ),
      );
      for (let i = 0; i < size / 2; i++) power[i]! += out[2 * i]! ** 2 + out[2 * i + 1]! ** 2;
    }
    return [56, 112, 225, 450, 900, 1800, 3600, 7071].map((hz) => {
      const [a, b] = [hz / Math.SQRT2, hz * Math.SQRT2].map((f) => Math.round((f * size) / RATE));
      let sum = 0;
      for (let i = a!; i < b!; i++) sum += power[i]!;
      return 10 * Math.log10(sum / (b! - a!));
    });
  }

  it('pink falls by 3.01 dB an octave, within 0.5 dB, from 40 Hz to 10 kHz', () => {
    const found = densities('pink', 120);
    const middle = found.reduce((sum, v, i) => sum + v + 3.0103 * i, 0) / found.length;
    found.forEach((v, i) => expect(Math.abs(v + 3.0103 * i - middle)).toBeLessThan(0.5));
  });

  it('white is level, within 0.5 dB', () => {
    const found = densities('white', 40);
    const middle = found.reduce((sum, v) => sum + v, 0) / found.length;
    for (const v of found) expect(Math.abs(v - middle)).toBeLessThan(0.5);
  });

  it('pink has the power of the white that it is made of', () => {
    const rms = (colour: string): number => {
      const sound = source('noise', { colour }, 20);
      return Math.sqrt(sound.reduce((sum, v) => sum + v * v, 0) / sound.length);
    };
    expect(rms('pink') / rms('white')).toBeCloseTo(1, 1);
  });
});

describe('saw-stack', () => {
  it('is one saw with no detuning and no mix', () => {
    const sound = source('saw-stack', { mix: 0, detune: 0, interval }, 1.5);
    for (const n of [1, 2, 5, 20])
      expect(partial(sound, 240 * n)).toBeCloseTo(10 / (Math.PI * n), 2);
  });

  it('spreads its sides as far as the detuning', () => {
    const sound = source('saw-stack', { mix: 100, detune: 50, interval }, 12);
    const at = (cents: number): number =>
      amplitudeAt(sound, 240 * 2 ** (cents / 1200)) / sound.length;
    for (const cents of [-50, -31.5, -5.5, 0, 5.5, 31.5, 50]) {
      expect(at(cents)).toBeGreaterThan(0.6);
      expect(at(cents + 12)).toBeLessThan(0.2);
    }
  });
});

describe('chord', () => {
  it.each([
    ['minor7', 0],
    ['major', 1],
    ['sus4', 2],
  ] as const)('%s in inversion %p sounds its notes', (type, inversion) => {
    const sound = source('chord', { type, inversion, interval }, 1.5);
    for (const semitone of chordNotes(type, inversion)) {
      expect(partial(sound, 240 * 2 ** (semitone / 12))).toBeGreaterThan(0.7);
    }
    expect(partial(sound, 240 * 2 ** (1 / 12))).toBeLessThan(0.1);
  });

  it('as squares has odd partials only', () => {
    const sound = source('chord', { type: 'octave', wave: 'square', interval }, 1.5);
    expect(partial(sound, 240)).toBeCloseTo((5 * 4) / Math.PI / 2, 2);
    expect(partial(sound, 720)).toBeCloseTo((5 * 4) / Math.PI / 2 / 3, 2);
  });
});

/** Bessel function of the first kind, by its integral. */
function bessel(n: number, x: number): number {
  let sum = 0;
  const steps = 2000;
  for (let i = 0; i < steps; i++) {
    const t = (Math.PI * (i + 0.5)) / steps;
    sum += Math.cos(n * t - x * Math.sin(t));
  }
  return sum / steps;
}

describe('two operators', () => {
  it('have the side bands of their index: Bessel functions', () => {
    const sound = source('two-operator', { ratio: 2, index: 2.5, interval }, 1.5);
    // sin(p + I sin 2p): partial 1 + 2n has J_n(I), those below 0 come back turned over.
    for (const n of [1, 3, 5, 7, 9]) {
      const k = (n - 1) / 2;
      const wanted = 5 * Math.abs(bessel(k, 2.5) - bessel(-k - 1, 2.5));
      expect(partial(sound, 240 * n)).toBeCloseTo(wanted, 2);
    }
  });
});

describe('folding', () => {
  it('has odd Bessel functions of its gain as partials', () => {
    const sound = source('fold-oscillator', { fold: 2, interval }, 1.5);
    for (const n of [1, 3, 5, 7]) {
      expect(partial(sound, 240 * n)).toBeCloseTo(10 * Math.abs(bessel(n, 1.5 * Math.PI)), 2);
    }
  });

  it('puts aliases of a bright fold at 3 kHz at least 80 dB down', () => {
    const high = source(
      'fold-oscillator',
      { fold: 4, interval: 12 * Math.log2(3000 / C4_HZ) },
      1.5,
    );
    // 3 kHz divides 48 kHz: what is folded at the Nyquist frequency meets partials; tune 10 Hz up.
    const off = source('fold-oscillator', { fold: 4, interval: 12 * Math.log2(3010 / C4_HZ) }, 1.5);
    expect(partial(high, 3000)).toBeGreaterThan(0.1);
    const top = partial(off, 3010);
    for (let n = 16; n < 24; n++) {
      const alias = Math.abs(48000 - 3010 * n);
      if (alias < 16000) expect(20 * Math.log10(partial(off, alias) / top)).toBeLessThan(-80);
    }
  });
});

describe('sub', () => {
  it.each([
    ['one', 120],
    ['two', 60],
  ])('%s octave below is a square', (octave, hz) => {
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        o: ['oscillator', { interval }],
        s: ['sub', { octave }],
        out: ['output'],
      },
      ['keys.pitch1 > o.pitch', 'o.sync > s.sync'],
      'out',
    );
    const sound = record(graph, 's.out', 1.5, { notes: [held(60)] });
    for (const n of [1, 3, 5, 31])
      expect(partial(sound, hz * n)).toBeCloseTo(20 / (Math.PI * n), 2);
    expect(partial(sound, 2 * hz)).toBeLessThan(0.001);
  });
});

describe('tuning', () => {
  it('takes footage as octaves', () => {
    const sound = source('oscillator', { wave: 'sine', footage: 16 / 3 }, 2);
    expect(1200 * Math.log2(countedHz(sound) / (C4_HZ * 1.5))).toBeCloseTo(0, 1);
  });

  it('drifts by no more than it may, and is the same for the same seed', () => {
    const pitches = (seed: number): number[] => {
      const sound = source('oscillator', { wave: 'sine', drift: 30 }, 12, { seed });
      return Array.from(
        { length: 11 },
        (_, s) =>
          1200 * Math.log2(countedHz(sound.subarray((s + 0.5) * RATE, (s + 1) * RATE)) / C4_HZ),
      );
    };
    const found = pitches(3);
    for (const cents of found) expect(Math.abs(cents)).toBeLessThan(30);
    expect(Math.max(...found) - Math.min(...found)).toBeGreaterThan(2);
    expect(pitches(3)).toEqual(found);
    expect(pitches(4)).not.toEqual(found);
  });

  it('is moved in proportion by linear FM', () => {
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        lever: ['controller', { position: 50 }],
        o: ['oscillator', { wave: 'sine', 'fm-depth': 80 }],
        out: ['output'],
      },
      ['keys.pitch1 > o.pitch', 'lever.out > o.fm'],
      'out',
    );
    const sound = record(graph, 'o.out', 2, { notes: [held(60)] });
    expect(countedHz(sound)).toBeCloseTo(C4_HZ * 1.4, 3);
  });
});

describe('noise that is struck', () => {
  const struck = (start: number): Float64Array =>
    record(
      benchGraph(
        {
          l: ['lfo', { shape: 'square', rate: 10 }],
          n: ['noise', { start }],
          out: ['output'],
        },
        ['l.out > n.trigger', 'n.out > out.in'],
        'out',
      ),
      'n.out',
      0.3,
      { sampleRate: 8000 },
    );

  it('is the same at every stroke, and another from another start', () => {
    const [first, other] = [struck(0), struck(10)];
    expect(first.subarray(0, 800)).toEqual(first.subarray(800, 1600));
    expect(other.subarray(0, 800)).toEqual(other.subarray(1600, 2400));
    // A tenth of a second further on in the same recording.
    const free = record(
      benchGraph({ n: ['noise'], out: ['output'] }, ['n.out > out.in'], 'out'),
      'n.out',
      0.3,
      { sampleRate: 8000 },
    );
    expect(first.subarray(0, 800)).toEqual(free.subarray(0, 800));
    expect(other.subarray(0, 800)).toEqual(free.subarray(800, 1600));
  });
});
