/** Advances of the interface's letters (Atkinson Hyperlegible Next, 400) in hundredths of their size. */
const ADVANCES: Record<string, string> = {
  '16': "'",
  '21': '.,:;',
  '25': 'ij',
  '26': 'l',
  '28': ' ',
  '30': '()',
  '31': 'f',
  '33': 't',
  '35': 'r',
  '36': '-',
  '39': 'I/',
  '41': '1',
  '45': 'y',
  '46': 'vz',
  '47': 's',
  '48': 'x',
  '49': 'ck',
  '51': '7J',
  '53': 'a×',
  '54': 'euL',
  '55': 'hno2F',
  '56': 'dgT',
  '57': 'bpqE',
  '58': '3Y',
  '59': '5PSV',
  '60': '69',
  '61': '4BR+Z',
  '62': '8X',
  '63': 'AK',
  '65': '0C#',
  '67': 'D',
  '68': 'w',
  '69': 'GHNU',
  '71': 'O',
  '72': 'Q',
  '73': '&',
  '82': 'M',
  '85': 'm',
  '86': 'W',
  '92': '%',
};
const BY_LETTER = new Map(
  Object.entries(ADVANCES).flatMap(([hundredths, letters]) =>
    [...letters].map((letter) => [letter, Number(hundredths) / 100] as const),
  ),
);
/** Of a letter that is not among them: as wide as the widest that are common. */
const OTHER = 0.7;

/** Width of words in the interface's letters, over their size. */
export const wordWidth = (words: string): number =>
  [...words].reduce((sum, letter) => sum + (BY_LETTER.get(letter) ?? OTHER), 0);

/** Of bold letters over that of plain ones. */
const BOLD = 1.08;
/** The same in bold letters. */
export const boldWidth = (words: string): number => BOLD * wordWidth(words);

/** Size of letters, in tenths of a unit: as large as the largest and all that there is room for, and never below the smallest. */
export const lettersIn = (smallest: number, largest: number, ...sizes: number[]): number =>
  Math.max(smallest, Math.floor(10 * Math.min(largest, ...sizes)) / 10);
