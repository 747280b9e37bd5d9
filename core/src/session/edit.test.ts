import {
  addPart,
  addPass,
  cyclePlay,
  movePass,
  withoutPart,
  withoutPass,
  withPart,
  withPass,
} from './edit';
import { mergeSessions, sessionDifferences } from './diff';
import { type Session, sessionSchema } from './schema';

const session: Session = sessionSchema.parse({
  format: 'hurrel-session',
  version: 1,
  name: 'Night Lock',
  parts: [
    { id: 'a', name: 'in', bars: 4 },
    { id: 'b', name: 'out', bars: 8 },
  ],
  passes: [
    { id: 'p', name: 'kick', patch: 'x', plays: { a: '', b: 'dark' }, take: 't' },
    { id: 'q', name: 'bass', patch: 'y', plays: { b: '' } },
  ],
});
const plays = (s: Session, id: string) => s.passes.find((p) => p.id === id)?.plays;
const names = (s: Session): string[] => s.passes.map((p) => p.name);

describe('edits of a session', () => {
  it('change a pass, and take out what becomes undefined', () => {
    const next = withPass(session, 'p', { take: undefined, level: -3 });
    expect(next.passes[0]).not.toHaveProperty('take');
    expect(next.passes[0]?.level).toBe(-3);
    expect(next.passes[1]).toBe(session.passes[1]);
  });

  it('add parts with names of their own, and passes that play in all of them', () => {
    const more = addPart(addPart(session));
    expect(more.parts.map((p) => p.id)).toEqual(['a', 'b', 'part-3', 'part-4']);
    const { session: next, id } = addPass(more, { patch: 'z', name: 'hat'.repeat(40) });
    expect(Object.keys(plays(next, id) ?? {})).toEqual(['a', 'b', 'part-3', 'part-4']);
    expect(sessionSchema.parse(next)).toEqual(next);
  });

  it('take a part out of every pass; the last one stays', () => {
    const one = withoutPart(session, 'b');
    expect(plays(one, 'p')).toEqual({ a: '' });
    expect(plays(one, 'q')).toEqual({});
    expect(withoutPart(one, 'a')).toBe(one);
    expect(sessionSchema.parse(one)).toEqual(one);
  });

  it('move passes up and down, not beyond the ends', () => {
    expect(names(movePass(session, 'p', 1))).toEqual(['bass', 'kick']);
    expect(movePass(session, 'p', -1)).toBe(session);
    expect(movePass(session, 'q', 1)).toBe(session);
    expect(movePass(session, 'nobody', 1)).toBe(session);
    expect(names(withoutPass(session, 'p'))).toEqual(['bass']);
  });

  it('go from silent through the patch and its variations to silent', () => {
    const ways: unknown[] = [];
    let next = withPass(session, 'p', { plays: {} });
    for (let i = 0; i < 4; i++) {
      next = cyclePlay(next, 'p', 'a', ['dark', 'thin']);
      ways.push(plays(next, 'p')?.['a']);
    }
    expect(ways).toEqual(['', 'dark', 'thin', undefined]);
  });
});

describe('two changes of a session', () => {
  it('are merged part by part and pass by pass', () => {
    const mine = withPass(withPart(session, 'a', { bars: 2 }), 'p', { level: -9 });
    const theirs = movePass(addPart({ ...session, tempo: 90 }), 'p', 1);
    const { merged, conflicts } = mergeSessions(session, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(merged.tempo).toBe(90);
    expect(merged.parts.map((p) => p.bars)).toEqual([2, 8, 4]);
    // Only they moved a pass: it stands where they put it, with my level.
    expect(names(merged)).toEqual(['bass', 'kick']);
    expect(merged.passes[1]?.level).toBe(-9);
  });

  it('where one plays in a part that the other took out, it plays there no more', () => {
    const mine = cyclePlay(session, 'q', 'a', []);
    const { merged } = mergeSessions(session, mine, withoutPart(session, 'a'));
    expect(plays(merged, 'q')).toEqual({ b: '' });
    expect(sessionSchema.parse(merged)).toEqual(merged);
  });

  it('are told in words, by name', () => {
    const next = withPass(withPart(session, 'a', { bars: 1 }), 'p', { muted: true });
    expect(sessionDifferences(session, { ...next, tempo: 99 })).toEqual([
      { pointer: '/tempo', subject: 'Tempo', before: '120 bpm', after: '99 bpm' },
      { pointer: '/parts/a', subject: 'Part in', before: 'in, 4 bars', after: 'in, 1 bar' },
      {
        pointer: '/passes/p',
        subject: 'Pass kick',
        before: 'kick in in, out (dark), 0 dB, a take',
        after: 'kick in in, out (dark), 0 dB, muted, a take',
      },
    ]);
  });
});
