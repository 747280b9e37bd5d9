import fc from 'fast-check';
import { midiToVolts } from '../theory/pitch';
import { benchGraph } from '../testing/bench';
import { Act } from '../sound/key-feed';
import { createEngine } from '../sound/engine';
import { patternSchema } from '../pattern/pattern';
import { type KeysRule, assignVoices, VoiceAssigner } from './assign-voices';
import { parseSteps } from './text';
import { runs } from '../testing/runs';

const pattern = (...lines: string[]) =>
  patternSchema.parse({
    id: 'p',
    name: 'P',
    tracks: lines.map((line, i) => {
      const reading = parseSteps(line, 60);
      if (!reading.ok) throw new Error(reading.error.message);
      return { id: `t${i}`, name: `T${i}`, length: reading.length, steps: reading.steps };
    }),
  });
const heard = (rule: KeysRule['rule'], voices: number, ...lines: string[]) =>
  assignVoices(pattern(...lines), { rule, voices, legato: true }, 1).map((n) => [
    n.note,
    Math.round(100 * n.heard) / 100,
  ]);

describe('who gets which note', () => {
  it('of three keys the middle one stays silent on a low-and-high instrument', () => {
    expect(heard('low-and-high', 2, 'c3+e3+g3*2 . . .')).toEqual([
      [48, 0.5],
      [52, 0],
      [55, 0.5],
    ]);
  });

  it('tracks that overlap share one keyboard', () => {
    // The bass is held for a quarter note; of the upper line only what is lower is heard: nothing.
    expect(heard('low', 2, 'c2*4 . . .', '. c4 . .')).toEqual([
      [36, 1],
      [60, 0],
    ]);
    // With the last key winning, the upper one interrupts and gives back.
    expect(heard('last', 2, 'c2*4 . . .', '. c4*1 . .')).toEqual([
      [36, 0.75],
      [60, 0.25],
    ]);
  });

  it('the third key of two voices takes the oldest', () => {
    expect(heard('poly', 2, 'c3*4 e3*3 g3*2 .')).toEqual([
      [48, 0.5],
      [52, 0.75],
      [55, 0.5],
    ]);
    expect(heard('poly', 3, 'c3*4 e3*3 g3*2 .').every(([, beats]) => beats! > 0.4)).toBe(true);
  });

  it('says the step, the voices, and what is bound to the note before', () => {
    const [one, two] = assignVoices(
      pattern('c3~ . d3 .'),
      { rule: 'last', voices: 2, legato: true },
      1,
    );
    expect(one).toMatchObject({ track: 0, step: 0, voices: [0, 1], tied: false });
    expect(two).toMatchObject({ step: 2, tied: false });
    const [, bound] = assignVoices(
      pattern('c3~ d3 . .'),
      { rule: 'last', voices: 2, legato: true },
      1,
    );
    expect(bound).toMatchObject({ step: 1, tied: true });
  });

  it('is what the circuit gets, whatever is played', () => {
    const acts = fc.array(
      fc.record({ note: fc.integer({ min: 40, max: 47 }), down: fc.boolean() }),
      { maxLength: 40 },
    );
    const rule = fc.constantFrom<KeysRule['rule']>(
      'poly',
      'paraphonic',
      'rotation',
      'unison',
      'low-and-high',
    );
    fc.assert(
      fc.property(rule, fc.integer({ min: 2, max: 5 }), acts, (rule, voices, played) => {
        const graph = benchGraph(
          { v: ['voices', { rule, voices }], o: ['oscillator'], out: ['output'] },
          ['v.pitch > o.pitch', 'o.out > out.in'],
          'out',
        );
        const engine = createEngine(graph, { sampleRate: 48000 });
        const share = new VoiceAssigner({ rule, voices, legato: false });
        const down = new Set<number>();
        for (const act of played) {
          if (act.down === down.has(act.note)) continue;
          engine.play(act.down ? Act.press : Act.release, act.note, 100);
          engine.advance(64);
          if (act.down) {
            down.add(act.note);
            share.press(act);
          } else {
            down.delete(act.note);
            share.release(act.note);
          }
          share.voices.forEach(({ key, on }, v) => {
            // One gate for all: a voice that was struck is open until the last key is up, also one that no voice plays.
            const shared = rule === 'paraphonic' && share.held.length > 0;
            if (on || !shared) expect(engine.port('v', 'gate', v)[63]! > 2.5).toBe(on);
            if (on) expect(engine.port('v', 'pitch', v)[63]).toBe(midiToVolts(key!.note));
          });
        }
      }),
      { numRuns: runs(60) },
    );
  });
});
