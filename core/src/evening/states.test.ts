import fc from 'fast-check';
import { instrumentOf } from '../outline/instrument';
import { readOutline } from '../outline/read';
import type { Patch } from '../patch/schema';
import { blankPatch } from '../patch/create';
import type { Setting } from '../reading/setting';
import type { PanelBefore } from '../rebuild/step';
import { runs } from '../testing/runs';
import { waysOf } from './known';
import { planEvening, type EveningPlan } from './plan';
import { eveningSchema, type Evening, withReserve } from './schema';

const panel = instrumentOf(readOutline('Box\nP:\na 0..10\nb 0..10\n').outline, '');
const CONTROLS = panel.controls.map((c) => c.id);
const KNOB = 3;
const EAR = 8;

const set = (n: number): Setting => ({ kind: 'set', value: n / 10 });
const range = (a: number, b: number): Setting => ({
  kind: 'range',
  from: Math.min(a, b) / 10,
  to: Math.max(a, b) / 10,
  best: (a + b) / 20,
});
const ear = (n: number, target: string): Setting => ({ kind: 'ear', near: n / 10, target });
const any: Setting = { kind: 'any' };

interface Night {
  songs: {
    kind: 'song' | 'encore' | 'reserve';
    pause: number;
    settings: (Setting | undefined)[];
  }[];
  /** Where each control stands before; undefined: nobody knows. */
  shown: readonly (number | undefined)[];
  atStart: boolean;
}

function planOf(night: Night, evening = setOf(night)): EveningPlan {
  const library = Object.fromEntries(
    night.songs.map(({ settings }, i) => [
      `p${i}`,
      { patch: patchWith(settings), instrument: panel },
    ]),
  );
  const known = night.shown.some((n) => n !== undefined);
  const settings = Object.fromEntries(
    CONTROLS.flatMap((id, c) => (night.shown[c] === undefined ? [] : [[id, set(night.shown[c])]])),
  );
  const before: Record<string, PanelBefore> = known
    ? { box: { settings, cables: [], matrix: [] } }
    : {};
  return planEvening(evening, waysOf(evening, { library, before, times: {}, units: [] as never }));
}

const setOf = ({ songs, atStart }: Night): Evening =>
  eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'A night',
    people: [{ id: 'me', name: 'me' }],
    panels: [{ id: 'box', name: 'Box', instrument: panel.id, ...(atStart ? { atStart } : {}) }],
    songs: songs.map(({ kind, pause }, i) => ({
      id: `s${i}`,
      name: `Song ${i}`,
      kind,
      pause,
      plays: [{ panel: 'box', patch: `p${i}` }],
    })),
  });

function patchWith(settings: (Setting | undefined)[]): Patch {
  const patch = blankPatch(panel, 'A patch');
  const said = CONTROLS.flatMap((id, c) => (settings[c] ? [[id, settings[c]]] : []));
  return { ...patch, settings: Object.fromEntries(said) as Patch['settings'] };
}

const lackingOf = (plan: EveningPlan): number => plan.breaks.reduce((sum, b) => sum + b.over, 0);

/** Every way of moving one control: in which songs it is moved, and whether it can stand well all evening so. */
function waysByHand(night: Night, c: number): { seconds: number[] }[] {
  const played = night.songs.map((s, i) => ({ ...s, i })).filter((s) => s.kind !== 'reserve');
  const unseen = night.shown.every((n) => n === undefined);
  const shown = night.shown[c] ?? (unseen && night.atStart ? 0 : undefined);
  const at = shown === undefined ? undefined : shown / 10;
  const found: { seconds: number[] }[] = [];
  for (let moved = 0; moved < 2 ** played.length; moved++) {
    let from: number | undefined = at;
    let to: number | undefined = at;
    /** What it was found by with the ear, and near where. */
    let heard: { words: string; near: number } | undefined;
    let fine = true;
    const seconds = night.songs.map(() => 0);
    played.forEach(({ settings, i }, k) => {
      const setting = settings[c];
      const moves = (moved & (1 << k)) !== 0;
      if (!setting || setting.kind === 'any') {
        if (moves) fine = false;
        return;
      }
      if (setting.kind === 'ear') {
        // Found by ear once, it is found until it is moved.
        const same = heard?.words === setting.target && heard.near === setting.near;
        if (moves === same) fine = false;
        seconds[i] = moves ? EAR : 0;
        [from, to] = [undefined, undefined];
        heard = { words: setting.target, near: Number(setting.near) };
        return;
      }
      const [lo, hi] =
        setting.kind === 'set'
          ? [Number(setting.value), Number(setting.value)]
          : [setting.from, setting.to];
      if (moves) {
        [from, to, heard] = [lo, hi, undefined];
        seconds[i] = KNOB;
        return;
      }
      // Near enough for a range, not for an exact reading.
      if (heard && setting.kind === 'range' && heard.near >= lo && heard.near <= hi) return;
      if (from === undefined || to === undefined) return void (fine = false);
      [from, to] = [Math.max(from, lo), Math.min(to, hi)];
      if (from > to + 1e-9) fine = false;
    });
    if (fine) found.push({ seconds });
  }
  return found;
}

