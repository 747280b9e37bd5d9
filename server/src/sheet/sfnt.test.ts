import { readFileSync } from 'node:fs';
import PDFDocument from 'pdfkit';
import { fontFiles } from './fonts';
import { sfntOf } from './sfnt';

const LETTERS = 'Cutoff 600 Hz, resonance ¾ · AÄÖß “fine” → 12 %';

/** What is drawn with a font, as it stands in the file, without what differs from one second to the next. */
function drawn(font: Buffer): Promise<string> {
  const doc = new PDFDocument({ compress: false, info: { CreationDate: new Date(0) } });
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const done = new Promise<string>((resolve) =>
    doc.on('end', () => resolve(Buffer.concat(parts).toString('latin1'))),
  );
  doc.registerFont('it', font);
  doc.font('it').fontSize(20).text(LETTERS);
  doc.end();
  return done;
}

describe('a font that is unpacked', () => {
  it.each(Object.entries(fontFiles))('%s draws the same, glyph by glyph', async (_, path) => {
    const packed = readFileSync(path);
    expect(await drawn(sfntOf(packed))).toBe(await drawn(packed));
  });

  it('has tables that sum up to what they say', () => {
    const font = sfntOf(readFileSync(fontFiles.text!));
    const count = font.readUInt16BE(4);
    expect(count).toBeGreaterThan(8);
    for (let i = 0; i < count; i++) {
      const entry = 12 + 16 * i;
      const tag = font.toString('latin1', entry, entry + 4);
      const [checksum, offset, length] = [4, 8, 12].map((at) => font.readUInt32BE(entry + at)) as [
        number,
        number,
        number,
      ];
      expect(offset % 4).toBe(0);
      let sum = 0;
      for (let at = offset; at < offset + length; at += 4)
        sum = (sum + font.readUInt32BE(at)) >>> 0;
      // The head's own sum counts one of its fields as nothing.
      if (tag === 'head') sum = (sum - font.readUInt32BE(offset + 8)) >>> 0;
      expect([tag, sum]).toEqual([tag, checksum]);
    }
  });

  it('is refused where it is none, or breaks off', () => {
    const packed = readFileSync(fontFiles.mono!);
    expect(() => sfntOf(Buffer.from('no font at all'))).toThrow('no WOFF file');
    expect(() => sfntOf(Buffer.concat([Buffer.from('wOF2'), packed.subarray(4)]))).toThrow(
      'no WOFF file',
    );
    expect(() => sfntOf(packed.subarray(0, packed.length >> 1))).toThrow();
  });
});
