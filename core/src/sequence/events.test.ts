import fc from 'fast-check';
import { anySteps } from '../testing/patterns';
import { chanceAt } from '../pattern/chance';
import { cycleSteps, directions, stepAt } from '../pattern/direction';
import { events, notesOf, type PatternEvent, secondsAt } from './events';
import { type Pattern, patternSchema, trackSchema } from '../pattern/pattern';
import { PatternRun } from './run';
import { parseSteps } from './text';
import { runs } from '../testing/runs';

const steps = (text: string) => {
  const reading = parseSteps(text, 60);
  if (!reading.ok) throw new Error(reading.error.message);
  return reading.steps;
};
const pattern = (tracks: object[], more: object = {}): Pattern =>
  patternSchema.parse({
    id: 'p',
    name: 'P',
    tracks: tracks.map((t, i) => ({ id: `t${i}`, name: `T${i}`, ...t })),
    ...more,
  });
const presses = (all: PatternEvent[]) =>
  all.flatMap((e) => (e.kind === 'press' ? [[e.beat, e.note] as const] : []));

describe('the way through the steps', () => {
  const walk = (direction: (typeof directions)[number], n: number) =>
    Array.from({ length: n }, (_, k) => stepAt(k, 4, direction));

  it('is forward, back, there and back with the ends twice, or once', () => {
    expect(walk('forward', 6)).toEqual([0, 1, 2, 3, 0, 1]);
    expect(walk('back', 6)).toEqual([3, 2, 1, 0, 3, 2]);
    expect(walk('there-and-back', 9)).toEqual([0, 1, 2, 3, 3, 2, 1, 0, 0]);
    expect(walk('pendulum', 8)).toEqual([0, 1, 2, 3, 2, 1, 0, 1]);
    expect(stepAt(0, 4, 'forward', 3)).toBe(3);
  });

  it('plays every step in a cycle, whatever the length', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 64 }),
        fc.constantFrom('forward', 'back', 'there-and-back', 'pendulum'),
        fc.integer({ min: 0, max: 63 }),
        (length, direction, offset) => {
          const cycle = cycleSteps(direction, length);
          const played = new Set<number>();
          for (let k = 0; k < cycle; k++) played.add(stepAt(k, length, direction, offset));
          expect(played.size).toBe(length);
          expect(stepAt(cycle, length, direction, offset)).toBe(
            stepAt(0, length, direction, offset),
          );
        },
      ),
    );
  });

  it('at random is even, and the same for the same seed', () => {
    const counts = new Float64Array(4);
    for (let k = 0; k < 8000; k++) counts[stepAt(k, 4, 'random', 0, 5)]!++;
    for (const count of counts) expect(Math.abs(count - 2000)).toBeLessThan(150);
    expect(stepAt(77, 16, 'random', 0, 9, 2)).toBe(stepAt(77, 16, 'random', 0, 9, 2));
    expect(chanceAt(1, 0, 3)).not.toBe(chanceAt(2, 0, 3));
  });
});

