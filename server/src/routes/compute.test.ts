import { demoDescribed, demoInstruments } from '../demo/library';
import { harness } from '../testing/harness';

type Harness = Awaited<ReturnType<typeof harness>>;
let h: Harness;
beforeAll(async () => (h = await harness()));
afterAll(() => h.database.close());

describe('readings', () => {
  it('are parsed, told again and translated', async () => {
    const { status, body } = await h.call('POST', '/readings/parse', {
      instrument: 'oxbow-sluice',
      control: 'cutoff',
      text: '3.5-4 best 3.7',
    });
    expect(status).toBe(200);
    expect(body.setting).toEqual({ kind: 'range', from: 0.35, to: 0.4, best: 0.37 });
    expect(body.reading).toBe('3.5–4, best 3.7');
    expect(body.physical.value).toBeCloseTo(20 * 1000 ** 0.37, 6);
    const none = await h.call('POST', '/readings/parse', {
      instrument: 'oxbow-sluice',
      control: 'cutoff',
      text: '?',
    });
    expect(none.body).toMatchObject({ setting: null, reading: '?' });
  });

  it('that are none are refused with what was expected', async () => {
    const { status, body } = await h.call('POST', '/readings/parse', {
      instrument: 'oxbow-sluice',
      control: 'osc2-fine',
      text: '6:00',
    });
    expect(status).toBe(422);
    expect(body.errors[0].pointer).toBe('/text');
    expect(body.errors[0].message).toMatch(/gap of the dial.*Expected a clock time/);
  });
});

describe('checking', () => {
  it('finds why a patch is silent, from a document or from the library', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    expect(
      (await h.call('POST', '/check', { patchId: id })).body.items.every(
        (f: { severity: string }) => f.severity === 'idle',
      ),
    ).toBe(true);
    const silent = { ...patch, settings: { ...patch.settings, level: { kind: 'set', value: 0 } } };
    const { body } = await h.call('POST', '/check', { patch: silent });
    expect(body.items[0]).toMatchObject({
      severity: 'silent',
      controls: ['level'],
      mend: { text: 'Set Out level to 7' },
    });
  });
});

describe('rebuilding', () => {
  it('lists the movements from the start, and from another patch', async () => {
    const bass = await h.byName('Winch Room bass');
    const kick = await h.byName('Winch Room kick');
    const fromStart = await h.call('POST', '/rebuild', { from: 'start', to: { patchId: bass.id } });
    expect(fromStart.body.steps[0]).toMatchObject({
      control: 'osc1-shape',
      from: 'saw',
      to: 'pulse',
      seconds: 1,
    });
    const fromKick = await h.call('POST', '/rebuild', {
      from: { patchId: kick.id },
      to: { patch: bass.patch },
    });
    expect(fromKick.status).toBe(200);
    expect(fromKick.body.steps.some((s: { control: string }) => s.control === 'mix-noise')).toBe(
      true,
    );
    expect(fromKick.body.seconds).toBeGreaterThan(0);
  });
});

describe('rendering', () => {
  const wav = async (more: object) => {
    const { patch } = await h.byName('Ropewalk under');
    return h.call('POST', '/render', { patch, seconds: 0.25, ...more });
  };

  it('gives a WAV of the length, rate and format that was asked for', async () => {
    const { status, headers, body } = await wav({
      notes: [{ note: 'C3', duration: 0.2 }],
      sampleRate: 44100,
      format: '32f',
    });
    expect([status, headers.get('content-type')]).toEqual([200, 'audio/wav']);
    const view = new DataView(body.buffer);
    expect(view.getUint32(24, true)).toBe(44100);
    expect(view.getUint16(34, true)).toBe(32);
    expect(body.length).toBeGreaterThanOrEqual(44 + 4 * Math.round(44100 * 0.25));
  });

  it.each([
    [{ notes: [{ note: 'H9' }] }, '/notes/0/note'],
    [{ notes: [{ note: 60, duration: -1 }] }, '/notes/0/duration'],
    [{ seconds: 61 }, '/seconds'],
    [{ sampleRate: 10 }, '/sampleRate'],
    [{ format: 'mp3' }, '/format'],
  ])('refuses %j at %s', async (more, pointer) => {
    const { status, body } = await wav(more);
    expect([status, body.errors[0].pointer]).toEqual([422, pointer]);
  });
});

describe('the sheet', () => {
  it('is one page of PDF', async () => {
    const { id } = await h.byName('Fog Signal horn');
    const { status, headers, body } = await h.call('GET', `/patches/${id}/sheet.pdf?from=start`);
    expect([status, headers.get('content-type')]).toEqual([200, 'application/pdf']);
    const text = Buffer.from(body).toString('latin1');
    expect(text.slice(0, 5)).toBe('%PDF-');
    expect(text.match(/\/Type \/Page\b/g)).toHaveLength(1);
    expect((await h.call('GET', `/patches/${id}/sheet.pdf?from=nobody`)).status).toBe(404);
  });
});

describe('descriptions', () => {
  it('publishes OpenAPI with every route, and JSON Schemas of the files', async () => {
    const { body } = await h.call('GET', '/openapi.json');
    for (const path of [
      '/instruments',
      '/patches',
      '/patches/{id}',
      '/patches/{id}/versions',
      '/readings/parse',
      '/render',
      '/check',
      '/rebuild',
    ]) {
      expect(Object.keys(body.paths)).toContain(`/api/v1${path}`);
    }
    const schema = (await h.call('GET', '/schemas/instrument.json')).body;
    expect(schema.properties.version.const).toBe(1);
    expect((await h.call('GET', '/schemas/patch.json')).body.properties.settings).toBeDefined();
  });
});

describe('instruments', () => {
  it('are listed, read, and taken in whole or not at all', async () => {
    expect((await h.call('GET', '/instruments')).body.items).toHaveLength(
      demoInstruments.length + demoDescribed.length,
    );
    const document = (await h.call('GET', '/instruments/oxbow-sluice')).body;
    expect((await h.call('POST', '/instruments', document)).status).toBe(409);
    const made = await h.call('POST', '/instruments', { ...document, id: 'oxbow-sluice-two' });
    expect([made.status, made.body.controls.length]).toEqual([201, document.controls.length]);
    const broken = {
      ...document,
      id: 'broken',
      circuit: { ...document.circuit, wires: [{ from: 'osc1.out', to: 'nowhere.in' }] },
    };
    const refused = await h.call('POST', '/instruments', broken);
    expect([refused.status, refused.body.errors[0].pointer]).toEqual([422, '/circuit/wires/0/to']);
    expect((await h.call('GET', '/instruments/broken')).status).toBe(404);
  });
});
