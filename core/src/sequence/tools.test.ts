import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { readMidiFile, writeMidiFile } from '../formats/midi-file';
import { instrumentSchema } from '../instrument/schema';
import { patchSchema } from '../patch/schema';
import { barsUntilMeeting } from '../theory/time';
import { patternFromMidi, patternToMidi } from './midi-pattern';
import { patternSchema, trackSchema } from '../pattern/pattern';
import { stepOf } from '../pattern/steps';
import { quantise } from './quantise';
import { compile } from '../circuit';
import { riserOf } from './riser';
import { cannotInFill, riserInFill } from './riser-in-fill';
import { formatSteps, parseSteps } from './text';
import { answer, ghosts, hitsEvery, hitsOf, ownValuesAlong, rotated, transposed } from './tools';

const track = (text: string) => {
  const reading = parseSteps(text, 48);
  if (!reading.ok) throw new Error(reading.error.message);
  return trackSchema.parse({ id: 't', name: 'T', length: reading.length, steps: reading.steps });
};
const read = <T>(path: string, parse: (value: unknown) => T): T =>
  parse(
    JSON.parse(readFileSync(new URL(`../../../library/${path}.json`, import.meta.url), 'utf8')),
  );
const shoal = read('instruments/marram-shoal', (v) => instrumentSchema.parse(v));

describe('a hit every so many steps', () => {
  it('meets the bar again after lcm(k, n) steps', () => {
    const { track: three, bars, meets } = hitsEvery(track('.'), 3, 1, { notes: [52] });
    expect([bars, meets, three.length]).toEqual([3, 48, 48]);
    expect(hitsOf(three).slice(0, 3)).toEqual([1, 4, 7]);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 32 }), fc.integer({ min: 0, max: 31 }), (k, from) => {
        const result = hitsEvery(track('.'), k, from, { notes: [52] });
        expect(result.bars).toBe(barsUntilMeeting(k, 16));
        const hits = hitsOf(result.track);
        // Round and round, the gaps never break.
        hits.forEach((h, i) => {
          const next =
            hits[(i + 1) % hits.length]! + (i === hits.length - 1 ? result.track.length : 0);
          expect(next - h).toBe(k);
        });
      }),
    );
  });
});

