import fc from 'fast-check';
import type { Cable } from '../patch';
import { cableChange, type CableMove } from './cables';

const cable = (text: string): Cable => {
  const [from = '', to = ''] = text.split('>');
  return {
    id: text.replace('>', '-'),
    ...(from ? { from } : {}),
    ...(to ? { to } : {}),
  };
};
const cables = (text: string): Cable[] => text.split(' ').filter(Boolean).map(cable);
const told = (moves: CableMove[]): string[] =>
  moves.map((m) => [m.kind, m.before?.id, m.after?.id].filter(Boolean).join(' '));

describe('the way from cables to cables', () => {
  it('leaves what has the same ends', () => {
    const { moves, left } = cableChange(cables('a>x b>y'), cables('a>x b>y'));
    expect(moves).toEqual([]);
    expect(left).toHaveLength(2);
  });

  it('moves one end where the other can stay', () => {
    expect(told(cableChange(cables('a>x'), cables('a>y')).moves)).toEqual(['move a-x a-y']);
    expect(told(cableChange(cables('a>x'), cables('b>x')).moves)).toEqual(['move a-x b-x']);
  });

  it('pulls and adds where no end stays', () => {
    expect(told(cableChange(cables('a>x'), cables('b>y')).moves)).toEqual(['pull a-x', 'add b-y']);
  });

  it('finds the most moves, not the first that offer themselves', () => {
    // a>x could become a>y or b>x; only one choice leaves a move for c>y too.
    const { moves } = cableChange(cables('a>x c>y'), cables('a>y c>z'));
    expect(moves.map((m) => m.kind)).toEqual(['move', 'move']);
  });

  it('frees a jack before it is wanted', () => {
    expect(told(cableChange(cables('a>x b>y'), cables('a>y b>z')).moves)).toEqual([
      'move b-y b-z',
      'move a-x a-y',
    ]);
  });

  it('opens a ring by pulling one cable out', () => {
    const { moves } = cableChange(cables('a>x b>y'), cables('a>y b>x'));
    expect(moves.map((m) => m.kind)).toEqual(['pull', 'move', 'add']);
  });

  it('lets a cable that is in but not in use stay, as long as its jacks are free', () => {
    const resting = { ...cable('a>x'), inactive: true };
    expect(cableChange(cables('a>x'), [resting]).moves).toEqual([]);
    expect(told(cableChange(cables('a>x'), [resting, cable('b>x')]).moves)).toEqual([
      'move a-x b-x',
    ]);
  });

  it('knows plugs that only break a normal', () => {
    expect(told(cableChange(cables('>x'), cables('a>x')).moves)).toEqual(['move -x a-x']);
    expect(told(cableChange(cables('a>x'), cables('>x')).moves)).toEqual(['move a-x -x']);
  });
});

/** Cables of which no jack holds two plugs. */
const anyCables = fc
  .tuple(
    fc.shuffledSubarray(['a', 'b', 'c', 'd', 'e']),
    fc.shuffledSubarray(['v', 'w', 'x', 'y', 'z']),
  )
  .map(([outs, ins]) =>
    outs.slice(0, Math.min(outs.length, ins.length)).map((from, i) => cable(`${from}>${ins[i]}`)),
  );

/** Most pairs of a removed and an added cable that share an end, by trying everything. */
function mostMoves(removed: Cable[], added: Cable[]): number {
  const [first, ...rest] = removed;
  if (!first) return 0;
  const without = mostMoves(rest, added);
  const pairs = added
    .filter((a) => a.from === first.from || a.to === first.to)
    .map(
      (a) =>
        1 +
        mostMoves(
          rest,
          added.filter((b) => b !== a),
        ),
    );
  return Math.max(without, ...pairs);
}

describe('any change of cables', () => {
  it('ends with the wanted cables, never with two plugs in a jack', () => {
    fc.assert(
      fc.property(anyCables, anyCables, (before, after) => {
        let panel = [...before];
        for (const move of cableChange(before, after).moves) {
          panel = panel.filter((c) => c !== move.before);
          if (move.after) panel.push(move.after);
          const jacks = panel.flatMap((c) => [c.from, c.to]);
          expect(new Set(jacks).size).toBe(jacks.length);
        }
        const ends = (all: Cable[]): string[] => all.map((c) => `${c.from}>${c.to}`).sort();
        expect(ends(panel)).toEqual(ends(after));
      }),
    );
  });

  it('takes as few movements as trying everything finds, one more for each ring', () => {
    fc.assert(
      fc.property(anyCables, anyCables, (before, after) => {
        const same = (c: Cable, all: Cable[]): boolean =>
          all.some((o) => o.from === c.from && o.to === c.to);
        const removed = before.filter((c) => !same(c, after));
        const added = after.filter((c) => !same(c, before));
        const fewest = removed.length + added.length - mostMoves(removed, added);
        const { moves } = cableChange(before, after);
        const rings = moves.filter(
          (m) =>
            m.kind === 'pull' &&
            added.some((a) => a.from === m.before!.from || a.to === m.before!.to),
        ).length;
        expect(moves.length).toBeGreaterThanOrEqual(fewest);
        expect(moves.length).toBeLessThanOrEqual(fewest + rings);
      }),
    );
  });
});
