import { chosenOn, loadedOver, placeOn, STANDS_AGAIN } from './loaded';
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

describe('a place that spoils what a song wants', () => {
  type Said = [key: string, value?: string];
  const said = (...all: Said[]): Marks =>
    all.reduce<Marks>((marks, [key, value = 'done']) => {
      const mark = { value, device: 'd', at: '2026-12-12T21:00:00.000Z' };
      return withMark(marks, key, mark);
    }, {});
  const done = (song: string, step = 'cutoff'): Said => [workKey(song, 'e', step)];
  const chosen = (place: string): Said => [loadedKey('e'), place];
  const over = (at: number, ...all: Said[]) =>
    loadedOver({ songs } as unknown as Parameters<typeof placeOn>[0], plan, said(...all), at, 'e')
      ?.value;

  it.each<[string, string | undefined, number, Said[]]>([
    ['nothing was chosen', undefined, 0, []],
    ['it was loaded since', undefined, 0, [chosen('C09'), done('one', 'load')]],
    [
      'somebody said that it stands again',
      undefined,
      3,
      [done('four'), chosen('C09'), chosen(STANDS_AGAIN)],
    ],
    ['another was chosen before anything was made', 'C09', 3, [done('one', 'load'), chosen('C09')]],
    ['it is the one that the song wants', undefined, 0, [chosen('A12')]],
    ['another than the song wants', 'C09', 0, [done('one', 'load'), chosen('C09')]],
    [
      'it was loaded for the song before',
      undefined,
      3,
      [chosen('A12'), done('one', 'load'), done('four')],
    ],
    [
      'it was loaded again for the song before',
      undefined,
      3,
      [done('one', 'load'), chosen('A12'), done('four')],
    ],
    [
      'it has undone what was set by hand',
      'A12',
      3,
      [done('one', 'load'), done('four'), chosen('A12')],
    ],
    [
      'another was chosen before it was set by hand',
      'C09',
      3,
      [done('one', 'load'), chosen('C09'), done('four')],
    ],
    [
      'a song before was set since',
      undefined,
      3,
      [chosen('C09'), done('one', 'load'), done('four')],
    ],
    [
      'something is done for the song after it was set anew',
      'C09',
      3,
      [done('four', 'x'), chosen('C09'), done('four')],
    ],
  ])('is told where it is so: %s', (_, place, at, all) => {
    expect(over(at, ...all)).toBe(place);
  });
});
