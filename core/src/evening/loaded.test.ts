import { chosenOn, placeOn } from './loaded';
import { loadedKey, type Marks, placeKey, type WalkMark, withMark, workKey } from './walk';
import type { Work } from './ways';

const load = (place: string): Work => ({
  ...{ kind: 'load', id: 'load', seconds: 4 },
  place,
  text: `Load ${place}`,
});
const turn: Work = {
  ...{ kind: 'movement', id: 'cutoff', control: 'cutoff', section: 'filter' },
  ...{ from: '0', to: '1', toValue: 1, seconds: 3 },
};
const songs = ['one', 'two', 'three', 'four', 'five'].map((id) => ({
  id,
  // The panel rests in the third song.
  plays: id === 'three' ? [] : [{ panel: 'e', patch: `patch of ${id}` }],
}));
const portion = (song: string, steps: Work[], panel = 'e') => ({ song, panel, steps });
const plan = {
  breaks: [
    { portions: [portion('one', [load('A12'), turn])], during: [] },
    { portions: [portion('one', [load('C1')], 'other')], during: [] },
    { portions: [], during: [] },
    { portions: [], during: [portion('four', [turn])] },
    { portions: [portion('five', [load('A13')])], during: [] },
  ],
} as unknown as Parameters<typeof placeOn>[1];
const on = (at: number, panel = 'e') =>
  placeOn({ songs } as unknown as Parameters<typeof placeOn>[0], plan, at, panel);

describe('the place from which a panel is loaded for a song', () => {
  it('is that of the song, or of the one before it from which nothing was moved', () => {
    expect([0, 1, 2].map((at) => on(at))).toEqual(['A12', 'A12', 'A12']);
    expect(on(4)).toBe('A13');
  });

  it('is none where it is set by hand, and none before anything is loaded', () => {
    expect(on(3)).toBeUndefined();
    expect(on(1, 'nobody')).toBeUndefined();
  });
});

describe('a place that was heard to be chosen', () => {
  const say = (marks: Marks, key: string, value = 'done'): Marks => {
    const said: Omit<WalkMark, 'clock'> = { value, device: 'd', at: '2026-12-12T21:00:00.000Z' };
    return withMark(marks, key, said);
  };
  const chosen = say({}, loadedKey('e'), 'A12');

  it('holds until something is done on that panel', () => {
    expect(chosenOn({}, 'e')).toBeUndefined();
    expect(chosenOn(chosen, 'e')?.value).toBe('A12');
    expect(chosenOn(say(chosen, workKey('one', 'e', 'cutoff')), 'e')).toBeUndefined();
  });

  it.each([
    ['something is done on another', workKey('one', 'other', 'cutoff'), 'done'],
    ['something is put off', workKey('one', 'e', 'cutoff'), 'later'],
    ['somebody goes on', placeKey('low'), 'two'],
  ])('holds though %s', (_, key, value) => {
    expect(chosenOn(say(chosen, key, value), 'e')?.value).toBe('A12');
  });

  it('holds again when it is chosen after that', () => {
    const done = say(chosen, workKey('one', 'e', 'cutoff'));
    expect(chosenOn(say(done, loadedKey('e'), 'A13'), 'e')?.value).toBe('A13');
  });
});
