import fc from 'fast-check';
import { runs } from '../testing/runs';
import {
  joinMarks,
  type WalkMark,
  type Marks,
  marksSchema,
  newsOf,
  withMark,
  workKey,
} from './walk';

const AT = '2026-12-12T21:00:00.000Z';
const mark = (value: string, clock: number, device: string): WalkMark => ({
  value,
  clock,
  device,
  at: AT,
});

const anyMarks = fc
  .dictionary(
    fc.constantFrom('work/a/p/cutoff', 'work/a/p/wave', 'work/b/p/cutoff', 'at/low'),
    fc.record({
      value: fc.constantFrom('done', 'later', 'open'),
      clock: fc.integer({ min: 0, max: 5 }),
      device: fc.constantFrom('d1', 'd2', 'd3'),
      at: fc.constant(AT),
    }),
    { maxKeys: 4 },
  )
  .map((all): Marks => ({ ...all }));

describe('marks of a walk', () => {
  it('come together the same in any order, however often they arrive', () => {
    fc.assert(
      fc.property(anyMarks, anyMarks, anyMarks, (a, b, c) => {
        expect(joinMarks(a, b)).toEqual(joinMarks(b, a));
        expect(joinMarks(joinMarks(a, b), c)).toEqual(joinMarks(a, joinMarks(b, c)));
        expect(joinMarks(a, a)).toEqual(a);
        expect(joinMarks(a, newsOf(a, b))).toEqual(joinMarks(a, b));
        expect(newsOf(joinMarks(a, b), b)).toEqual({});
      }),
      { numRuns: runs(300, 3000) },
    );
  });

  it('are said later by whoever knew what was said before', () => {
    const first = withMark({}, 'work/a/p/x', { value: 'done', device: 'z', at: AT });
    const second = withMark(first, 'work/a/p/x', { value: 'open', device: 'a', at: AT });
    expect(joinMarks(second, first)['work/a/p/x']!.value).toBe('open');
    expect(joinMarks(first, second)['work/a/p/x']!.value).toBe('open');
  });

  it('of two that knew nothing of each other one is kept, on every device the same', () => {
    const [a, b] = [{ k: mark('done', 1, 'left') }, { k: mark('open', 1, 'right') }];
    expect(joinMarks(a, b)).toEqual(joinMarks(b, a));
    // What a hand has moved is moved.
    expect(joinMarks(a, b).k!.value).toBe('done');
    const [c, d] = [{ k: mark('song-1', 1, 'left') }, { k: mark('song-2', 1, 'right') }];
    expect(joinMarks(c, d)).toEqual(joinMarks(d, c));
    expect(joinMarks(c, d).k!.value).toBe('song-2');
  });

  // Two devices and a server tick, part and meet, in an order that only the seed knows.
  it('made apart are all there when they meet again, none lost, none doubled', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.record({ does: fc.constant('tick' as const), on: fc.nat(1), step: fc.nat(19) }),
            fc.record({ does: fc.constant('send' as const), on: fc.nat(1) }),
            fc.record({ does: fc.constant('hear' as const), on: fc.nat(1) }),
          ),
          { maxLength: 60 },
        ),
        (acts) => {
          const devices: Marks[] = [{}, {}];
          let server: Marks = {};
          const ticked = new Set<string>();
          for (const act of acts) {
            const mine = devices[act.on]!;
            if (act.does === 'tick') {
              const key = workKey('song', 'panel', `step-${act.step}`);
              ticked.add(key);
              devices[act.on] = withMark(mine, key, {
                value: 'done',
                device: `d${act.on}`,
                at: AT,
              });
            } else if (act.does === 'send') server = joinMarks(server, mine);
            else devices[act.on] = joinMarks(mine, server);
          }
          for (const mine of devices) server = joinMarks(server, mine);
          const [left, right] = devices.map((mine) => joinMarks(mine, server));
          expect(left).toEqual(right);
          expect(new Set(Object.keys(server))).toEqual(ticked);
          for (const { value } of Object.values(server)) expect(value).toBe('done');
        },
      ),
      { numRuns: runs(1000, 5000) },
    );
  });

  it.each([
    [{ nothing: mark('done', 1, 'd') }],
    [{ 'work/a': { ...mark('done', 1, 'd'), clock: -1 } }],
    [{ 'work/a': { ...mark('done', 1, 'd'), at: 'now' } }],
    [{ 'work/a': { ...mark('done', 1, 'd'), seconds: -3 } }],
    [{ 'work/a': { ...mark('done', 1, 'd'), more: 1 } }],
  ])('are refused when they say what cannot be: %j', (marks) => {
    expect(marksSchema.safeParse(marks).success).toBe(false);
  });
});
