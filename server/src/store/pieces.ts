/** Cuts what comes into pieces of a size, the last one shorter. */
export async function* pieces(
  body: AsyncIterable<Uint8Array>,
  size: number,
): AsyncIterable<Buffer> {
  let piece = Buffer.alloc(size);
  let filled = 0;
  for await (const chunk of body) {
    for (let at = 0; at < chunk.length;) {
      const part = chunk.subarray(at, at + size - filled);
      piece.set(part, filled);
      filled += part.length;
      at += part.length;
      if (filled < size) continue;
      yield piece;
      piece = Buffer.alloc(size);
      filled = 0;
    }
  }
  if (filled > 0) yield piece.subarray(0, filled);
}
