import { curlew, estuary, patchOn } from '../testing/panels';
import type { Patch } from '../patch';
import { freeIn, needsOf, playerOf } from './mover';
import { planEvening } from './plan';
import { type Evening, eveningSchema } from './schema';
import { type Work, Ways } from './ways';

const patches: Record<string, Patch> = {
  bass: { ...patchOn(curlew, { cutoff: 0.2, 'env-decay': 0.4 }), tempo: 120 },
  lead: { ...patchOn(curlew, { cutoff: 0.9, 'delay-mix': 0.4, 'mix-noise': 0.3 }), tempo: 120 },
  pad: { ...patchOn(estuary, { cutoff: 0.4 }), tempo: 120 },
};
const ways = (): Ways =>
  new Ways(
    (id) => patches[id] && { patch: patches[id], instrument: id === 'pad' ? estuary : curlew },
  );

interface Told {
  plays: object[];
  pause?: number;
  seconds?: number;
  kind?: string;
}
const evening = (songs: Told[]): Evening =>
  eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Hallow Staithe',
    people: [
      { id: 'low', name: 'low keys' },
      { id: 'hand', name: 'stage hand' },
    ],
    panels: [
      { id: 'c', name: 'Curlew', instrument: curlew.id, by: 'hand' },
      { id: 'e', name: 'Estuary', instrument: estuary.id, by: 'low' },
    ],
    songs: songs.map((song, i) => ({ id: `s${i}`, name: `S${i}`, pause: 0, ...song })),
  });
const song = (set: Evening, i = 0) => set.songs[i]!;
const tempo = (): number => 120;

describe('hands that are free while a song is played', () => {
  it('are those of whoever does not play, for as long as the song lasts', () => {
    const set = evening([{ plays: [{ panel: 'e', patch: 'pad' }], seconds: 180 }]);
    expect(playerOf(set, song(set).plays[0]!)).toBe('low');
    expect(freeIn(set, song(set), 'hand', tempo)).toBe(180);
    expect(freeIn(set, song(set), 'low', tempo)).toBe(0);
    const unknown = evening([{ plays: [{ panel: 'e', patch: 'pad' }] }]);
    expect(freeIn(unknown, song(unknown), 'hand', tempo)).toBe(0);
  });

  it('are free from a bar on, or once the part is over: two seconds a bar at 120', () => {
    const free = { hand: 'left', bar: 33 };
    const set = evening([{ plays: [{ panel: 'e', patch: 'pad', free }], seconds: 100 }]);
    expect(freeIn(set, song(set), 'low', tempo)).toBe(36);
    const part = evening([
      { plays: [{ panel: 'e', patch: 'pad', from: 1, to: 10 }], seconds: 100 },
    ]);
    expect(freeIn(part, song(part), 'low', tempo)).toBe(80);
    // Of two parts both must let a hand go.
    const two = evening([
      {
        plays: [
          { panel: 'e', patch: 'pad', free },
          { panel: 'c', patch: 'bass', by: 'low' },
        ],
        seconds: 100,
      },
    ]);
    expect(freeIn(two, song(two), 'low', tempo)).toBe(0);
  });
});

describe('work while a song is played', () => {
  const set = (seconds: number): Evening =>
    evening([
      { plays: [{ panel: 'c', patch: 'bass', by: 'low' }], pause: 900 },
      { plays: [{ panel: 'e', patch: 'pad' }], pause: 0, seconds },
      { plays: [{ panel: 'c', patch: 'lead', by: 'low' }], pause: 0 },
    ]);

  it('is done only where the breaks do not suffice, on panels that rest', () => {
    const without = planEvening(set(0), ways());
    expect(without.breaks[2]!.over).toBeGreaterThan(0);
    expect(without.breaks.every((b) => b.during.length === 0)).toBe(true);
    const within = planEvening(set(180), ways());
    expect(within.breaks[2]!.over).toBe(0);
    // It is for the very next song: not early, though it is done before the break.
    expect(within.breaks[2]!.during.map((p) => [p.panel, p.early])).toEqual([['c', false]]);
    expect(within.seconds).toBeCloseTo(without.seconds, 6);
    // What the panel is played on in between is not touched.
    expect(within.breaks[1]!.during).toEqual([]);
  });

  it('takes no longer than there is a hand for', () => {
    const short = planEvening(set(7), ways());
    const during = short.breaks[2]!.during.reduce((sum, p) => sum + p.seconds, 0);
    expect(during).toBeGreaterThan(0);
    expect(during).toBeLessThanOrEqual(7);
    expect(short.breaks[2]!.over).toBeGreaterThan(0);
  });

  it('wants the hand that reaches the panel, and both for what is set by ear', () => {
    const free = (hand: string): Evening => {
      const set = evening([
        { plays: [{ panel: 'c', patch: 'bass', by: 'low' }], pause: 900 },
        { plays: [{ panel: 'e', patch: 'pad', free: { hand, bar: 1 } }], pause: 0, seconds: 180 },
        { plays: [{ panel: 'c', patch: 'lead', by: 'low' }], pause: 0 },
      ]);
      const panels = set.panels.map((p) => (p.id === 'c' ? { ...p, by: 'low', side: 'left' } : p));
      return eveningSchema.parse({ ...set, panels });
    };
    const over = (hand: string): number => planEvening(free(hand), ways()).breaks[2]!.over;
    expect([over('left'), over('both')]).toEqual([0, 0]);
    expect(over('right')).toBeGreaterThan(0);
    const step = { kind: 'movement', id: 'x', seconds: 3 } as Work;
    expect(needsOf(step, undefined)).toBe('either');
    expect(needsOf(step, 'left')).toBe('left');
    expect(needsOf({ ...step, target: 'until it growls' } as Work, 'left')).toBe('both');
    expect(needsOf({ kind: 'entry', id: 'x', seconds: 20 } as Work, 'left')).toBe('both');
  });

  it('songs in reserve need nothing, encores do', () => {
    const more = (kind: string): number =>
      planEvening(evening([{ plays: [{ panel: 'c', patch: 'lead' }], pause: 900, kind }]), ways())
        .movements;
    expect(more('reserve')).toBe(0);
    expect(more('encore')).toBe(more('song'));
  });
});
