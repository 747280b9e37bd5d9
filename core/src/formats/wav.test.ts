import { encodeWav } from './wav';

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
