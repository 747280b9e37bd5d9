import { benchGraph, held } from '../testing/bench';
import { type Volts, voltsAt } from './volts';

const RATE = 48000;
const at = (all: Volts[], node: string, port = 'out'): Volts =>
  all.find((v) => v.node === node && v.port === port)!;

/** A pulse of a width in %, a constant of some volts beside it, and the output. */
const graphOf = (width: number, volts: number) =>
  benchGraph(
    {
      keys: ['keyboard'],
      pulse: ['oscillator', { wave: 'pulse', width }],
      c: ['offset', { volts }],
      half: ['attenuator', { gain: 0.5 }],
      out: ['output', { level: 0.25 }],
    },
    ['keys.pitch1 > pulse.pitch', 'pulse.out > half.in', 'half.out > out.in', 'c.out > out.in'],
    'out',
  );

describe('what stands at the ports while a note is held', () => {
  it('is read off the rendering: a pulse of a quarter has half its height below nothing', () => {
    const all = voltsAt(graphOf(25, 1.5), [held(57, 1)], { sampleRate: RATE });
    const pulse = at(all, 'pulse');
    // 5 V for a quarter of the time, -5 V for the rest.
    expect(pulse.direct).toBeCloseTo(-2.5, 1);
    expect(pulse.low).toBeLessThan(-4.9);
    expect(pulse.high).toBeGreaterThan(4.9);
    const steady = at(all, 'c');
    expect([steady.low, steady.high, steady.direct]).toEqual([1.5, 1.5, expect.closeTo(1.5, 9)]);
  });

  it('comes to the output as a sum, before its level and its capacitor', () => {
    const all = voltsAt(graphOf(25, 1.5), [held(57, 1)], { sampleRate: RATE });
    expect(at(all, 'half').direct).toBeCloseTo(-1.25, 1);
    expect(at(all, 'out', 'in').direct).toBeCloseTo(1.5 + at(all, 'half').direct, 9);
  });

  it('is read where the first note sounds, however late that comes', () => {
    const notes = [held(57, 1, 3), held(57, 1, 0.8)];
    const early = voltsAt(graphOf(25, 0), [held(57, 1, 0)], { sampleRate: RATE });
    const late = voltsAt(graphOf(25, 0), notes, { sampleRate: RATE });
    expect(at(late, 'pulse').direct).toBeCloseTo(at(early, 'pulse').direct, 1);
  });

  it('sums all voices that come to the output', () => {
    const graph = benchGraph(
      {
        keys: ['voices', { voices: 3, spread: 0 }],
        pulse: ['oscillator', { wave: 'pulse', width: 25 }],
        mix: ['voice-mixer', { level: 1 }],
        out: ['output'],
      },
      ['keys.pitch > pulse.pitch', 'pulse.out > mix.in', 'mix.out > out.in'],
      'out',
    );
    const all = voltsAt(graph, [held(57, 1), held(64, 1)], { sampleRate: RATE });
    expect(at(all, 'pulse').direct).toBeCloseTo(-2.5, 1);
    expect(at(all, 'out', 'in').direct).toBeCloseTo(at(all, 'mix').direct, 9);
  });

  it('says nothing of outputs that lead nowhere', () => {
    const all = voltsAt(graphOf(50, 0), [], { sampleRate: RATE });
    expect(all.map((v) => `${v.node}.${v.port}`).sort()).toEqual([
      'c.out',
      'half.out',
      'keys.pitch1',
      'out.in',
      'pulse.out',
    ]);
  });
});
