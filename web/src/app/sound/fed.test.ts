import { blankPatch, encodeWav, instrumentSchema, type Patch } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { subjectWithFed, withFed, withFedNow } from './fed';

const curlew = instrumentSchema.parse(curlewFile);
const wav = encodeWav([Float32Array.of(0, 0.5, -0.5, 0.25)], 48000, '16');
let number = 0;
/** A patch that is fed with a recording of its own: what was read once is not read again. */
const fedPatch = (): Patch => ({
  ...blankPatch(curlew, 'fed'),
  feed: {
    sound: String(++number).padStart(64, '0'),
    name: 'rain',
    jack: 'j-ext',
    start: 'running',
    round: true,
    level: 0.5,
  },
});

const asked: string[] = [];
let reply: () => { ok: boolean; status: number; arrayBuffer(): Promise<ArrayBuffer> };
const found = () => ({
  ok: true,
  status: 200,
  arrayBuffer: () => Promise.resolve(wav.slice().buffer as ArrayBuffer),
});

beforeEach(() => {
  asked.length = 0;
  reply = found;
  Object.assign(globalThis, {
    fetch: (url: string) => {
      asked.push(url);
      try {
        return Promise.resolve(reply());
      } catch (error) {
        return Promise.reject(error as Error);
      }
    },
  });
});

describe('the samples that a patch is fed with', () => {
  it('are read once, whoever asks, both sides from one', async () => {
    const patch = fedPatch();
    const [one, two] = await Promise.all([withFed(patch), withFed({ ...patch, name: 'other' })]);
    expect(asked).toEqual([`/api/v1/sounds/${patch.feed!.sound}`]);
    expect(Array.from(one.fed!.left)).toEqual(
      [0, 0.5, -0.5, 0.25].map((v) => expect.closeTo(v, 4)),
    );
    expect(one.fed!.right).toBe(one.fed!.left);
    expect(two.fed).toBe(one.fed);
    expect(one.fed!.sampleRate).toBe(48000);
  });

  it('are asked for by nobody whose patch is fed with nothing', async () => {
    const patch = blankPatch(curlew, 'bare');
    expect(await withFed(patch)).toBe(patch);
    expect((await subjectWithFed({ patch, key: 1 })).key).toBe(1);
    expect(asked).toEqual([]);
  });

  it('are said to be missing, and asked for again', async () => {
    const patch = fedPatch();
    reply = () => ({ ...found(), ok: false, status: 404 });
    await expect(withFed(patch)).rejects.toThrow(/"rain".*choose its WAV file again/);
    reply = () => {
      throw new TypeError('no network');
    };
    await expect(withFed(patch)).rejects.toThrow(
      '"rain", which it is fed with, could not be read.',
    );
    reply = found;
    expect((await withFed(patch)).fed!.left).toHaveLength(4);
    expect(asked).toHaveLength(3);
  });

  it('are there at once where they have come, and told when they come later', async () => {
    const patch = fedPatch();
    let told = 0;
    expect(withFedNow(patch, () => told++)).toBe(patch);
    await withFed(patch);
    await Promise.resolve();
    expect(told).toBe(1);
    expect(withFedNow(patch, () => told++).fed!.left).toHaveLength(4);
    expect(told).toBe(1);
  });

  it('are not asked for at each turn of a control while they are missing', async () => {
    const patch = fedPatch();
    reply = () => ({ ...found(), ok: false, status: 404 });
    for (let turn = 0; turn < 5; turn++) {
      withFedNow(patch, () => undefined);
      await withFed({ ...blankPatch(curlew, 'bare') });
      await new Promise((on) => setTimeout(on));
    }
    expect(asked).toHaveLength(1);
    // Who asks for them by name is answered.
    reply = found;
    expect((await withFed(patch)).fed!.left).toHaveLength(4);
    expect(withFedNow(patch, () => undefined).fed!.left).toHaveLength(4);
  });
});
