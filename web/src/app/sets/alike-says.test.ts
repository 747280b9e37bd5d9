import { eveningSchema } from '@hurrel/core';
import { alikeSays } from './alike-says';

const evening = (...panels: [name: string, unit?: string][]) =>
  eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Skerrow Lock',
    panels: panels.map(([name, unit], i) => ({
      ...{ id: `p${i}`, name, instrument: name.split(' ')[0]!.toLowerCase() },
      ...(unit ? { unit } : {}),
    })),
  });

describe('panels that are not told apart', () => {
  it.each([
    ['no set', null, []],
    ['each the only one of its kind', evening(['Curlew'], ['Estuary']), []],
    ['two units', evening(['Curlew left', 'a'], ['Curlew right', 'b']), []],
    ['one of them a unit', evening(['Curlew left', 'a'], ['Curlew right']), []],
  ])('are none: %s', (_, set, says) => {
    expect(alikeSays(set)).toEqual(says);
  });

  it('are told together, each kind by itself', () => {
    const set = evening(
      ['Curlew left'],
      ['Curlew right'],
      ['Curlew 3'],
      ['Estuary', 'a'],
      ['Estuary', 'a'],
    );
    expect(alikeSays(set).map((text) => text.split(' are not')[0])).toEqual([
      'Curlew left, Curlew right and Curlew 3',
      'Estuary and Estuary',
    ]);
  });
});
