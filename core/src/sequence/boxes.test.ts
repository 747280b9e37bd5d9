import fc from 'fast-check';
import { type Instrument, instrumentSchema } from '../instrument/schema';
import { readFileSync } from 'node:fs';
import { anySteps } from '../testing/patterns';
import { ArpeggioBox, arpeggioGroups } from './arpeggio-script';
import { arpeggioModes } from '../pattern/arpeggio';
import { fitPattern } from './fit';
import { type Pattern, patternSchema, trackSchema } from '../pattern/pattern';
import { rowGain, rowMoves, rowsFromPanel, rowSteps } from './rows';
import { enterPattern } from './script';
import { patchSchema } from '../patch/schema';
import { parseSteps } from './text';
import { TrackBox } from './track-box';
import { trackGroups } from './track-script';
import { runs } from '../testing/runs';

const instrument = (name: string): Instrument =>
  instrumentSchema.parse(
    JSON.parse(
      readFileSync(new URL(`../../../library/instruments/${name}.json`, import.meta.url), 'utf8'),
    ),
  );
const steps = (text: string) => {
  const reading = parseSteps(text, 48);
  if (!reading.ok) throw new Error(reading.error.message);
  return { steps: reading.steps, length: reading.length };
};

describe('a box of two passes', () => {
  const eelpot = instrument('oxbow-eelpot');
  const pattern = patternSchema.parse({
    id: 'p',
    name: 'p',
    sequencer: 'line',
    tracks: [{ id: 'a', name: 'a', ...steps('c2 . d2 .') }],
  });
  const passes = (said: NonNullable<Instrument['sequencers'][number]['passes']> | undefined) => {
    const { passes: _, ...bare } = eelpot.sequencers[0]!;
    const box = { ...eelpot, sequencers: [{ ...bare, ...(said ? { passes: said } : {}) }] };
    return (first?: 'pitches' | 'time'): string => {
      const entry = enterPattern(box, pattern, undefined, undefined, undefined, first);
      if (!entry.ok) throw new Error(entry.reasons.join());
      const groups = entry.script.groups.map((g) => g.title);
      return groups.filter((t) => t === 'pitches' || t === 'time').join(', ');
    };
  };

  it('is entered in the order that it wants; in the one that is wished where it takes either', () => {
    expect(eelpot.sequencers[0]!.passes).toBe('either');
    for (const wish of [undefined, 'pitches', 'time'] as const) {
      expect(passes(undefined)(wish)).toBe('pitches, time');
      expect(passes('pitches-first')(wish)).toBe('pitches, time');
      expect(passes('time-first')(wish)).toBe('time, pitches');
      expect(passes('either')(wish)).toBe(wish === 'time' ? 'time, pitches' : 'pitches, time');
    }
  });
});

