import { isFlat, pitchClassName } from './note';

/** A chord named from its notes. */
export interface ChordName {
  /** As `C minor 7`, `A♭ major over C`: flats where the chord's key has them. */
  name: string;
  /** Pitch class of the root, 0 for C. */
  root: number;
  /** Kind, as in `kinds`. */
  kind: string;
  /** Which note of the chord is the lowest: 0 for the root. */
  inversion: number;
  /** Whether the notes are exactly this chord, or this is only the nearest. */
  exact: boolean;
}

/** Kinds of chord by the semitones above the root, within an octave and, for what is extended, above it. */
const kinds: readonly (readonly [string, readonly number[]])[] = [
  ['major', [0, 4, 7]],
  ['minor', [0, 3, 7]],
  ['diminished', [0, 3, 6]],
  ['augmented', [0, 4, 8]],
  ['sus2', [0, 2, 7]],
  ['sus4', [0, 5, 7]],
  ['fifth', [0, 7]],
  ['major 7', [0, 4, 7, 11]],
  ['7', [0, 4, 7, 10]],
  ['minor 7', [0, 3, 7, 10]],
  ['minor major 7', [0, 3, 7, 11]],
  ['half-diminished 7', [0, 3, 6, 10]],
  ['diminished 7', [0, 3, 6, 9]],
  ['augmented 7', [0, 4, 8, 10]],
  ['7 sus4', [0, 5, 7, 10]],
  ['6', [0, 4, 7, 9]],
  ['minor 6', [0, 3, 7, 9]],
  ['add9', [0, 4, 7, 14]],
  ['minor add9', [0, 3, 7, 14]],
  ['six-nine', [0, 4, 7, 9, 14]],
  ['9', [0, 4, 7, 10, 14]],
  ['major 9', [0, 4, 7, 11, 14]],
  ['minor 9', [0, 3, 7, 10, 14]],
  ['7 flat 9', [0, 4, 7, 10, 13]],
  ['7 sharp 9', [0, 4, 7, 10, 15]],
  ['11', [0, 4, 7, 10, 14, 17]],
  ['minor 11', [0, 3, 7, 10, 14, 17]],
  ['major 9 sharp 11', [0, 4, 7, 11, 14, 18]],
  ['13', [0, 4, 7, 10, 14, 21]],
  ['minor 13', [0, 3, 7, 10, 14, 21]],
  ['major 13', [0, 4, 7, 11, 14, 21]],
];

/** Names of kinds that a chord may be asked for by. */
export const chordKinds = kinds.map(([name]) => name);

/** Semitones of a kind of chord above its root; undefined for a kind that is not known. */
export const chordKind = (kind: string): readonly number[] | undefined =>
  kinds.find(([name]) => name === kind)?.[1];

const classOf = (n: number): number => ((n % 12) + 12) % 12;

/**
 * Names a chord from its notes, reduced to one octave. A root in the bass is preferred, then fewer notes.
 * @param notes MIDI numbers, any order, doubled ones count once
 * @returns the nearest kind with `exact` false for a set that has no name; undefined for fewer than two pitch classes
 */
export function nameChord(notes: readonly number[]): ChordName | undefined {
  const classes = [...new Set(notes.map(classOf))];
  if (classes.length < 2) return undefined;
  const bass = classOf(Math.min(...notes));
  let best: { cost: number; root: number; kind: string; tones: readonly number[] } | undefined;
  for (let root = 0; root < 12; root++) {
    for (const [i, [kind, tones]] of kinds.entries()) {
      const wanted = new Set(tones.map((t) => classOf(root + t)));
      const missing = [...wanted].filter((c) => !classes.includes(c)).length;
      const strange = classes.filter((c) => !wanted.has(c)).length;
      const cost = 1000 * (missing + strange) + (root === bass ? 0 : 100) + i;
      if (!best || cost < best.cost) best = { cost, root, kind, tones };
    }
  }
  const { cost, root, kind, tones } = best!;
  const inversion = tones.findIndex((t) => classOf(root + t) === bass);
  const flat = isFlat(root, tones.includes(3));
  const over = inversion > 0 ? ` over ${pitchClassName(bass, flat)}` : '';
  return {
    name: `${pitchClassName(root, flat)} ${kind}${over}`,
    root,
    kind,
    inversion: Math.max(0, inversion),
    exact: cost < 1000,
  };
}

/**
 * The notes of a chord by its kind, lowest first, each of the lowest `inversion` notes an octave higher.
 * @param root MIDI number
 */
export function spellChord(root: number, kind: string, inversion = 0): number[] | undefined {
  const tones = chordKind(kind);
  return tones?.map((t, i) => root + t + (i < inversion ? 12 : 0)).sort((a, b) => a - b);
}

const WRITTEN: Record<string, string> = {
  '': 'major',
  maj: 'major',
  m: 'minor',
  min: 'minor',
  dim: 'diminished',
  aug: 'augmented',
  m7: 'minor 7',
  maj7: 'major 7',
  m9: 'minor 9',
  maj9: 'major 9',
  m6: 'minor 6',
  m7b5: 'half-diminished 7',
  dim7: 'diminished 7',
  '6/9': 'six-nine',
  '5': 'fifth',
};

/** Reads a chord as one writes it: `Am7`, `C# minor 7`, `G/B`, `F six-nine`. @returns MIDI numbers from octave 3 on */
export function readChord(text: string): number[] | undefined {
  const parts = /^\s*([A-Ga-g])([#b♯♭]?)\s*(.*?)\s*(?:(?:\/|over\s+)([A-Ga-g])([#b♯♭]?))?\s*$/.exec(
    text,
  );
  if (!parts) return undefined;
  const [, letter = '', sign = '', given = '', bassLetter, bassSign = ''] = parts;
  const root = 48 + pitchClass(letter, sign);
  const kind = WRITTEN[given] ?? given.toLowerCase();
  const tones = chordKind(kind);
  if (!tones) return undefined;
  if (bassLetter === undefined) return tones.map((t) => root + t);
  const bass = pitchClass(bassLetter, bassSign);
  const at = tones.findIndex((t) => classOf(root + t) === bass);
  if (at < 0) return [36 + bass, ...tones.map((t) => root + t)];
  return spellChord(root, kind, at);
}

const pitchClass = (letter: string, sign: string): number =>
  classOf(
    [9, 11, 0, 2, 4, 5, 7]['abcdefg'.indexOf(letter.toLowerCase())]! +
      (sign === '#' || sign === '♯' ? 1 : sign === 'b' || sign === '♭' ? -1 : 0),
  );
