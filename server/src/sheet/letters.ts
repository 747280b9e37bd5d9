import anyAscii from 'any-ascii';

/** What is asked of a font: whether it has a letter. */
export interface Letters {
  hasGlyphForCodePoint(code: number): boolean;
}

/**
 * A text in letters that a font has: all others are told by how they sound, as Latin letters, and pictures by their names. A
 * name that was given in another script is read on paper so, and not as empty boxes.
 */
export const inLettersOf = (font: Letters, text: string): string =>
  Array.from(text, (letter) =>
    letter <= '~' || font.hasGlyphForCodePoint(letter.codePointAt(0)!) ? letter : anyAscii(letter),
  ).join('');