/** The least time that the breaks can lack: every way of moving every control with every other. */
function leastLacking(night: Night): number {
  const all = CONTROLS.map((_, c) => waysByHand(night, c));
  let least = Infinity;
  for (const a of all[0]!)
    for (const b of all[1]!) {
      const lacking = night.songs.map(({ pause }, i) =>
        Math.max(0, a.seconds[i]! + b.seconds[i]! - pause),
      );
      least = Math.min(
        least,
        lacking.reduce((sum, s) => sum + s, 0),
      );
    }
  return least;
}

const tenth = fc.integer({ min: 0, max: 10 });
const setting = fc.oneof(
  tenth.map(set),
  fc.tuple(tenth, tenth).map(([a, b]) => range(a, b)),
  fc.tuple(tenth, tenth).map(([a, b]) => range(a, b)),
  fc.constantFrom(ear(3, 'until it beats'), ear(6, 'until it stops')),
  fc.constant(any),
  fc.constant(undefined),
);
const night: fc.Arbitrary<Night> = fc.record({
  songs: fc.array(
    fc.record({
      kind: fc.constantFrom(
        'song' as const,
        'song' as const,
        'encore' as const,
        'reserve' as const,
      ),
      pause: fc.constantFrom(0, 3, 6, 20),
      settings: fc.tuple(setting, setting),
    }),
    { minLength: 1, maxLength: 5 },
  ),
  shown: fc.oneof(
    fc.constant([undefined, undefined]),
    fc.tuple(fc.option(tenth, { nil: undefined }), tenth),
  ),
  atStart: fc.boolean(),
});

describe('A set on one panel', () => {
  const song = (...settings: (Setting | undefined)[]) => ({
    kind: 'song' as const,
    pause: 3,
    settings,
  });
  const movements = (plan: EveningPlan) =>
    plan.breaks.map((b) => b.portions.flatMap((p) => p.steps.map((s) => s.id)));

  it('leaves alone what a song does not care about', () => {
    const songs = [song(set(5), set(1)), song(any, set(1)), song(set(5), set(1))];
    const plan = planOf({ songs, shown: [5, 1], atStart: false });
    expect([plan.movements, lackingOf(plan)]).toEqual([0, 0]);
  });

  it('knows where a control stands that suits a song as it is', () => {
    const songs = [song(set(5), set(1)), song(range(4, 6), set(1)), song(set(5), set(1))];
    expect(planOf({ songs, shown: [0, 1], atStart: false }).movements).toBe(1);
  });

  it('goes through every control of a panel that nobody has seen, those at rest too', () => {
    const songs = [{ ...song(set(0), set(3)), pause: 60 }];
    const unseen = planOf({ songs, shown: [undefined, undefined], atStart: false });
    expect(movements(unseen)).toEqual([CONTROLS]);
    const froms = unseen.breaks[0]!.portions[0]!.steps.map((s) => 'from' in s && s.from);
    expect(froms).toEqual(['?', '?']);
    const atStart = planOf({ songs, shown: [undefined, undefined], atStart: true });
    expect(movements(atStart)).toEqual([[CONTROLS[1]]]);
  });

  it('puts no work into the break of a song in reserve, and plans with it too', () => {
    const songs = [
      song(set(1), set(1)),
      { ...song(set(2), set(2)), kind: 'reserve' as const, pause: 60 },
      song(set(3), set(3)),
    ];
    const all: Night = { songs, shown: [1, 1], atStart: false };
    expect(movements(planOf(all))).toEqual([[], [], CONTROLS]);
    const without = planOf(all);
    expect(without.breaks.map((b) => b.over)).toEqual([0, 0, 3]);
    expect(movements(planOf(all, withReserve(setOf(all))))).toEqual([[], CONTROLS, CONTROLS]);
  });

  it('lacks no more time than the best of all ways of moving its controls', () => {
    let worst = 0;
    fc.assert(
      fc.property(night, (one) => {
        const [planned, least] = [lackingOf(planOf(one)), leastLacking(one)];
        worst = Math.max(worst, planned - least);
        expect(planned).toBeCloseTo(least, 6);
      }),
      { numRuns: runs(300, 3000) },
    );
    expect(worst).toBeLessThan(1e-6);
  });
});
