import PDFDocument from 'pdfkit';
import { sheetFonts } from './fonts';
import { inLettersOf, type Letters } from './letters';

/** A font of the sheet, as its pens see it. */
function fontNamed(name: string): Letters {
  const doc = new PDFDocument();
  for (const [known, font] of sheetFonts()) doc.registerFont(known, font);
  doc.font(name);
  return (doc as unknown as { _font: { font: Letters } })._font.font;
}

describe.each(['text', 'bold', 'italic', 'mono', 'mono-bold'])('the font %s', (name) => {
  const font = fontNamed(name);
  it('prints what it has as it is', () => {
    for (const text of ['Winch Room bass, 12:30 (±3 %)', 'Grüße, Señor à côté', '“a” – b … ×2'])
      expect(inLettersOf(font, text)).toBe(text);
  });

  it.each(['شتاء', 'חורף', 'зима', 'χειμώνας', '冬の低音', '🎹 low 🌊', 'Łódź', 'e\u0301'])(
    'says %s in letters that print',
    (text) => {
      const said = inLettersOf(font, text);
      expect(said.trim()).not.toBe('');
      for (const letter of said)
        expect(letter <= '~' || font.hasGlyphForCodePoint(letter.codePointAt(0)!)).toBe(true);
    },
  );
});

it('names stay told apart', () => {
  const font = fontNamed('bold');
  expect(inLettersOf(font, 'شتاء bass')).toBe("sht' bass");
  expect(inLettersOf(font, '🎹 low')).toMatch(/^:\w+: low$/);
});