describe('events of a pattern', () => {
  it('hold ties on, let slides run into the next note, and end others after three quarters', () => {
    const p = pattern([{ length: 8, steps: steps('c3 - . d3~ e3 . f3*0.5 -') }]);
    const all = events([p], { beats: 2, tempo: 120 });
    expect(notesOf(all).map((n) => [n.note, n.start, Math.round(1e6 * n.duration) / 1e6])).toEqual([
      [48, 0, 0.21875],
      [50, 0.375, 0.14375],
      [52, 0.5, 0.09375],
      [53, 0.75, 0.1875],
    ]);
  });

  it('swing delays every second step: 145 ms after the first at 120 bpm and 58 %', () => {
    const p = pattern([{ length: 2, swing: 58, steps: steps('x x') }]);
    const all = notesOf(events([p], { beats: 1, tempo: 120 }));
    expect(all[1]!.start).toBeCloseTo(0.145, 9);
    expect(all[2]!.start).toBeCloseTo(0.25, 9);
  });

  it('meets the bar again: three against sixteen after three bars', () => {
    const p = pattern([
      { length: 3, steps: steps('x . .') },
      { length: 16, steps: steps('c2') },
    ]);
    const all = events([p], { beats: 24, tempo: 126 });
    const together = presses(all).filter(
      ([beat, note]) => note === 60 && presses(all).some(([b, n]) => n === 36 && b === beat),
    );
    expect(together.map(([beat]) => beat)).toEqual([0, 12]);
  });

  it('keep to their conditions', () => {
    const p = pattern([
      { length: 4, steps: steps('x?2/3 c2?not-previous c3?first c4?fill') },
      { length: 4, steps: steps('x?not-fill') },
    ]);
    const all = events([p], { beats: 4, tempo: 120, fills: [{ from: 2, to: 3 }] });
    const by = (track: number) =>
      all.flatMap((e) => (e.kind === 'press' && e.track === track ? [[e.beat, e.note]] : []));
    expect(by(0)).toEqual([
      [0.25, 36],
      [0.5, 48],
      [1, 60],
      [2.25, 36],
      [2.75, 60],
      [3.25, 36],
    ]);
    expect(by(1).map(([beat]) => beat)).toEqual([0, 1, 3]);
  });

  it('draw chances by the seed: as often as is said, and the same every time', () => {
    const p = pattern([{ length: 1, steps: steps('x?30%') }]);
    const count = (seed: number) => presses(events([p], { beats: 1000, tempo: 120, seed })).length;
    expect(Math.abs(count(1) / 4000 - 0.3)).toBeLessThan(0.03);
    expect(count(4)).toBe(count(4));
    const other = (seed: number) => presses(events([p], { beats: 8, tempo: 120, seed }));
    expect(other(1)).not.toEqual(other(2));
  });

  it('follow their chain at the bar, and transpose', () => {
    const a = pattern([{ length: 16, steps: steps('c3') }], { id: 'a', next: 'b' });
    const b = pattern([{ length: 16, steps: steps('d3') }], { id: 'b', next: 'a', transpose: 12 });
    expect(presses(events([a, b], { beats: 16, tempo: 100 }))).toEqual([
      [0, 48],
      [4, 62],
      [8, 48],
      [12, 62],
    ]);
  });

  it('come early and late by their micro-timing, never before the step before', () => {
    const p = pattern([{ length: 4, steps: steps('x<0.5 x>0.5 x<0.5 x') }]);
    expect(presses(events([p], { beats: 1, tempo: 60 })).map(([beat]) => beat)).toEqual([
      0, 0.375, 0.375, 0.75, 0.875,
    ]);
  });

  it('do not drift: a step of a triplet is exact after ten minutes', () => {
    const p = pattern([{ length: 12, rate: '1/16t', steps: steps('x') }]);
    const all = presses(events([p], { beats: 1260, tempo: 126 }));
    expect(all.at(-1)![0]).toBeCloseTo(1258, 9);
  });

  it('run chords through', () => {
    const p = pattern([
      {
        length: 8,
        arpeggio: {
          mode: 'up-and-down',
          chords: [
            { notes: [64, 60, 67], steps: 6 },
            { notes: [62, 65], steps: 2 },
          ],
        },
      },
    ]);
    expect(presses(events([p], { beats: 2.25, tempo: 120 })).map(([, n]) => n)).toEqual([
      60, 64, 67, 64, 60, 64, 62, 65, 60,
    ]);
  });

  it('stand at the second that the tempo gives, changes included', () => {
    const tempos = [
      { beat: 4, tempo: 60 },
      { beat: 6, tempo: 240 },
    ];
    expect(secondsAt(4, { tempo: 120, tempos })).toBeCloseTo(2, 12);
    expect(secondsAt(6, { tempo: 120, tempos })).toBeCloseTo(4, 12);
    expect(secondsAt(10, { tempo: 120, tempos })).toBeCloseTo(5, 12);
  });

  const anyPattern = fc
    .array(
      fc.record({
        steps: anySteps(),
        length: fc.integer({ min: 1, max: 32 }),
        rate: fc.constantFrom('1/8', '1/16', '1/16t', '1/32'),
        direction: fc.constantFrom(...directions),
        swing: fc.integer({ min: 50, max: 75 }),
        offset: fc.integer({ min: 0, max: 31 }),
      }),
      { minLength: 1, maxLength: 4 },
    )
    .map((tracks) => pattern(tracks));

  it('are in order, let every key go, and never strike one that is down', () => {
    fc.assert(
      fc.property(anyPattern, fc.integer({ min: 1, max: 99 }), (p, seed) => {
        const all = events([p], { beats: 16, tempo: 130, seed });
        const down = new Set<number>();
        let last = 0;
        for (const event of all) {
          expect(event.beat).toBeGreaterThanOrEqual(last - 1e-9);
          last = event.beat;
          if (event.kind === 'press') {
            expect(down.has(event.note)).toBe(false);
            down.add(event.note);
          } else if (event.kind === 'release') {
            expect(down.delete(event.note)).toBe(true);
          }
        }
        expect(down.size).toBe(0);
      }),
      { numRuns: runs(60) },
    );
  });

  it('are the same in one go and block by block', () => {
    fc.assert(
      fc.property(anyPattern, (p) => {
        const whole = events([p], { beats: 8, tempo: 120, seed: 3 });
        const said: string[] = [];
        const run = new PatternRun([p], 3);
        const sink = {
          press: (beat: number, note: number, velocity: number, track: number) =>
            void said.push(`${track} press ${beat} ${note} ${velocity}`),
          release: (beat: number, note: number) => void said.push(`release ${beat} ${note}`),
          step: () => undefined,
        };
        for (let beat = 0; beat < 8;) run.advance((beat = Math.min(8, beat + 0.0117)), sink);
        run.stop(8, sink);
        const wanted = whole.flatMap((e) =>
          e.kind === 'press'
            ? [`${e.track} press ${e.beat} ${e.note} ${e.velocity}`]
            : e.kind === 'release'
              ? [`release ${e.beat} ${e.note}`]
              : [],
        );
        expect(said).toEqual(wanted);
      }),
      { numRuns: runs(40) },
    );
  });
});

