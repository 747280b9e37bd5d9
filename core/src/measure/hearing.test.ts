import fc from 'fast-check';
import { seededRandom } from '../testing/random';
import { benchGraph, held, record } from '../testing/bench';
import { distanceOf, portrait } from './distance';
import { factsOf } from './facts';
import { heardEnvelope } from './heard-envelope';
import { loudnessOf, SILENT_LUFS } from './loudness';
import { pitchOf } from './pitch';
import { beatRateOf, sweepOf, tremoloOf, vibratoOf } from './modulation';
import { centroidOf, harmonicsOf, widthOf } from './timbre';
import { runs } from '../testing/runs';

const RATE = 48000;
const make = (seconds: number, f: (t: number, i: number) => number): Float32Array =>
  Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => f(i / RATE, i));
const turn = (x: number): number => Math.sin(2 * Math.PI * x);

describe('pitch', () => {
  it('is within 2 cents on tones from 30 Hz to 4 kHz, plain or rich, and sure of itself', () => {
    fc.assert(
      fc.property(
        fc.double({ min: Math.log2(30), max: Math.log2(4000), noNaN: true }),
        fc.constantFrom(1, 5, 12),
        (octaves, partials) => {
          const hz = 2 ** octaves;
          const sound = make(8192 / RATE, (t) => {
            let sum = 0;
            for (let n = 1; n <= partials && n * hz < 18000; n++)
              sum += turn(n * hz * t + n * 0.1) / n;
            return 0.3 * sum;
          });
          const found = pitchOf(sound, RATE)!;
          expect(Math.abs(1200 * Math.log2(found.hz / hz))).toBeLessThan(2);
          expect(found.confidence).toBeGreaterThan(0.9);
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('of high rich tones is not taken an octave or more too low', () => {
    for (let octaves = Math.log2(2000); octaves < 12; octaves += runs(0.011, 0.0011)) {
      const hz = 2 ** octaves;
      const sound = make(8192 / RATE, (t) => {
        let sum = 0;
        for (let n = 1; n * hz < 18000; n++) sum += turn(n * hz * t + n * 0.1) / n;
        return 0.3 * sum;
      });
      expect(Math.abs(1200 * Math.log2(pitchOf(sound, RATE)!.hz / hz))).toBeLessThan(2);
    }
  });

  it.each([8, 12.25, 18])('of a pulse at %d Hz is told, not a tremolo of its edges', (hz) => {
    const facts = factsOf([make(2, (t) => (t * hz - Math.floor(t * hz) < 0.5 ? 0.4 : -0.4))], RATE);
    expect(facts.pitch!.hz).toBeCloseTo(hz, 1);
    expect(facts.tremolo).toBeUndefined();
  });

  it('of noise is none, or unsure', () => {
    const random = seededRandom(5);
    const found = pitchOf(
      make(0.2, () => random() - 0.5),
      RATE,
    );
    expect(found?.confidence ?? 0).toBeLessThan(0.7);
  });
});

describe('loudness, by ITU-R BS.1770-4', () => {
  it('of a full-scale sine of 997 Hz in one channel is -3.01 LUFS, in both 0', () => {
    const sine = make(3, (t) => turn(997 * t));
    expect(loudnessOf([sine], RATE)).toBeCloseTo(-3.01, 1);
    expect(loudnessOf([sine, sine], RATE)).toBeCloseTo(0, 1);
    const other = Float32Array.from({ length: 3 * 44100 }, (_, i) => turn((997 * i) / 44100));
    expect(loudnessOf([other], 44100)).toBeCloseTo(-3.01, 1);
  });

  it('leaves out what is 10 LU below the rest, and silence', () => {
    const sine = make(2, (t) => turn(997 * t));
    const gated = new Float32Array(8 * RATE);
    gated.set(sine);
    gated.set(
      sine.map((v) => 0.05 * v),
      4 * RATE,
    );
    expect(Math.abs(loudnessOf([gated], RATE) - -3.01)).toBeLessThan(0.7);
    expect(loudnessOf([new Float32Array(RATE)], RATE)).toBe(SILENT_LUFS);
    expect(loudnessOf([], RATE)).toBe(SILENT_LUFS);
  });

  it('weighs 100 Hz less than 2 kHz', () => {
    const at = (hz: number): number => loudnessOf([make(1, (t) => 0.5 * turn(hz * t))], RATE);
    expect(at(2000) - at(100)).toBeGreaterThan(3);
    expect(at(2000) - at(100)).toBeLessThan(5);
  });
});

describe('timbre', () => {
  it('reads harmonics of a saw as 1/n, and what is no harmonic as noise', () => {
    const hz = 220;
    const saw = (noise: number): Float32Array => {
      const random = seededRandom(3);
      return make(0.5, (t) => {
        let sum = 0;
        for (let n = 1; n < 40; n++) sum += turn(n * hz * t) / n;
        return 0.3 * sum + noise * (random() - 0.5);
      });
    };
    const clean = harmonicsOf(saw(0), RATE, hz);
    clean.decibels
      .slice(0, 30)
      .forEach((db, i) => expect(db).toBeCloseTo(-20 * Math.log10(i + 1), 0));
    expect(clean.overNoise).toBeGreaterThan(60);
    const dirty = harmonicsOf(saw(0.05), RATE, hz);
    // Uniform noise of 0.05 has a power of 0.05^2/12; the saw one of 0.09/2 * pi^2/6.
    const wanted = 10 * Math.log10((0.045 * 1.62) / (0.05 ** 2 / 12));
    expect(Math.abs(dirty.overNoise - wanted)).toBeLessThan(2);
  });

  it('has its centroid at a single sine, and between two', () => {
    expect(
      Math.abs(
        centroidOf(
          make(1, (t) => turn(1000 * t)),
          RATE,
        ) - 1000,
      ),
    ).toBeLessThan(15);
    const two = make(1, (t) => 0.5 * turn(1000 * t) + 0.5 * turn(3000 * t));
    expect(Math.abs(centroidOf(two, RATE) - 2000)).toBeLessThan(30);
  });

  it('width is 0 in mono, 1 turned over, half for what has nothing in common', () => {
    const random = seededRandom(9);
    const [a, b] = [make(1, () => random() - 0.5), make(1, () => random() - 0.5)];
    expect(widthOf(a, a)).toBe(0);
    expect(
      widthOf(
        a,
        a.map((v) => -v),
      ),
    ).toBe(1);
    expect(widthOf(a, b)).toBeCloseTo(0.5, 1);
  });
});

describe('an envelope as heard', () => {
  it('is the one that was set', () => {
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        o: ['oscillator', { wave: 'saw' }],
        e: ['envelope', { attack: 0.2, decay: 0.4, sustain: 40, release: 0.3 }],
        a: ['amplifier'],
        out: ['output'],
      },
      [
        'keys.pitch1 > o.pitch',
        'keys.gate > e.gate',
        'o.out > a.in',
        'e.out > a.cv',
        'a.out > out.in',
      ],
      'out',
    );
    const sound = record(graph, 'out.out', 2.5, { notes: [held(69, 1.5)] });
    const found = heardEnvelope(sound, RATE, 1.5, 440);
    // 1.3 (1 - e^(-t/tau)) is at a tenth and at nine tenths of the way after 0.0546 and 0.802 of the time.
    expect(found.attack).toBeCloseTo(0.2 * (0.8019 - 0.0546), 2);
    // 1 % left after 0.4 s: 10 % after half of that.
    expect(found.decay).toBeCloseTo(0.2, 1);
    expect(found.sustain).toBeCloseTo(20 * Math.log10(0.4), 0);
    expect(Math.abs(found.release - 0.3)).toBeLessThan(0.03);
  });
});

describe('movements', () => {
  it('vibrato: rate within 2 %, depth within 10 %', () => {
    let phase = 0;
    const sound = make(3, (t) => {
      phase += (440 * 2 ** ((30 * turn(5.5 * t)) / 1200)) / RATE;
      return 0.5 * turn(phase);
    });
    const found = vibratoOf(sound, RATE, 440)!;
    expect(Math.abs(found.rate / 5.5 - 1)).toBeLessThan(0.02);
    expect(Math.abs(found.depth / 30 - 1)).toBeLessThan(0.1);
    expect(
      vibratoOf(
        make(2, (t) => turn(440 * t)),
        RATE,
        440,
      ),
    ).toBeUndefined();
  });

  it('tremolo: rate within 2 %, depth within 10 %', () => {
    const sound = make(3, (t) => 0.5 * 10 ** ((3 * turn(4 * t)) / 20) * turn(440 * t));
    const found = tremoloOf(sound, RATE, 440)!;
    expect(Math.abs(found.rate / 4 - 1)).toBeLessThan(0.02);
    expect(Math.abs(found.depth / 3 - 1)).toBeLessThan(0.1);
  });

  it('a filter that an LFO moves: its rate', () => {
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        o: ['oscillator'],
        l: ['lfo', { rate: 2.5, shape: 'sine' }],
        d: ['attenuator', { gain: 0.2 }],
        f: ['low-pass-24', { cutoff: 1200 }],
        out: ['output'],
      },
      [
        'keys.pitch1 > o.pitch',
        'l.out > d.in',
        'd.out > f.cutoff',
        'o.out > f.in',
        'f.out > out.in',
      ],
      'out',
    );
    const found = sweepOf(record(graph, 'out.out', 4, { notes: [held(45)] }), RATE)!;
    expect(Math.abs(found.rate / 2.5 - 1)).toBeLessThan(0.02);
    expect(found.depth).toBeGreaterThan(0.2);
  });

  it('beats of two tones 7 cents apart at 110 Hz: 0.446 a second', () => {
    const sound = make(9, (t) => 0.4 * turn(110 * t) + 0.3 * turn(110 * 2 ** (7 / 1200) * t));
    expect(beatRateOf(sound, RATE, 110)!).toBeCloseTo(0.446, 2);
  });
});

describe('the distance of two sounds', () => {
  const sound = (params: {
    cutoff?: number;
    resonance?: number;
    fine?: number;
    attack?: number;
    gain?: number;
    level?: number;
  }): Float32Array => {
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        a: ['oscillator'],
        b: ['oscillator', { fine: params.fine ?? 0 }],
        m: ['mixer', { gain1: 0.6, gain2: 0.4 }],
        f: ['low-pass-24', { cutoff: params.cutoff ?? 800, resonance: params.resonance ?? 0.2 }],
        d: ['drive', { gain: params.gain ?? 0 }],
        e: ['envelope', { attack: params.attack ?? 0.005 }],
        v: ['amplifier'],
        out: ['output', { level: params.level ?? 1 }],
      },
      [
        'keys.pitch1 > a.pitch',
        'keys.pitch1 > b.pitch',
        'a.out > m.in1',
        'b.out > m.in2',
        'm.out > f.in',
        'f.out > d.in',
        'd.out > v.in',
        'keys.gate > e.gate',
        'e.out > v.cv',
        'v.out > out.in',
      ],
      'out',
    );
    const volts = record(graph, 'out.out', 0.8, { notes: [held(48, 0.6)] });
    return Float32Array.from(volts, (v) => v / 10);
  };
  const base = portrait(sound({}), RATE);
  const away = (params: Parameters<typeof sound>[0]) =>
    distanceOf(base, portrait(sound(params), RATE));

  it('of a sound from itself is nothing', () =>
    expect(away({})).toEqual({ timbre: 0, level: 0, pitch: 0, total: 0 }));

  it.each([
    ['cutoff', [900, 1100, 1600, 3200]],
    ['resonance', [0.3, 0.45, 0.65, 0.85]],
    ['fine', [4, 10, 25]],
    ['attack', [0.03, 0.08, 0.2]],
    ['gain', [4, 10, 18, 30]],
  ] as const)('grows with %s', (name, values) => {
    const found = values.map((v) => away({ [name]: v }).total);
    for (let i = 1; i < found.length; i++) expect(found[i]!).toBeGreaterThan(found[i - 1]!);
    expect(found[0]!).toBeGreaterThan(0);
  });

  it('keeps level and pitch apart from timbre', () => {
    const quiet = away({ level: 0.5 });
    expect(quiet.level).toBeCloseTo(-6.02, 1);
    expect(quiet.timbre).toBeLessThan(0.1);
    const up = make(0.6, (t) => 0.3 * (turn(220 * t) + 0.5 * turn(440 * t)));
    const down = make(0.6, (t) => 0.3 * (turn(207.65 * t) + 0.5 * turn(415.3 * t)));
    const found = distanceOf(portrait(down, RATE), portrait(up, RATE));
    expect(found.pitch).toBeCloseTo(100, 0);
    expect(found.timbre).toBeLessThan(2.5);
  });
});
