import type { ModuleKind } from '../../catalogue';
import FFT from 'fft.js';
import { benchGraph, record } from '../../testing/bench';

const RATE = 48000;
const SIZE = 16384;
const fft = new FFT(SIZE);

const saws = new Map<number, Float32Array>();

/** Five volts of a saw with all its harmonics up to 20 kHz, whose cycles fit a spectrum exactly. */
function saw(cycles: number): Float32Array {
  const known = saws.get(cycles) ?? sawOf(cycles);
  saws.set(cycles, known);
  return known;
}

function sawOf(cycles: number): Float32Array {
  const sound = new Float32Array(3 * SIZE);
  const most = Math.floor((20000 * SIZE) / RATE / cycles);
  for (let i = 0; i < SIZE; i++) {
    let sum = 0;
    for (let h = 1; h <= most; h++) {
      sum += Math.sin((2 * Math.PI * ((h * cycles * i) % SIZE)) / SIZE) / h;
    }
    sound[i] = sound[i + SIZE] = sound[i + 2 * SIZE] = sum / Math.PI;
  }
  return sound;
}

/** The loudest of what is no harmonic, 60 Hz to 16 kHz, in dB under the loudest harmonic. */
function aliases(sound: Float64Array, cycles: number): number {
  const out = fft.createComplexArray();
  fft.realTransform(out, sound);
  let [harmonic, other] = [0, 0];
  for (let bin = 20; bin < (16000 * SIZE) / RATE; bin++) {
    const size = Math.hypot(out[2 * bin]!, out[2 * bin + 1]!);
    if (bin % cycles === 0) harmonic = Math.max(harmonic, size);
    else other = Math.max(other, size);
  }
  return 20 * Math.log10(other / harmonic);
}

/** A saw through a module on the bench, measured when it has settled. */
function through(
  kind: ModuleKind,
  params: Record<string, number | string>,
  cycles: number,
  input = 'in',
  second = '',
): number {
  const graph = benchGraph(
    { x: ['external'], m: [kind, params], out: ['output'] },
    [`x.left > m.${input}`, ...(second ? [`x.right > m.${second}`] : []), 'm.out > out.in'],
    'out',
  );
  const external = [saw(cycles), saw(2 * cycles)] as const;
  const sound = record(graph, 'm.out', (3 * SIZE) / RATE, { external, sampleRate: RATE });
  return aliases(sound.subarray(2 * SIZE), cycles);
}

/** Cycles of saws of 111, 442 and 1755 Hz. */
const SAWS = [38, 151, 599];

describe('what a saw of 5 V folds down', () => {
  // One corner is at 79 dB: where a strong resonance stands on a harmonic, the curve reaches its flat end.
  it.each([
    ['low-pass-24', [0, 0.3, 0.6, 0.8]],
    ['diode', [0, 0.3, 0.6]],
    ['overload-12', [0, 0.3, 0.6]],
    ['four-pole', [0, 0.3, 0.6]],
  ] as const)('%s: 78 dB under it at any cutoff, 111 to 1755 Hz', (kind, resonances) => {
    for (const cycles of SAWS) {
      for (const cutoff of [1000, 3000, 9000, 18000]) {
        for (const resonance of resonances)
          expect(through(kind, { cutoff, resonance }, cycles)).toBeLessThan(-78);
      }
    }
  });

  // A saw at 40 dB of gain turns round thirty times in one sample where it folds.
  it.each([
    ['soft', 90],
    ['hard', 90],
    ['one-sided', 90],
    ['fold', 75],
  ])('%s drive at any gain: %d dB under it', (curve, under) => {
    for (const cycles of SAWS) {
      for (const gain of [6, 20, 30, 40])
        expect(through('drive', { gain, curve }, cycles)).toBeLessThan(-under);
    }
  });

  it('a ring of two saws: 70 dB under it', () => {
    for (const cycles of SAWS) expect(through('ring', {}, cycles, 'a', 'b')).toBeLessThan(-70);
  });
});
