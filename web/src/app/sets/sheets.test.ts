import type { Evening } from '@hurrel/core';
import { sheetsOf } from './sets.service';

describe('the sheets of a set', () => {
  it('are those of every patch in every variation that is played, each once', () => {
    const plays = (...all: [string, string?][]) =>
      ({
        plays: all.map(([patch, variation]) => ({ patch, ...(variation ? { variation } : {}) })),
      }) as Parameters<typeof sheetsOf>[0]['songs'][number];
    const songs = [plays(['a'], ['b', 'slow']), plays(['a'], ['b']), plays()];
    expect(sheetsOf({ songs, panels: [] }, {}).map((s) => s.url)).toEqual([
      '/api/v1/patches/a/sheet.pdf?from=start',
      '/api/v1/patches/b/sheet.pdf?from=start&variation=slow',
      '/api/v1/patches/b/sheet.pdf?from=start',
    ]);
  });

  it('are in the readings of the unit that a panel is, at printed dials where it is gone', () => {
    const [panels, songs] = [
      ['left', 'right', 'lost', undefined].map((unit, i) => ({ id: `p${i}`, unit })),
      [{ plays: ['p0', 'p1', 'p0', 'p2', 'p3'].map((panel) => ({ panel, patch: 'a' })) }],
    ] as unknown as [Evening['panels'], Evening['songs']];
    const all = sheetsOf({ songs, panels }, { left: {}, right: {} });
    expect(all.map((s) => [s.panel, new URLSearchParams(s.url.split('?')[1]).get('unit')])).toEqual(
      [
        ['p0', 'left'],
        ['p1', 'right'],
        ['p2', 'printed'],
        ['p3', null],
      ],
    );
  });
});
