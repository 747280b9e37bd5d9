import { sheetsOf } from './sets.service';

describe('the sheets of a set', () => {
  it('are those of every patch in every variation that is played, each once', () => {
    const plays = (...all: [string, string?][]) =>
      ({
        plays: all.map(([patch, variation]) => ({ patch, ...(variation ? { variation } : {}) })),
      }) as Parameters<typeof sheetsOf>[0]['songs'][number];
    const songs = [plays(['a'], ['b', 'slow']), plays(['a'], ['b']), plays()];
    expect(sheetsOf({ songs }).map((s) => s.url)).toEqual([
      '/api/v1/patches/a/sheet.pdf?from=start',
      '/api/v1/patches/b/sheet.pdf?from=start&variation=slow',
      '/api/v1/patches/b/sheet.pdf?from=start',
    ]);
  });
});
