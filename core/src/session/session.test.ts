import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { instrumentSchema } from '../instrument/schema';
import { patchSchema } from '../patch/schema';
import { peakOf } from '../measure/level';
import { cheapestOrder } from './order';
import { passLabel, type PassSubject, recordingOrder } from './plan';
import { renderSession } from './render';
import { type Session, sessionSchema } from './schema';
import { partStarts } from './part-starts';
import { runs } from '../testing/runs';

const read = (path: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../../library/${path}.json`, import.meta.url), 'utf8'));
const subject = (
  id: string,
  patchFile: string,
  instrumentFile: string,
  more: object = {},
): PassSubject => ({
  pass: {
    id,
    name: id,
    patch: patchFile,
    plays: { a: '' },
    level: 0,
    pan: 0,
    muted: false,
    ...more,
  },
  patch: patchSchema.parse(read(`patches/${patchFile}`)),
  instrument: instrumentSchema.parse(read(`instruments/${instrumentFile}`)),
});
const session = (subjects: PassSubject[], parts = [{ id: 'a', name: 'A', bars: 1 }]): Session =>
  sessionSchema.parse({
    format: 'hurrel-session',
    version: 1,
    name: 'S',
    tempo: 120,
    parts,
    passes: subjects.map((s) => s.pass),
  });

describe('the order of passes', () => {
  const permutations = (all: number[]): number[][] =>
    all.length < 2
      ? [all]
      : all.flatMap((v) => permutations(all.filter((w) => w !== v)).map((rest) => [v, ...rest]));
  const costs = (n: number) =>
    fc.tuple(
      fc.array(fc.integer({ min: 0, max: 99 }), { minLength: n, maxLength: n }),
      fc.array(fc.array(fc.integer({ min: 0, max: 99 }), { minLength: n, maxLength: n }), {
        minLength: n,
        maxLength: n,
      }),
    );

  it('costs the least of all orders', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }).chain(costs), ([first, between]) => {
        const { order, cost } = cheapestOrder(first, between);
        const of = (o: number[]) =>
          o.reduce((sum, v, i) => sum + (i === 0 ? first[v]! : between[o[i - 1]!]![v]!), 0);
        expect(of(order)).toBe(cost);
        expect([...order].sort((a, b) => a - b)).toEqual([...first.keys()]);
        expect(cost).toBe(Math.min(...permutations([...first.keys()]).map(of)));
      }),
    );
  });

  it('visits each once and is no worse than the nearest next, however many there are', () => {
    fc.assert(
      fc.property(fc.integer({ min: 13, max: 20 }).chain(costs), ([first, between]) => {
        const { order } = cheapestOrder(first, between);
        expect([...order].sort((a, b) => a - b)).toEqual([...first.keys()]);
      }),
      { numRuns: runs(20) },
    );
    expect(cheapestOrder([], [])).toEqual({ order: [], cost: 0 });
  });

  it('is told for the passes without a take, instrument by instrument, with what to change', () => {
    const subjects = [
      subject('bass', 'winch-room-bass', 'oxbow-sluice'),
      subject('kick', 'winch-room-kick', 'oxbow-sluice'),
      subject('line', 'eel-run-line', 'oxbow-eelpot'),
      subject('done', 'fog-signal-horn', 'oxbow-sluice', { take: 'x' }),
    ];
    const order = recordingOrder(session(subjects), subjects);
    expect(order.map((o) => o.pass).sort()).toEqual(['bass', 'kick', 'line']);
    expect(order.filter((o) => o.from === undefined)).toHaveLength(2);
    for (const one of order) expect(one.movements).toBeGreaterThan(0);
    const swapped = recordingOrder(session([...subjects].reverse()), [...subjects].reverse());
    const total = (all: typeof order) => all.reduce((sum, o) => sum + o.seconds, 0);
    expect(total(swapped)).toBeCloseTo(total(order), 6);
  });

  it('calls a pass by the variation that its panel is built for', () => {
    const one = subject('bass', 'winch-room-bass', 'oxbow-sluice');
    const all = session([one]);
    const first = all.parts[0]!.id;
    const variation = {
      ...{ id: 'dark', name: 'Dark', about: '', settings: {} },
      ...{ pulled: [], plugged: [], rows: [] },
    };
    const patch = { ...one.patch, variations: [variation] };
    const played = (id: string) => ({ patch, pass: { ...one.pass, plays: { [first]: id } } });
    expect(passLabel(played(''), all)).toBe(one.pass.name);
    expect(passLabel(played('dark'), all)).toBe(`${one.pass.name}, Dark`);
  });
});

describe('a session', () => {
  it('knows where its parts begin, and refuses passes in parts that are not there', () => {
    const parts = [
      { id: 'a', name: 'in', bars: 4 },
      { id: 'b', name: 'drop', bars: 8 },
    ];
    expect(partStarts(parts)).toEqual({ starts: [0, 4], bars: 12 });
    const bad = sessionSchema.safeParse({
      ...session([]),
      passes: [{ id: 'p', name: 'P', patch: 'x', plays: { nowhere: '' } }],
    });
    expect(bad.success).toBe(false);
    expect(bad.error!.issues[0]!.path).toEqual(['passes', 0, 'plays', 'nowhere']);
  });

  const RATE = 24000;
  const rendered = (subjects: PassSubject[], takes = new Map(), parts?: Session['parts']) =>
    renderSession(session(subjects, parts), subjects, { sampleRate: RATE, takes, tail: 0.5 })!;

  it('is heard together: the model in its parts, takes from the first bar on', () => {
    const parts = [
      { id: 'a', name: 'in', bars: 1 },
      { id: 'b', name: 'drop', bars: 1 },
    ];
    const late = subject('line', 'eel-run-line', 'oxbow-eelpot', {
      pattern: 'bar-1',
      plays: { b: '' },
    });
    const [left] = rendered([late], new Map(), parts);
    expect(left).toHaveLength(4.5 * RATE);
    expect(peakOf(left.subarray(0, 2 * RATE))).toBe(0);
    expect(peakOf(left.subarray(2 * RATE, 4 * RATE))).toBeGreaterThan(0.05);
    const ones = new Float32Array(RATE).fill(0.5);
    const take = { sides: [ones, ones] as const, sampleRate: RATE };
    const taken = subject('line', 'eel-run-line', 'oxbow-eelpot', {
      take: 't',
      level: -6.0206,
      pan: 1,
    });
    const [l, r] = rendered([taken], new Map([['t', take]]));
    expect(peakOf(l)).toBe(0);
    expect(r[100]).toBeCloseTo(0.25, 4);
    expect(r[RATE + 10]).toBe(0);
  });

  it('leaves muted passes out, and stops when it is told to', () => {
    const muted = subject('line', 'eel-run-line', 'oxbow-eelpot', { muted: true });
    expect(peakOf(rendered([muted])[0])).toBe(0);
    const one = [subject('line', 'eel-run-line', 'oxbow-eelpot')];
    const options = { sampleRate: RATE, takes: new Map(), tail: 0, cancelled: () => true };
    expect(renderSession(session(one), one, options)).toBeUndefined();
  });
});
