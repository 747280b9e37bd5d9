import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { sfntOf } from './sfnt';

const require = createRequire(import.meta.url);
const file = (family: string, style: string): string =>
  require.resolve(`@fontsource/${family}/files/${family}-latin-${style}.woff`);

/** Font files of the sheet, by the names its pens use. */
export const fontFiles: Record<string, string> = {
  text: file('atkinson-hyperlegible-next', '400-normal'),
  bold: file('atkinson-hyperlegible-next', '700-normal'),
  italic: file('atkinson-hyperlegible-next', '400-italic'),
  mono: file('atkinson-hyperlegible-mono', '400-normal'),
  'mono-bold': file('atkinson-hyperlegible-mono', '700-normal'),
};

let unpacked: [string, Buffer][] | undefined;

/** The fonts themselves, by the same names: read and unpacked once. */
export const sheetFonts = (): [string, Buffer][] =>
  (unpacked ??= Object.entries(fontFiles).map(([name, path]) => [
    name,
    sfntOf(readFileSync(path)),
  ]));