describe('a pattern that runs', () => {
  const heard = (run: PatternRun, until: number): string[] => {
    const said: string[] = [];
    run.advance(until, {
      press: (beat, note) => void said.push(`${beat}:${note}`),
      release: () => undefined,
      step: () => undefined,
    });
    return said;
  };
  const a = pattern([{ length: 4, rate: '1/4', steps: steps('c3 c3 c3 c3') }], { id: 'a' });
  const b = pattern([{ length: 4, rate: '1/4', steps: steps('d3 d3 d3 d3') }], { id: 'b' });

  it('takes another pattern at the next bar', () => {
    const run = new PatternRun([a, b]);
    heard(run, 1.5);
    run.queue(1, 1.5);
    expect(heard(run, 6)).toEqual(['2:48', '3:48', '4:50', '5:50']);
    expect(run.playing).toBe(1);
  });

  it('keeps what is queued when it is edited meanwhile', () => {
    const run = new PatternRun([a, b]);
    heard(run, 1.5);
    run.queue(1, 1.5);
    const edited = run.followedBy([{ ...a, transpose: 12 }, b], 1.5);
    expect(heard(edited, 6)).toEqual(['2:60', '3:60', '4:50', '5:50']);
  });

  it('is muted, moved by keys, and left out while keys are played over it', () => {
    const run = new PatternRun([a]);
    run.moved = 7;
    expect(heard(run, 1)).toEqual(['0:55']);
    run.playedOver = true;
    expect(heard(run, 2)).toEqual([]);
    run.playedOver = false;
    run.moved = 0;
    expect(heard(run, 3)).toEqual(['2:48']);
    run.mute(0, true);
    expect(heard(run, 4)).toEqual([]);
  });

  it('refuses to play nothing', () => expect(() => new PatternRun([])).toThrow(/no pattern/));

  it('plays an empty track for ever without a word', () => {
    const empty = pattern([trackSchema.parse({ id: 'e', name: 'E' })]);
    expect(heard(new PatternRun([empty]), 400)).toEqual([]);
  });
});
