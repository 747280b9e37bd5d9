import { curlew, patchOn } from '../testing/panels';
import type { Patch } from '../patch';
import { inTurn, secondsLeft, workOfBreak } from './open-work';
import { planEvening } from './plan';
import { type Evening, eveningSchema } from './schema';
import { type Marks, workKey } from './walk';
import { Ways } from './ways';

const patches: Record<string, Patch> = {
  bass: patchOn(curlew, { cutoff: 0.2, resonance: 0.3 }),
  lead: patchOn(curlew, { cutoff: 0.9, resonance: 0.3, 'delay-mix': 0.4 }),
  bell: patchOn(curlew, { cutoff: 0.5, resonance: 0.3, 'delay-mix': 0.4 }),
};
const evening: Evening = eveningSchema.parse({
  format: 'hurrel-set',
  version: 1,
  name: 'Hallow Staithe',
  people: [
    { id: 'low', name: 'low keys' },
    { id: 'high', name: 'high keys' },
  ],
  panels: [
    { id: 'a', name: 'A', instrument: curlew.id, by: 'low' },
    { id: 'b', name: 'B', instrument: curlew.id, by: 'high' },
  ],
  songs: [
    { id: 's1', name: 'One', pause: 600, plays: [{ panel: 'a', patch: 'bass' }] },
    {
      id: 's2',
      name: 'Two',
      pause: 60,
      plays: [
        { panel: 'a', patch: 'lead' },
        { panel: 'b', patch: 'bass' },
      ],
    },
    { id: 's3', name: 'Three', pause: 60, plays: [{ panel: 'a', patch: 'bell' }] },
  ],
});
const plan = planEvening(
  evening,
  new Ways((id) => patches[id] && { patch: patches[id], instrument: curlew }),
);
const done = (...keys: string[]): Marks =>
  Object.fromEntries(
    keys.map((key) => [
      key,
      { value: 'done', clock: 1, device: 'd', at: '2026-12-12T21:00:00.000Z' },
    ]),
  );
const forSong = (at: number, marks: Marks, song: string, person?: string) =>
  workOfBreak(evening, plan, marks, at, person).filter((w) => w.song === song && w.panel === 'a');

describe('what there is to do in a break', () => {
  it('is what the plan has there, each with whoever moves it', () => {
    const all = workOfBreak(evening, plan, {}, 0);
    expect(all.length).toBeGreaterThan(0);
    expect(all.every((w) => !w.left && w.state === 'open')).toBe(true);
    expect(workOfBreak(evening, plan, {}, 0, 'low').every((w) => w.panel === 'a')).toBe(true);
    expect(workOfBreak(evening, plan, {}, 0, 'high').every((w) => w.panel === 'b')).toBe(true);
  });

  it('begins with what was left open, unless a later song moves the same', () => {
    const first = workOfBreak(evening, plan, {}, 0, 'low');
    const open = first.find((w) => w.step.id !== 'cutoff' && w.step.id !== 'delay-mix')!;
    const others = done(...first.filter((w) => w !== open).map((w) => w.key));
    const [left, ...rest] = workOfBreak(evening, plan, others, 1, 'low');
    expect(left).toMatchObject({ key: open.key, left: true, state: 'open' });
    expect(rest.every((w) => !w.left)).toBe(true);
    // Done here it stays in this break's list, to be taken back; done before it is over.
    const here = { ...others, ...done(open.key) };
    const leftOf = (since: number) =>
      workOfBreak(evening, plan, here, 1, 'low', since).filter((w) => w.left);
    expect(leftOf(0).map((w) => [w.key, w.state])).toContainEqual([open.key, 'done']);
    expect(leftOf(1)).toEqual([]);
    // The cutoff was forgotten: the next song wants it elsewhere, and asks for it once.
    const forgotten = done(...first.map((w) => w.key).filter((k) => !k.endsWith('/cutoff')));
    const cutoffs = workOfBreak(evening, plan, forgotten, 1, 'low').filter(
      (w) => w.step.id === 'cutoff',
    );
    expect(cutoffs.map((w) => [w.song, w.left])).toEqual([['s2', false]]);
  });

  it('what was put off comes last, and what is done counts no more', () => {
    const [one, two] = forSong(0, {}, 's1').map((w) => w.key);
    const marks: Marks = {
      ...done(two!),
      [one!]: { value: 'later', clock: 2, device: 'd', at: '2026-12-12T21:00:00.000Z' },
    };
    const all = workOfBreak(evening, plan, marks, 0, 'low');
    const turn = inTurn(all);
    expect(turn.map((w) => w.key)).not.toContain(two);
    expect(turn.at(-1)!.key).toBe(one);
    expect(secondsLeft(all)).toBeCloseTo(
      secondsLeft(workOfBreak(evening, plan, {}, 0, 'low')) -
        all.find((w) => w.key === two)!.step.seconds,
    );
    expect(workKey('s1', 'a', 'x')).toBe('work/s1/a/x');
  });
});
