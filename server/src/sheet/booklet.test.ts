import { harness } from '../testing/harness';

let h: Awaited<ReturnType<typeof harness>>;
beforeAll(async () => {
  h = await harness();
});
afterAll(() => h.database.close());

const pages = (pdf: Uint8Array): number =>
  Buffer.from(pdf)
    .toString('latin1')
    .match(/\/Type \/Page\b/g)?.length ?? 0;

async function makeSet(songs: { panel: string; patch: string; pause?: number }[]): Promise<string> {
  const panels = [
    { id: 'sluice', name: 'Sluice', instrument: 'oxbow-sluice', atStart: true },
    { id: 'estuary', name: 'Estuary', instrument: 'marram-estuary', places: ['A01'] },
  ];
  const { body } = await h.call('POST', '/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Skerrow Lock',
    people: [{ id: 'low', name: 'low keys', stands: 'stage left' }],
    panels,
    songs: songs.map(({ panel, patch, pause = 600 }, i) => ({
      id: `s${i}`,
      name: `Song ${i}`,
      pause,
      plays: [{ panel, patch }],
    })),
  });
  return body.id;
}
const idOf = async (name: string): Promise<string> => (await h.byName(name)).id;

describe('the booklet of a set', () => {
  it('has the evening, a page a break with work, and a page a panel that plays', async () => {
    const [bass, horn] = [await idOf('Winch Room bass'), await idOf('Fog Signal horn')];
    const id = await makeSet([
      { panel: 'sluice', patch: bass },
      { panel: 'sluice', patch: bass },
      { panel: 'sluice', patch: horn },
    ]);
    const { status, headers, body } = await h.call('GET', `/evenings/${id}/booklet.pdf`);
    expect(status).toBe(200);
    expect(headers.get('content-type')).toBe('application/pdf');
    // The song that stays as it is needs no page; the estuary plays nothing.
    expect(pages(body)).toBe(1 + 2 + 1);
  });

  it('goes on on further pages where a break is long, and loads what was stored', async () => {
    const numbers = await idOf('Night Lock numbers');
    const bellows = await idOf('Night Lock bellows');
    const loom = await idOf('Low Tide loom');
    const id = await makeSet([
      { panel: 'estuary', patch: numbers },
      { panel: 'estuary', patch: bellows },
    ]);
    const { body } = await h.call('GET', `/evenings/${id}/booklet.pdf`);
    expect(pages(body)).toBeGreaterThan(4);
    const stored = (await h.call('GET', `/evenings/${id}`)).body;
    const longer = {
      ...stored.evening,
      panels: [
        ...stored.evening.panels,
        { id: 'lockgate', name: 'Lockgate', instrument: 'oxbow-lockgate' },
      ],
      songs: [
        ...stored.evening.songs,
        { id: 's9', name: 'Loom', pause: 600, plays: [{ panel: 'lockgate', patch: loom }] },
      ],
    };
    await h.call('PUT', `/evenings/${id}`, longer, { 'if-match': `"${stored.version}"` });
    const more = (await h.call('GET', `/evenings/${id}/booklet.pdf`)).body;
    expect(pages(more)).toBeGreaterThan(pages(body));
  });

  it('tells what is gone and prints the rest; a set that is not there is refused', async () => {
    const id = await makeSet([{ panel: 'sluice', patch: 'nothing' }]);
    const { status, body } = await h.call('GET', `/evenings/${id}/booklet.pdf`);
    expect(status).toBe(200);
    expect(pages(body)).toBe(2);
    expect((await h.call('GET', '/evenings/nobody/booklet.pdf')).status).toBe(404);
  });
});