describe('a box of many tracks', () => {
  const shoal = instrument('marram-shoal');
  const box = shoal.sequencers[0]!;
  const names = box.tracks.map((t) => t.name);
  const ground = (pattern: Pattern): Pattern => ({
    ...pattern,
    tracks: pattern.tracks.map((t, i) => ({ ...t, id: `t${i}`, name: names[i]!, on: undefined })),
  });
  const anyPattern = fc
    .array(
      fc.record({
        steps: anySteps({ controls: ['kick-decay', 'hat-decay'], max: 48 }),
        length: fc.integer({ min: 1, max: 64 }),
        rate: fc.constantFrom('1/16', '1/32', '1/8t'),
        direction: fc.constantFrom('forward', 'back'),
        swing: fc.integer({ min: 50, max: 75 }),
        muted: fc.boolean(),
      }),
      { minLength: 5, maxLength: 5 },
    )
    .map((tracks) =>
      ground(
        patternSchema.parse({
          id: 'p',
          name: 'P',
          sequencer: 'tracks',
          tracks: tracks.map((t, i) => ({ ...t, id: `t${i}`, name: names[i] })),
        }),
      ),
    );

  it('holds any pattern once its script has been typed into it', () => {
    fc.assert(
      fc.property(anyPattern, (pattern) => {
        const real = new TrackBox(box, names);
        for (const part of trackGroups(shoal, box, pattern))
          part.presses.forEach((p) => real.press(p));
        expect(real.tracks).toEqual(pattern.tracks);
      }),
      { numRuns: runs(60) },
    );
  });

  it('is led from any pattern to any other', () => {
    fc.assert(
      fc.property(anyPattern, anyPattern, (before, after) => {
        const real = new TrackBox(box, names);
        for (const part of trackGroups(shoal, box, before))
          part.presses.forEach((p) => real.press(p));
        for (const part of trackGroups(shoal, box, after, before)) {
          part.presses.forEach((p) => real.press(p));
        }
        expect(real.tracks).toEqual(after.tracks);
        expect(trackGroups(shoal, box, after, after)).toEqual([]);
      }),
      { numRuns: runs(40) },
    );
  });

  it('is told track by track, page by page, with own values and conditions', () => {
    const pattern = patternSchema.parse({
      id: 'p',
      name: 'P',
      sequencer: 'tracks',
      place: 'B3',
      tracks: [
        { id: 'k', name: 'kick', on: 'kick', ...steps('x . . . x . . .') },
        {
          id: 's',
          name: 'snare',
          on: 'snare',
          length: 32,
          steps: [
            ...Array(20).fill({}),
            { notes: [50], ownValues: { 'snare-decay': 0.25 }, condition: 'fill' },
          ],
        },
      ],
    });
    const entry = enterPattern(shoal, pattern);
    if (!entry.ok) throw new Error(entry.reasons.join(' '));
    expect(entry.script.place).toBe('B3');
    expect(entry.script.groups.map((p) => [p.title, p.told])).toEqual([
      ['go there', ['to B3']],
      ['kick, the track', ['last step 8']],
      ['kick', ['strike 1 5']],
      ['snare, the track', ['last step 32']],
      ['snare, page 2', ['21: decay 2.5, only in fill']],
      ['store it', ['store into B3']],
    ]);
    // TRACK, LAST; 1 and 5; TRACK, LAST; PAGE, step, hold, turn, condition, let go.
    expect(entry.script.groups.map((p) => p.presses)).toEqual([2, 2, 2, 2, 6, 2]);
  });

  it('is led to its place, which is cleared when all is entered anew, and chained to what follows', () => {
    const eelpot = instrument('oxbow-eelpot');
    const url = new URL('../../../library/patches/eel-run-line.json', import.meta.url);
    const line = patchSchema.parse(JSON.parse(readFileSync(url, 'utf8')));
    const [one, two] = line.patterns as [Pattern, Pattern];
    const titles = (...[pattern, before, next]: (Pattern | undefined)[]): string[] => {
      const entry = enterPattern(eelpot, pattern!, before, undefined, next);
      if (!entry.ok) throw new Error(entry.reasons.join(' '));
      return entry.script.groups.map((p) => p.title);
    };
    expect(titles(one, undefined, two)).toEqual([
      ...['go there', 'pitches', 'time', 'accents and slides'],
      ...['store it', 'chain it'],
    ]);
    // What stays the same is not pressed; what is there already is not even gone to.
    expect(titles(one, one, two)).toEqual([]);
    const full = enterPattern(eelpot, one, undefined, undefined, two);
    const bare = enterPattern(eelpot, one);
    expect(full.ok && bare.ok && full.script.presses - bare.script.presses).toBe(3);
    // Anew over something it is cleared first, and that is counted when the ways are weighed.
    const sparse = {
      ...one,
      tracks: one.tracks.map((t) => ({ ...t, steps: t.steps.slice(0, 1) })),
    };
    const ways = [two, sparse, { ...sparse, id: 'x', tracks: two.tracks }].flatMap((before) =>
      [one, two, sparse].map((pattern) => {
        const entry = enterPattern(eelpot, pattern, before);
        if (!entry.ok) throw new Error(entry.reasons.join(' '));
        const cleared = entry.script.groups.some((p) => p.title === 'clear it');
        expect(cleared).toBe(entry.script.way === 'anew');
        return entry.script.way;
      }),
    );
    expect(new Set(ways)).toEqual(new Set(['over', 'anew']));
  });
});

describe('what a sequencer cannot do', () => {
  const shoal = instrument('marram-shoal');
  const eelpot = instrument('oxbow-eelpot');
  const of = (sequencer: string, track: object): Pattern =>
    patternSchema.parse({
      id: 'p',
      name: 'P',
      sequencer,
      tracks: [{ id: 't', name: 'T', ...track }],
    });

  it('is refused with the reason, and the nearest that it can', () => {
    const { pattern, refusals } = fitPattern(
      eelpot,
      of('line', { ...steps('c6:90 c2?fill'), length: 20, swing: 60, rate: '1/4t' }),
    );
    expect(refusals.map((r) => r.where)).toEqual([
      'T',
      'T',
      'T',
      'T, step 1',
      'T, step 1',
      'T, step 2',
    ]);
    expect(refusals[0]!.reason).toMatch(/Bass line has 16 steps, not 20/);
    expect(pattern.tracks[0]).toMatchObject({ length: 16, swing: 50, rate: '1/8' });
    expect(pattern.tracks[0]!.steps).toEqual([{ notes: [60] }, { notes: [36] }]);
  });

  it('is a place that the box has not', () => {
    const there = fitPattern(eelpot, { ...of('line', {}), place: 'D16' });
    expect(there.refusals).toEqual([]);
    const { pattern, refusals } = fitPattern(eelpot, { ...of('line', {}), place: 'd16' });
    expect([pattern.place, refusals[0]!.reason]).toEqual([
      'D16',
      'Bass line has no place "d16": its places are A1 to D16.',
    ]);
    expect(fitPattern(eelpot, { ...of('line', {}), place: 'E1' }).pattern.place).toBeUndefined();
  });

  it('is never left in what comes back, and what fits comes back as it was', () => {
    fc.assert(
      fc.property(anySteps({ controls: ['kick-decay', 'level', 'nowhere'] }), (all) => {
        for (const [box, sequencer] of [
          [shoal, 'tracks'],
          [eelpot, 'line'],
          [shoal, undefined],
        ] as const) {
          const given = patternSchema.parse({
            id: 'p',
            name: 'P',
            sequencer,
            tracks: [{ id: 't', name: 'T', length: 40, steps: all }],
          });
          const { pattern, refusals } = fitPattern(box, given);
          const again = fitPattern(box, pattern);
          expect(again.refusals).toEqual([]);
          expect(again.pattern).toBe(pattern);
          if (refusals.length === 0) expect(pattern).toBe(given);
        }
      }),
    );
  });

  it('says that there is no box, or what the box cannot hold, instead of a script', () => {
    expect(enterPattern(shoal, of('nobody', {}))).toMatchObject({ ok: false });
    expect(enterPattern(eelpot, of('line', { length: 17 }))).toMatchObject({
      ok: false,
      reasons: [expect.stringContaining('16 steps')],
    });
  });
});

