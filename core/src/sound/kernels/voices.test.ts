import { benchGraph, held, record } from '../../testing/bench';

const RATE = 1000;
const play = (
  params: Record<string, number | string>,
  notes = [held(60, 0.9), held(64, 0.6, 0.1), held(67, 0.3, 0.2)],
) => {
  const graph = benchGraph({ v: ['voices', { voices: 3, ...params }], out: ['output'] }, [], 'out');
  return (port: string, voice: number, second: number): number =>
    record(graph, 'v.' + port, second + 0.001, { sampleRate: RATE, notes }, voice).at(-1)!;
};
const semitones = (volts: number): number => Math.round(volts * 1200) / 100;

describe('voices', () => {
  it('poly gives each key a voice', () => {
    const at = play({});
    expect([0, 1, 2].map((v) => semitones(at('pitch', v, 0.3)))).toEqual([0, 4, 7]);
    expect([0, 1, 2].map((v) => at('gate', v, 0.3))).toEqual([5, 5, 5]);
    expect([0, 1, 2].map((v) => at('gate', v, 0.6))).toEqual([5, 5, 0]);
  });

  it('takes the voice that rested longest, then the oldest', () => {
    const notes = [held(60, 0.1), held(62, 0.5, 0.15), held(64, 0.5, 0.2), held(65, 0.5, 0.25)];
    const at = play({}, notes);
    // Voice 0 rested when the third new key came: it is free again.
    expect(semitones(at('pitch', 0, 0.3))).toBe(5);
    const crowded = play({}, [...notes, held(72, 0.2, 0.35)]);
    expect([0, 1, 2].filter((v) => semitones(crowded('pitch', v, 0.4)) === 12)).toHaveLength(1);
    expect([0, 1, 2].map((v) => semitones(crowded('pitch', v, 0.4)))).not.toContain(2);
  });

  it('rotation takes the next in turn, unison all for the last key', () => {
    const notes = [held(60, 0.1), held(62, 0.1, 0.2), held(64, 0.1, 0.4), held(65, 0.1, 0.6)];
    const turns = play({ rule: 'rotation' }, notes);
    expect([0, 1, 2].map((v) => semitones(turns('pitch', v, 0.5)))).toEqual([0, 2, 4]);
    expect(semitones(turns('pitch', 0, 0.65))).toBe(5);
    const all = play({ rule: 'unison', detune: 12 });
    expect([0, 1, 2].map((v) => semitones(all('pitch', v, 0.3)))).toEqual([6.88, 7, 7.12]);
    // Let go of the last: back to the one before.
    expect(semitones(all('pitch', 1, 0.6))).toBe(4);
  });

  it('low-and-high leaves the middle key silent', () => {
    const at = play({ rule: 'low-and-high', voices: 2 });
    expect([0, 1].map((v) => semitones(at('pitch', v, 0.3)))).toEqual([0, 7]);
  });

  it.each([
    [4, [5, 5, 5, 5]],
    [5, [5, 5, 5, 5, 0]],
  ])('low-and-high of %i voices is as many for the one as for the other', (voices, gates) => {
    const at = play({ rule: 'low-and-high', voices });
    const all = gates.map((_, v) => v);
    expect(all.map((v) => at('gate', v, 0.3))).toEqual(gates);
    expect([0, 1, 2, 3].map((v) => semitones(at('pitch', v, 0.3)))).toEqual([0, 7, 0, 7]);
  });

  it('paraphonic has one gate for all', () => {
    const at = play({ rule: 'paraphonic' });
    // The third key is up at 0.6, the others still down: no voice is shut alone.
    expect([0, 1, 2].map((v) => at('gate', v, 0.6))).toEqual([5, 5, 5]);
    expect([0, 1, 2].map((v) => at('gate', v, 0.95))).toEqual([0, 0, 0]);
    expect(at('any-gate', 0, 0.85)).toBe(5);
    expect(at('any-gate', 0, 0.95)).toBe(0);
  });

  it('spreads voices between left and right with constant power', () => {
    const graph = benchGraph(
      {
        v: ['voices', { voices: 2, spread: 100 }],
        one: ['offset', { volts: 1 }],
        mix: ['voice-mixer'],
        out: ['output'],
      },
      ['v.gate > one.in', 'one.out > mix.in', 'v.pan > mix.pan'],
      'out',
    );
    const left = record(graph, 'mix.left', 0.5, { notes: [held(60, 9)] }).at(-1)!;
    const right = record(graph, 'mix.right', 0.5, { notes: [held(60, 9)] }).at(-1)!;
    // Voice 0 (gate 5 V, hard left) and voice 1 (gate 0 V, hard right).
    expect(left).toBeCloseTo(6 * Math.SQRT2, 6);
    expect(right).toBeCloseTo(1 * Math.SQRT2, 6);
  });
});

describe('glide', () => {
  const pitch = (
    params: Record<string, number | string>,
    notes = [held(60, 0.5), held(84, 0.5, 0.3)],
  ) =>
    record(
      benchGraph({ k: ['keyboard', { rule: 'last', ...params }], out: ['output'] }, [], 'out'),
      'k.pitch1',
      1,
      { sampleRate: RATE, notes },
    );

  it('at a constant rate takes its time for each octave', () => {
    const out = pitch({ glide: 0.1, 'glide-kind': 'rate' });
    expect(out[300 + 99]).toBeCloseTo(1, 2);
    expect(out[300 + 150]).toBeCloseTo(1.5, 1);
    expect(out[300 + 201]).toBe(2);
  });

  it('legato only: not from a key that was let go', () => {
    const apart = [held(60, 0.1), held(72, 0.5, 0.3)];
    expect(pitch({ glide: 0.2, 'glide-when': 'legato' }, apart)[301]).toBe(1);
    expect(pitch({ glide: 0.2, 'glide-when': 'legato' })[310]).toBeLessThan(1);
  });
});
