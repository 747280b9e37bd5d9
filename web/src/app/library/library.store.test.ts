import type { PatchSummary } from '../api/client';
import { LibraryActions, libraryFeature } from './library.store';

const summary = (name: string, more: Partial<PatchSummary> = {}): PatchSummary => ({
  id: name,
  name,
  song: 'Ropewalk',
  role: 'bass',
  about: '',
  instrument: 'oxbow-sluice',
  version: 1,
  recorded: 3,
  updatedAt: '2026-01-01T00:00:00Z',
  ...more,
});
const patches = [
  summary('Under'),
  summary('Horn', { song: 'Fog Signal', role: 'lead', about: 'calls over the water' }),
  summary('Loose', { song: '', role: 'drum' }),
];
const { reducer } = libraryFeature;
const loaded = reducer(undefined, LibraryActions.loaded({ patches, instruments: [] }));
const shown = (filter: Parameters<typeof LibraryActions.filter>[0]['filter']): string[] => {
  const library = reducer(loaded, LibraryActions.filter({ filter }));
  return libraryFeature.selectGroups({ library }).flatMap((g) => g.items.map((p) => p.name));
};

describe('the library', () => {
  it('stands by song, patches without one too', () => {
    const groups = libraryFeature.selectGroups({ library: loaded });
    expect(groups.map((g) => g.song)).toEqual(['Ropewalk', 'Fog Signal', '']);
    expect(libraryFeature.selectSongs({ library: loaded })).toEqual(['Fog Signal', 'Ropewalk']);
  });

  it.each([
    [{ q: 'water CALLS' }, ['Horn']],
    [{ q: 'rope bass' }, ['Under']],
    [{ song: 'Fog Signal' }, ['Horn']],
    [{ role: 'drum' }, ['Loose']],
    [{ role: 'drum', q: 'horn' }, []],
    [{ instrument: 'another' }, []],
    [{}, ['Under', 'Horn', 'Loose']],
  ])('finds by %j', (filter, names) => expect(shown(filter)).toEqual(names));

  it('keeps what it has when it cannot be read again', () => {
    const failed = reducer(loaded, LibraryActions.loadFailed({ message: 'away' }));
    expect(failed).toMatchObject({ error: 'away', patches });
    expect(
      reducer(failed, LibraryActions.loaded({ patches: [], instruments: [] })).error,
    ).toBeNull();
  });
});