describe('tools', () => {
  it('lay own values along the hits of another track', () => {
    const along = ownValuesAlong(track('x x x x x x'), track('x . . x . .'), 'decay', 0.8, 2);
    expect(along.steps.map((s) => s.ownValues?.['decay'])).toEqual([
      0.8,
      undefined,
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    expect(
      ownValuesAlong(track('. x'), track('x .'), 'decay', 0.8).steps.some((s) => s.ownValues),
    ).toBe(false);
  });

  it('follow the other track over its whole length, the shorter one repeated until both meet', () => {
    const owned = (own: string, other: string): string =>
      ownValuesAlong(track(own), track(other), 'decay', 0.8)
        .steps.map((s) => (s.ownValues ? 'o' : s.notes ? 'x' : '.'))
        .join('');
    expect(owned('x x', 'x . . x . .')).toBe('oxxoxx');
    expect(owned('x x x x', 'x . .')).toBe('oxxoxxoxxoxx');
    expect(owned('x . x .', '. . x . . .')).toBe('x.o.x.x.o.x');
    const long = ownValuesAlong(
      track('x '.repeat(13).trim()),
      track('x '.repeat(47).trim()),
      'decay',
      1,
    );
    expect(long.length).toBe(52);
  });

  it('answer an octave up in fill, where there is room', () => {
    const both = answer(track('c3 . d3 e3 . .'), 1);
    expect(formatSteps(both.steps)).toBe('c3 c4?fill d3 e3 e4?fill');
    expect(answer(both, 1)).toEqual(both);
  });

  it('lead to a stroke along a curve', () => {
    const led = ghosts(track('. . . . d3:100 .'), 4, 3, 20, 1);
    expect(led.steps.map((s) => s.velocity)).toEqual([undefined, 20, 47, 73, 100]);
    expect(ghosts(track('. .'), 1, 3)).toEqual(track('. .'));
  });

  it('turn and transpose, or say that it cannot be', () => {
    expect(formatSteps(rotated(track('c3 . . d3'), 1).steps)).toBe('d3 c3');
    expect(transposed(track('c3'), 7)!.steps[0]!.notes).toEqual([55]);
    expect(transposed(track('c9'), 12)).toBeUndefined();
  });
});

describe('a riser', () => {
  const patch = read('patches/winch-room-riser', (v) => patchSchema.parse(v));

  it('is told in the numbers of the instrument, with the nearest it can reach', () => {
    const riser = riserOf(shoal, patch, 4, 2)!;
    expect(riser.rate).toMatchObject({ control: 'lfo-bars', reached: 16, unit: 'beats' });
    expect(riser.timeError).toBe(0);
    expect(riser.depth.control).toBe('lfo-pitch');
    expect(Math.abs(riser.heightError)).toBeLessThan(0.3);
  });

  it('sets the ramp and its beginning, or says what the panel cannot', () => {
    const riser = riserOf(shoal, patch, 4, 2)!;
    expect([riser.also, riser.cannot]).toEqual([
      [],
      shoal.circuit.modules.some((m) => m.id === riser.lfo && m.params?.['reset'] === 'key')
        ? []
        : [expect.stringContaining('does not begin with the key')],
    ]);
    const shape = shoal.controls.find((c) =>
      c.bindings.some((b) => b.module === riser.lfo && b.param === 'shape'),
    )!;
    const triangle = {
      ...patch,
      settings: { ...patch.settings, [shape.id]: { kind: 'set' as const, value: 'triangle' } },
    };
    const [turned] = riserOf(shoal, triangle, 4, 2)!.also;
    expect(turned).toMatchObject({ control: shape.id });
    const set = {
      ...triangle,
      settings: {
        ...triangle.settings,
        [shape.id]: { kind: 'set' as const, value: turned!.value },
      },
    };
    const { lfo } = riserOf(shoal, set, 4, 2)!;
    expect(compile(shoal, set).nodes.find((n) => n.id === lfo)!.params['shape']).toBe('ramp-up');
    // It has no switch position for seven bars, and no knob for nine octaves.
    const odd = riserOf(shoal, patch, 6, 9)!;
    expect(odd.cannot.join(' ')).toMatch(
      /The nearest it takes is (4|8) bars\..* octaves at most\./,
    );
  });

  it('is kept for fills where the box can: the hit with the depth plays only then', () => {
    const riser = riserOf(shoal, patch, 4, 2)!;
    const [box] = shoal.sequencers;
    expect(cannotInFill(shoal, box, riser)).toBe('');
    expect(cannotInFill(shoal, { ...box!, can: { conditions: [] } }, riser)).toContain('no fills');
    expect(cannotInFill(shoal, { ...box!, can: { ownValues: [] } }, riser)).toContain(
      'cannot move',
    );
    const laid = riserInFill(track('c4 . d4 .'), 1, 60, riser);
    expect(stepOf(laid, 1)).toEqual({
      notes: [60],
      condition: 'fill',
      ownValues: { 'lfo-pitch': riser.depth.value },
    });
    expect(stepOf(riserInFill(laid, 2, 60, riser), 2).notes).toEqual([62]);
    // Outside of fills nothing rises.
    const flat = {
      ...patch,
      settings: { ...patch.settings, 'lfo-pitch': { kind: 'set' as const, value: riser.flat } },
    };
    const depth = compile(shoal, flat).edges.find((e) => e.from.node === riser.lfo)!.to.node;
    const gain = compile(shoal, flat).nodes.find((n) => n.id === depth)!.params['gain'];
    expect(Math.abs(Number(gain))).toBeLessThan(1e-3);
  });

  it('is not made by an instrument whose LFO leads to no pitch', () => {
    const none = {
      ...shoal,
      circuit: {
        ...shoal.circuit,
        wires: shoal.circuit.wires.filter((w) => !/^(lp|l2p)\./.test(w.from)),
      },
    };
    expect(riserOf(none, patch, 4, 2)).toBeUndefined();
  });
});

describe('notes put on steps', () => {
  const notes = [
    { beat: 0.02, length: 0.19, note: 48, velocity: 80 },
    { beat: 0.5, length: 0.5, note: 50, velocity: 122 },
    { beat: 0.5, length: 0.5, note: 54, velocity: 122 },
    { beat: 9, length: 1, note: 60, velocity: 10 },
  ];

  it('are moved and told so, or kept as micro-timing', () => {
    const moved = quantise(notes, '1/16', 16);
    expect(formatSteps(moved.steps)).toBe("c3 . d3+f#3'*2");
    expect(moved.moved).toEqual([{ beat: 0.02, note: 48, by: -0.02 }]);
    expect(moved.dropped).toEqual([{ beat: 9, note: 60, why: 'behind the last of 16 steps' }]);
    const kept = quantise(notes, '1/16', 16, true);
    expect([kept.moved, kept.steps[0]!.micro]).toEqual([[], 0.08]);
  });
});

describe('patterns and MIDI files', () => {
  const pattern = patternSchema.parse({
    id: 'p',
    name: 'P',
    sequencer: 'tracks',
    tracks: [
      { ...track("x . x'  . x*2 . . ."), id: 'a', name: 'kick' },
      { ...track('. e3 . e3'), id: 'b', name: 'hat' },
    ],
  });
  pattern.tracks[1]!.steps[1] = { notes: [52], ownValues: { 'hat-decay': 0.5 } };

  it('keep notes, velocities, lengths and own values that a controller is bound to', () => {
    const { song, told } = patternToMidi(shoal, [pattern], 126, 2, { 70: 'hat-decay' });
    expect(told).toEqual(['Accents are written as velocity.']);
    const reading = readMidiFile(writeMidiFile(song));
    if (!reading.ok) throw new Error(reading.message);
    const back = patternFromMidi(reading.song, '1/16', { 70: 'hat-decay' });
    expect(back.told).toEqual([]);
    expect(back.pattern.tracks.map((t) => formatSteps(t.steps.slice(0, 8)))).toEqual([
      "c3 . c3' . c3*2",
      '. e3 . e3 . e3 . e3',
    ]);
    expect(stepOf(back.pattern.tracks[1]!, 1).ownValues!['hat-decay']).toBeCloseTo(0.5, 2);
  });

  it('say what is lost before it is', () => {
    const lossy = {
      ...pattern,
      tracks: [{ ...track('x?30% c3~ d3'), rows: { up: [1] } }, pattern.tracks[1]!],
    };
    expect(patternToMidi(shoal, [lossy], 126, 2).told).toEqual([
      'Conditions are written as they came out, round by round; fill is not held.',
      'Slides are written as notes that overlap.',
      'Own values of decay are left out: no controller is bound to it.',
      'Rows of voltages are left out: a MIDI file holds notes, not volts.',
    ]);
    const song = {
      tempos: [
        { beat: 0, bpm: 100 },
        { beat: 4, bpm: 90 },
      ],
      meters: [{ beat: 0, beats: 3, unit: 4 }],
      tracks: [
        {
          name: 'a',
          channel: 0,
          notes: [
            { beat: 0.1, length: 1, note: 60, velocity: 64 },
            { beat: 40, length: 1, note: 60, velocity: 64 },
          ],
          controllers: [{ beat: 0, number: 1, value: 3 }],
        },
      ],
    };
    const { told } = patternFromMidi(song, '1/16');
    expect(told).toHaveLength(5);
    const bent = patternFromMidi(
      { ...song, unknown: { 'pitch bend': 12, 'program change': 1 } },
      '1/16',
    );
    expect(bent.told).toContain(
      '12 pitch bends, 1 program change left out: patterns hold notes and controllers.',
    );
    expect(told[0]).toMatch(/a: 1 note moved to a step, by 0.100/);
    expect(told[1]).toMatch(/a: 1 note left out, behind the last of 64 steps/);
  });
});
