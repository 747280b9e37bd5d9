/** A WAV file of a sine, mono, 16 bit. */
export function sineWav(hz: number, seconds: number, sampleRate = 48000): Buffer {
  const count = Math.round(seconds * sampleRate);
  const bytes = Buffer.alloc(44 + 2 * count);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(36 + 2 * count, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(sampleRate, 24);
  bytes.writeUInt32LE(2 * sampleRate, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(2 * count, 40);
  for (let i = 0; i < count; i++) {
    bytes.writeInt16LE(
      Math.round(16000 * Math.sin((2 * Math.PI * hz * i) / sampleRate)),
      44 + 2 * i,
    );
  }
  return bytes;
}
