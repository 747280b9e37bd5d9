import { harness } from '../testing/harness';

let h: Awaited<ReturnType<typeof harness>>;
beforeAll(async () => {
  h = await harness();
});
afterAll(() => h.database.close());

const shown = (more = {}) => ({
  name: 'Winch Room bass',
  finished: true,
  panel: { settings: { cutoff: { kind: 'set', value: 0.4 } } },
  at: '2026-11-29T18:00:00.000Z',
  ...more,
});

describe('what a panel shows', () => {
  it('is not known until somebody says so, and then what was said last', async () => {
    const panel = '/shown/instrument-oxbow-sluice';
    expect((await h.call('GET', panel)).body).toEqual({ shown: null });
    await h.call('PUT', panel, { shown: shown() });
    const last = shown({ name: 'Fog Signal horn', finished: false, uncertain: ['cutoff'] });
    expect((await h.call('PUT', panel, { shown: last })).status).toBe(200);
    expect((await h.call('GET', panel)).body.shown).toMatchObject({
      name: 'Fog Signal horn',
      finished: false,
      uncertain: ['cutoff'],
      panel: { cables: [], settings: { cutoff: { value: 0.4 } } },
    });
    expect((await h.call('GET', '/shown/unit-somebody')).body).toEqual({ shown: null });
  });

  it.each([
    ['/shown/nobody', shown(), 400],
    ['/shown/unit-a', shown({ at: 'yesterday' }), 422],
    ['/shown/unit-a', shown({ panel: { settings: { cutoff: 3 } } }), 422],
    ['/shown/unit-a', { ...shown(), more: 1 }, 422],
  ])('%s is refused, and nothing is kept', async (path, document, _) => {
    const { status, body } = await h.call('PUT', path, { shown: document });
    expect(status).toBeGreaterThanOrEqual(400);
    expect(status).toBeLessThan(500);
    expect(body.errors[0].pointer).toBeDefined();
    expect((await h.call('GET', '/shown/unit-a')).body).toEqual({ shown: null });
  });

  it('is where a sheet begins', async () => {
    const { id } = await h.byName('Winch Room bass');
    const sheet = (query: string) => h.call('GET', `/patches/${id}/sheet.pdf?${query}`);
    expect((await sheet('from=shown')).status).toBe(200);
    expect((await sheet('from=shown&panel=unit-nobody')).status).toBe(200);
    expect((await sheet('from=shown&panel=else')).status).toBeGreaterThanOrEqual(400);
  });
});