describe('rows of voltages', () => {
  const sedge = instrument('oxbow-sedge');
  const rows = sedge.sequencers[0]!;
  const [up] = rows.rows;
  const pattern = (volts: number[], more: object = {}): Pattern =>
    patternSchema.parse({
      id: 'p',
      name: 'P',
      sequencer: 'rows',
      tracks: [{ id: 'r', name: 'rows', length: 8, rate: '1/8', rows: { up: volts }, ...more }],
    });

  it('are told as readings, the notes they mean, and how far a hand can miss them', () => {
    const [seven] = rowSteps(sedge, up!, [7 / 12]);
    expect(seven).toMatchObject({ reading: '0.6', control: 'up1' });
    expect(seven!.semitones).toBeCloseTo(7, 9);
    // 0.6 V instead of 0.5833 V is 20 cents sharp.
    expect(seven!.missesCents).toBeCloseTo(1200 * (0.6 - 7 / 12), 0);
    expect(rowSteps(sedge, up!, [1], 0.93)[0]!.semitones).toBeCloseTo(11.16, 9);
    expect(
      rowGain(sedge, up!, { settings: { 'row-pitch': { kind: 'set', value: 0.93 } } }),
    ).toBeCloseTo(0.93, 9);
  });

  it('put on the panel are read back from it, to within what its knobs resolve', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.integer({ min: 0, max: 500 }).map((n) => n / 100),
          { minLength: 8, maxLength: 8 },
        ),
        fc.integer({ min: 3, max: 8 }),
        fc.constantFrom('forward', 'back', 'there-and-back', 'random'),
        fc.constantFrom('1/4', '1/8', '1/16', '1/32'),
        fc.integer({ min: 50, max: 75 }),
        (volts, length, direction, rate, swing) => {
          const track = { length, direction, rate, swing };
          const moves = rowMoves(sedge, rows, pattern(volts, track));
          const panel = Object.fromEntries(moves.map((m) => [m.control, m.value]));
          const read = rowsFromPanel(sedge, rows, panel);
          expect(read).toMatchObject({ length, direction, rate });
          expect(Math.abs(read.swing - swing)).toBeLessThan(0.26);
          const wanted = volts.slice(0, length);
          wanted.forEach((v, i) => expect(Math.abs(read.rows['up']![i]! - v)).toBeLessThan(0.13));
        },
      ),
    );
  });

  it('are entered knob by knob, only those that do not stand right already', () => {
    const first = enterPattern(sedge, pattern([1, 2, 3]));
    const second = enterPattern(sedge, pattern([1, 2.5, 3]), pattern([1, 2, 3]));
    if (!first.ok || !second.ok) throw new Error('refused');
    expect(first.script.groups[0]).toMatchObject({
      title: 'upper row',
      told: ['1: 1', '2: 2', '3: 3'],
    });
    expect(second.script.groups).toMatchObject([{ title: 'upper row', told: ['2: 2.5'] }]);
    expect(second.script).toMatchObject({ way: 'over', why: 'Over P: only what differs.' });
  });
});

describe('an arpeggiator', () => {
  it('runs what its script sets and plays', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...arpeggioModes),
        fc.integer({ min: 1, max: 4 }),
        fc.constantFrom('1/8', '1/16', '1/16t'),
        fc.integer({ min: 50, max: 75 }),
        fc.array(
          fc.record({
            notes: fc.uniqueArray(fc.integer({ min: 36, max: 84 }), { minLength: 1, maxLength: 5 }),
            steps: fc.integer({ min: 1, max: 64 }),
          }),
          { minLength: 1, maxLength: 6 },
        ),
        (mode, octaves, rate, swing, chords) => {
          const arpeggio = { mode, octaves, chords, length: 0.5 };
          const track = trackSchema.parse({ id: 't', name: 'T', rate, swing, arpeggio });
          const box = new ArpeggioBox();
          for (const part of arpeggioGroups(track)) part.presses.forEach((p) => box.press(p));
          expect(box.running()).toEqual({ arpeggio, rate, swing });
        },
      ),
    );
  });

  it('keeps nothing without hold', () => {
    const box = new ArpeggioBox();
    box.press({ button: 'keys', notes: [60], steps: 4 });
    expect(box.running().arpeggio).toBeUndefined();
  });
});
