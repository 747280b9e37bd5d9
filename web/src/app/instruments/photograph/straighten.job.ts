import { type Corners, straighten } from '@hurrel/core';

export interface StraightenWorker {
  /** A picture's part between four corners, as a JPEG. */
  straight(picture: Blob, corners: Corners, width: number, height: number): Promise<Blob>;
}

export const straightenJob: StraightenWorker = {
  async straight(picture, corners, width, height) {
    const bitmap = await createImageBitmap(picture);
    const paper = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
    paper.drawImage(bitmap, 0, 0);
    const { data } = paper.getImageData(0, 0, bitmap.width, bitmap.height);
    const seen = straighten(
      { width: bitmap.width, height: bitmap.height, data },
      corners,
      width,
      height,
    );
    if (!seen) throw new Error('Its corners go round no shape: put each on the panel’s own.');
    const out = new OffscreenCanvas(width, height);
    const image = new ImageData(new Uint8ClampedArray(seen.data), width, height);
    out.getContext('2d')!.putImageData(image, 0, 0);
    return out.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
  },
};
