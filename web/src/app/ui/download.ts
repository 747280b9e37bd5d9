/** Hands a file to the browser. */
export function download(name: string, parts: BlobPart, type: string): void {
  const url = URL.createObjectURL(new Blob([parts], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser has taken it by the next turn of the loop.
  setTimeout(() => URL.revokeObjectURL(url));
}

/** An SVG document as the bytes of a PNG, at twice its size. */
export async function svgToPng(svg: string): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = 2 * image.width;
  canvas.height = 2 * image.height;
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done, failed) =>
    canvas.toBlob(
      (blob) => (blob ? done(blob) : failed(new Error('The picture could not be made.'))),
      'image/png',
    ),
  );
}

/** A name for a file: what file systems everywhere take. */
export const fileName = (text: string, ending: string): string =>
  `${
    text
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'sound'
  }.${ending}`;
