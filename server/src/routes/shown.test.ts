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

  it('is where its controls were heard to be moved to, and that is certain', async () => {
    const panel = '/shown/instrument-marram-estuary';
    const { controls } = (await h.call('GET', '/instruments/marram-estuary')).body;
    const [one, other] = controls.filter(
      (c: { cc?: number; positions?: [] }) => c.cc && !c.positions,
    );
    const heard = (moved: unknown) => h.call('POST', `${panel}/heard`, { moved });
    // Of what nobody knows, one control alone says nothing.
    expect((await heard([{ cc: one.cc, sent: 64 }])).body).toEqual({ shown: null });
    const settings = { [one.id]: { kind: 'set', value: 0 }, [other.id]: { kind: 'set', value: 0 } };
    const uncertain = [one.id, other.id];
    await h.call('PUT', panel, { shown: shown({ panel: { settings }, uncertain }) });
    // 3 is sent by none of its controls.
    const { status, body } = await heard([
      { cc: one.cc, sent: 64 },
      { cc: 3, sent: 1 },
    ]);
    expect(status).toBe(200);
    expect(body.shown).toMatchObject({
      name: 'Winch Room bass',
      uncertain: [other.id],
      panel: { settings: { ...settings, [one.id]: { kind: 'set', value: 0.5 } } },
    });
    expect((await h.call('GET', panel)).body).toEqual(body);
    // A device whose clock is ahead says nothing of the future: what is heard now is believed.
    await h.call('PUT', panel, { shown: { ...body.shown, at: '2999-01-01T00:00:00.000Z' } });
    const now = await heard([{ cc: one.cc, sent: 64 }]);
    expect(now.body.shown.uncertain).toEqual([other.id]);
    await h.call('PUT', panel, { shown: body.shown });
    // Heard before something else was said of the panel: nobody knows whether it still stands there.
    const late = await heard([{ cc: one.cc, sent: 127, ago: 3600 }]);
    expect(late.body.shown.uncertain.sort()).toEqual([one.id, other.id].sort());
    expect(late.body.shown.panel).toEqual(body.shown.panel);
    for (const [moved, pointer] of [
      [[{ cc: 1, sent: 1, ago: -1 }], '/moved/0/ago'],
      [[{ cc: 128, sent: 0 }], '/moved/0/cc'],
      [[{ cc: 1, sent: -1 }], '/moved/0/sent'],
      [[], '/moved'],
    ] as const) {
      const refused = await heard(moved);
      expect([refused.status, refused.body.errors[0].pointer]).toEqual([422, pointer]);
    }
    expect(
      (await h.call('POST', '/shown/unit-nobody/heard', { moved: [{ cc: 1, sent: 1 }] })).status,
    ).toBe(404);
    expect((await h.call('GET', panel)).body).toEqual(late.body);
  });

  describe('when a place of its memory was chosen', () => {
    let panel = '';
    let stored: { id: string; patch: { name: string; settings: object } };
    const cable = { id: 'c1', from: 'a', to: 'b' };
    beforeEach(async () => {
      stored = await h.byName('Night Lock call');
      const slots = [{ bank: 1, slot: 12, patch: stored.id }];
      const unit = { instrument: 'marram-estuary', name: 'the grey one', slots };
      const { id } = (await h.call('POST', '/units', unit)).body;
      panel = `/shown/unit-${id}`;
    });
    const choose = (loaded: object, moved: object[] = []) =>
      h.call('POST', `${panel}/heard`, { loaded, moved });

    it('is the patch that the memory map has there, and what was moved after it', async () => {
      const { controls } = (await h.call('GET', '/instruments/marram-estuary')).body;
      const cutoff = controls.find((c: { id: string }) => c.id === 'cutoff');
      const { status, body } = await choose({ program: 11, coarse: 0 }, [
        { cc: cutoff.cc, sent: 127 },
      ]);
      expect(status).toBe(200);
      expect(body.shown).toMatchObject({
        patch: stored.id,
        name: 'Night Lock call',
        finished: true,
        uncertain: [],
        panel: { settings: { ...stored.patch.settings, cutoff: { kind: 'set', value: 1 } } },
      });
      expect((await h.call('GET', panel)).body).toEqual(body);
    });

    it('is the same when that is told twice', async () => {
      const first = await choose({ program: 11, ago: 2 }, [{ cc: 74, sent: 127, ago: 1 }]);
      const again = await choose({ program: 11, ago: 2.1 }, [{ cc: 74, sent: 127, ago: 1.1 }]);
      expect(again.body).toEqual(first.body);
    });

    it('keeps its cables, which no memory does', async () => {
      await h.call('PUT', panel, { shown: shown({ panel: { settings: {}, cables: [cable] } }) });
      expect((await choose({ program: 11 })).body.shown.panel.cables).toEqual([cable]);
    });

    it('is uncertain in all where nobody knows what that place holds', async () => {
      expect((await choose({ program: 12 })).body).toEqual({ shown: null });
      await h.call('PUT', panel, { shown: shown() });
      const { body } = await choose({ program: 12 });
      const { controls } = (await h.call('GET', '/instruments/marram-estuary')).body;
      expect(body.shown.name).toBe('what A13 holds');
      expect(body.shown.uncertain).toHaveLength(controls.length);
    });

    it('is uncertain in all where something was said of it since', async () => {
      await h.call('PUT', panel, { shown: shown() });
      const { body } = await choose({ program: 11, ago: 3600 });
      expect(body.shown.name).toBe('Winch Room bass');
      expect(body.shown.uncertain.length).toBeGreaterThan(10);
    });

    it('is what it was where the instrument has no such place', async () => {
      await h.call('PUT', panel, { shown: shown() });
      const before = (await h.call('GET', panel)).body;
      expect((await choose({ program: 100 })).body).toEqual(before);
      expect((await choose({ program: 128 })).status).toBe(422);
    });
  });

  it('is where a sheet begins', async () => {
    const { id } = await h.byName('Winch Room bass');
    const sheet = (query: string) => h.call('GET', `/patches/${id}/sheet.pdf?${query}`);
    expect((await sheet('from=shown')).status).toBe(200);
    expect((await sheet('from=shown&panel=unit-nobody')).status).toBe(200);
    expect((await sheet('from=shown&panel=else')).status).toBeGreaterThanOrEqual(400);
  });
});
