import fc from 'fast-check';
import sedgeFile from '../../../library/instruments/oxbow-sedge.json' with { type: 'json' };
import sedgePatch from '../../../library/patches/eel-run-eight.json' with { type: 'json' };
import { instrumentSchema } from '../instrument';
import { type Patch, patchSchema } from '../patch';
import { sameReading } from '../reading';
import { panelAtInit, planRebuild } from '../rebuild';
import { soundingValue } from '../reading/format';
import { rowMoves } from './rows';
import { withRowsTrue } from './rows-truth';

const sedge = instrumentSchema.parse(sedgeFile);
const eight = patchSchema.parse(sedgePatch);
const rows = sedge.sequencers.find((s) => s.kind === 'rows')!;
const first = (patch: Patch) => patch.patterns.find((p) => p.sequencer === rows.id)!;
/** Knobs whose reading the pattern and the panel do not agree on. */
const apart = (patch: Patch): string[] =>
  rowMoves(sedge, rows, first(patch))
    .filter(({ control, value }) => {
      const c = sedge.controls.find((one) => one.id === control)!;
      return !sameReading(c, soundingValue(c, patch.settings[control]), value);
    })
    .map((m) => m.control);
const turned = (patch: Patch, control: string, value: number): Patch => ({
  ...patch,
  settings: { ...patch.settings, [control]: { kind: 'set', value } },
});
const volts = (patch: Patch, step: number, to: number): Patch => {
  const pattern = first(patch);
  const [track] = pattern.tracks;
  const row = track!.rows['up']!.map((v, i) => (i === step ? to : v));
  const tracks = [{ ...track!, rows: { ...track!.rows, up: row } }];
  return { ...patch, patterns: patch.patterns.map((p) => (p === pattern ? { ...p, tracks } : p)) };
};

describe('knobs that are steps of voltage rows', () => {
  const agreed = withRowsTrue(sedge, { ...eight, patterns: [] }, eight);

  it('begin a first pattern with what the panel shows', () => {
    expect(apart(agreed)).toEqual([]);
    expect(agreed.settings).toEqual(eight.settings);
  });

  it('follow the pattern when that is edited, and lead it when they are turned', () => {
    const edit = fc.oneof(
      fc.record({ step: fc.nat(7), to: fc.double({ min: 0, max: 4, noNaN: true }) }),
      fc.record({ knob: fc.nat(7), at: fc.double({ min: 0, max: 1, noNaN: true }) }),
    );
    fc.assert(
      fc.property(fc.array(edit, { minLength: 1, maxLength: 6 }), (edits) => {
        let now = agreed;
        for (const one of edits) {
          const next =
            'step' in one
              ? volts(now, one.step, one.to)
              : turned(now, rows.rows[0]!.controls[one.knob]!, one.at);
          now = withRowsTrue(sedge, now, next);
          expect(apart(now)).toEqual([]);
        }
      }),
    );
  });

  it('are visited once in a rebuild, and stand where the pattern has them', () => {
    // A patch of before, in which both say something: the pattern is what is played.
    const both = turned(eight, rows.rows[0]!.controls[2]!, 0.11);
    const { steps } = planRebuild(sedge, panelAtInit(sedge), both);
    const knobs = new Map(rowMoves(sedge, rows, first(both)).map((m) => [m.control, m.reading]));
    const moves = steps.filter((s) => s.kind === 'movement' && knobs.has(s.control));
    expect(new Set(moves.map((s) => s.id)).size).toBe(moves.length);
    for (const move of moves)
      if (move.kind === 'movement')
        expect([move.control, move.to]).toEqual([move.control, knobs.get(move.control)]);
    expect(steps.filter((s) => s.kind === 'entry')).toEqual([]);
  });

  it('are left alone by an edit of anything else', () => {
    const other = { ...agreed, about: 'eels' };
    expect(withRowsTrue(sedge, agreed, other)).toBe(other);
  });
});
