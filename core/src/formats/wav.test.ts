import fc from 'fast-check';
import { checkSamples, decodeWav, WavError, wavFacts } from './read-wav';
import { encodeWav, wavFormats } from './wav';
import { runs } from '../testing/runs';

const view = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
const tag = (bytes: Uint8Array, at: number): string =>
  String.fromCharCode(...bytes.subarray(at, at + 4));
/** Where the samples begin, and how many bytes they take. */
function data(bytes: Uint8Array): [number, number] {
  let at = 12;
  while (tag(bytes, at) !== 'data') at += 8 + view(bytes).getUint32(at + 4, true);
  return [at + 8, view(bytes).getUint32(at + 4, true)];
}

describe('WAV', () => {
  it.each([
    ['16', 2, 1],
    ['24', 3, 1],
    ['32f', 4, 3],
  ] as const)('%s: header and length', (format, bytes, code) => {
    const file = encodeWav([0, 0.5, -0.5, 1], 48000, format);
    expect([tag(file, 0), tag(file, 8)]).toEqual(['RIFF', 'WAVE']);
    expect(view(file).getUint16(20, true)).toBe(code);
    expect(view(file).getUint16(22, true)).toBe(1);
    expect(view(file).getUint32(24, true)).toBe(48000);
    expect(data(file)[1]).toBe(4 * bytes);
  });

  it('keeps floats as they are, beyond full scale too', () => {
    const file = encodeWav([0.25, -1.5], 48000, '32f');
    const [at] = data(file);
    expect(view(file).getFloat32(at, true)).toBe(0.25);
    expect(view(file).getFloat32(at + 4, true)).toBe(-1.5);
  });

  it('rounds integers, and holds what is too loud at full scale', () => {
    const file = encodeWav([0.5, 3, -3], 48000, '16');
    const [at] = data(file);
    expect([0, 2, 4].map((o) => view(file).getInt16(at + o, true))).toEqual([16384, 32767, -32767]);
  });
});

describe('reading WAV', () => {
  const left = Float32Array.from({ length: 500 }, (_, i) => 0.8 * Math.sin(i / 9));
  const right = Float32Array.from({ length: 500 }, (_, i) => 0.5 * Math.cos(i / 5));

  it.each(wavFormats)(
    '%s comes back as it was written, one channel or two, at any rate',
    (format) => {
      const step = format === '16' ? 1 / 32768 : format === '24' ? 1 / 8388608 : 0;
      for (const sampleRate of [8000, 44100, 192000]) {
        const back = decodeWav(encodeWav([left, right], sampleRate, format));
        expect(back.sampleRate).toBe(sampleRate);
        expect(back.channels).toHaveLength(2);
        [left, right].forEach((side, c) =>
          side.forEach((v, i) =>
            expect(Math.abs(back.channels[c]![i]! - v)).toBeLessThanOrEqual(2 * step),
          ),
        );
        expect(decodeWav(encodeWav(left, sampleRate, format)).channels).toHaveLength(1);
        expect(wavFacts(encodeWav([left, right], sampleRate, format))).toMatchObject({
          sampleRate,
          channels: 2,
          seconds: 500 / sampleRate,
        });
      }
    },
  );

  const whole = encodeWav(left, 48000, '16');
  it.each<[string, Uint8Array, RegExp]>([
    ['nothing', new Uint8Array(), /no WAV file/],
    ['another kind of file', new TextEncoder().encode('{"format": "hurrel-patch"}'), /no WAV file/],
    ['a file cut short', whole.subarray(0, 600), /ends early: the data chunk at byte \d+/],
    ['a header alone', whole.subarray(0, 36), /no data chunk/],
  ])('%s is refused with the reason', (_, bytes, reason) => {
    expect(() => decodeWav(bytes)).toThrow(WavError);
    expect(() => decodeWav(bytes)).toThrow(reason);
    expect(() => wavFacts(bytes)).toThrow(reason);
  });

  it('in pieces find what is no number, and what ends early, as a whole does', () => {
    const whole = encodeWav([left, right], 48000, '32f');
    const facts = wavFacts(whole.subarray(0, 200), Infinity);
    expect(facts.seconds).toBeCloseTo(500 / 48000, 9);
    const bad = whole.slice();
    new DataView(bad.buffer).setFloat32(facts.data.at + 4 * 731, NaN, true);
    const look = (bytes: Uint8Array): void => {
      for (let from = 0; from < bytes.length; from += 400) {
        checkSamples(facts, bytes.subarray(from, from + 400), from);
      }
    };
    expect(() => look(whole)).not.toThrow();
    expect(() => look(bad)).toThrow('Sample 365 of channel 2 is no number.');
    expect(() => decodeWav(bad)).toThrow('Sample 365 of channel 2 is no number.');
    expect(() => wavFacts(whole.subarray(0, 200))).toThrow('ends early');
  });

  it.each([2, 6, 7, 17, 85, 0xfffe, 0x1234])(
    'coding %d is refused, not taken for samples',
    (code) => {
      const file = encodeWav([left], 48000, '16');
      view(file).setUint16(20, code, true);
      for (const read of [decodeWav, wavFacts])
        expect(() => read(file)).toThrow(/^The samples are compressed, or of a coding/);
    },
  );

  it('bent files are read or refused with a reason, never otherwise', () => {
    const bytes = encodeWav(left.subarray(0, 60), 48000, '32f');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        (changes) => {
          const bent = bytes.slice();
          for (const [at, value] of changes) bent[at] = value;
          try {
            checkSamples(wavFacts(bent), bent, 0);
          } catch (error) {
            expect(error).toBeInstanceOf(WavError);
          }
          try {
            const { channels } = decodeWav(bent);
            expect(channels.findIndex((c) => !c.every(Number.isFinite))).toBe(-1);
          } catch (error) {
            expect(error).toBeInstanceOf(WavError);
          }
        },
      ),
      { numRuns: runs(2000) },
    );
  });
});
