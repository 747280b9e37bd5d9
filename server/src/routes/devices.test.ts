import { DEVICE_COOKIE } from '../security';
import { harness } from '../testing/harness';

const PASSCODE = 'low tide';
let h: Awaited<ReturnType<typeof harness>>;
beforeAll(async () => {
  h = await harness({ host: '0.0.0.0', passcode: PASSCODE });
});
afterAll(() => h.database.close());

const enter = (name: string, passcode = PASSCODE) => h.call('POST', '/devices', { name, passcode });
const cookieOf = (headers: Headers): string => headers.get('set-cookie')!.split(';')[0]!;

describe('devices of the band', () => {
  it('give the passcode once, and show a token from then on', async () => {
    expect((await h.call('GET', '/patches')).status).toBe(401);
    const { status, headers, body } = await enter('tablet of the high keys');
    expect([status, body]).toEqual([200, { name: 'tablet of the high keys' }]);
    const said = headers.get('set-cookie')!;
    expect(said).toContain(`${DEVICE_COOKIE}=`);
    for (const word of ['HttpOnly', 'SameSite=Strict', 'Path=/']) expect(said).toContain(word);
    const cookie = cookieOf(headers);
    expect((await h.call('GET', '/patches', undefined, { cookie })).status).toBe(200);
    // What is kept is not what is shown.
    const rows = await h.database.source.query('SELECT token_hash FROM device');
    expect(rows.map((r: { token_hash: string }) => r.token_hash)).not.toContain(
      cookie.split('=')[1],
    );
  });

  it('are listed, and shut out one by one', async () => {
    const [one, other] = [
      cookieOf((await enter('one')).headers),
      cookieOf((await enter('other')).headers),
    ];
    const list = async (cookie: string) =>
      (await h.call('GET', '/devices', undefined, { cookie })).body.items;
    const mine = (await list(one)).find((d: { here: boolean }) => d.here);
    expect(mine.name).toBe('one');
    const withdrawn = await h.call('DELETE', `/devices/${mine.id}`, undefined, { cookie: other });
    expect(withdrawn.status).toBe(200);
    expect((await h.call('GET', '/patches', undefined, { cookie: one })).status).toBe(401);
    expect((await h.call('GET', '/patches', undefined, { cookie: other })).status).toBe(200);
    const again = await h.call('DELETE', `/devices/${mine.id}`, undefined, { cookie: other });
    expect(again.status).toBe(404);
  });

  it('stop listening at once when they are shut out', async () => {
    const [one, other] = [
      cookieOf((await enter('listens')).headers),
      cookieOf((await enter('stays')).headers),
    ];
    const sets = (await h.call('GET', '/evenings', undefined, { cookie: one })).body.items;
    const begun = await h.call(
      'POST',
      `/evenings/${sets[0].id}/walks`,
      { kind: 'stage', before: {} },
      { cookie: one },
    );
    const { id } = begun.body.walk;
    const listen = (cookie: string) =>
      h.app.request(`/api/v1/walks/${id}/stream`, { headers: { cookie, host: 'localhost' } });
    const [gone, stays] = [await listen(one), await listen(other)];
    const items = (await h.call('GET', '/devices', undefined, { cookie: one })).body.items;
    const mine = items.find((d: { here: boolean }) => d.here);
    await h.call('DELETE', `/devices/${mine.id}`, undefined, { cookie: other });
    // It ends: all of it can be read.
    expect(await gone.text()).toContain('event: open');
    expect(h.services.walks.told.count).toBe(1);
    await stays.body!.cancel();
  });

  it('that guess are refused, and named nothing is no name', async () => {
    expect((await enter('guesser', 'high tide')).status).toBe(403);
    expect((await enter(' ')).status).toBe(422);
    const open = await harness();
    const entered = await open.call('POST', '/devices', { name: 'x', passcode: 'y' });
    expect(entered.status).toBe(409);
    await open.database.close();
  });

  it('are told where the server is: nowhere while it is this machine’s alone', async () => {
    const alone = await harness();
    expect((await alone.call('GET', '/network')).body).toEqual({
      addresses: [],
      secure: false,
      authority: false,
    });
    expect((await alone.call('GET', '/authority.pem')).status).toBe(404);
    await alone.database.close();
    const tls = { key: '', cert: '', authority: 'PEM' };
    const secure = await harness({ host: '0.0.0.0', passcode: PASSCODE, tls });
    const { headers } = await secure.call('POST', '/devices', { name: 'x', passcode: PASSCODE });
    expect(headers.get('set-cookie')).toContain('Secure');
    const network = await secure.call('GET', '/network', undefined, { cookie: cookieOf(headers) });
    expect(network.body).toMatchObject({ secure: true, authority: true });
    for (const { url, picture } of network.body.addresses) {
      expect(url).toMatch(/^https:\/\/\d+\.\d+\.\d+\.\d+/);
      expect(picture).toContain('<svg');
    }
    const pem = await secure.call('GET', '/authority.pem');
    expect(Buffer.from(pem.body).toString()).toBe('PEM');
    await secure.database.close();
  });
});
