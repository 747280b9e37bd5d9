/** Places of a travel in words, as shares of it. */
const PLACES: readonly [RegExp, number][] = [
  [
    /^(min|minimum|lowest|bottom|(all the way|fully|right) (down|left)|fully (off|closed|counter-?clockwise))$/,
    0,
  ],
  [
    /^(max|maximum|full|highest|top|wide open|(all the way|fully|right) (up|right)|fully (on|open|clockwise))$/,
    1,
  ],
  [/^(noon|middle|centre|center|half|half ?way( up)?|in the middle|straight up)$/, 0.5],
  [/^(a |one )?quarter( of the way)?( up)?$/, 0.25],
  [/^three[ -]quarters( of the way)?( up)?$/, 0.75],
  [/^(a |one )third( of the way)?( up)?$/, 1 / 3],
  [/^two[ -]thirds( of the way)?( up)?$/, 2 / 3],
];

/** Share of the travel that a word or two stand for; undefined when they stand for none. */
export const readPlaceWords = (text: string): number | undefined =>
  PLACES.find(([words]) => words.test(text.toLowerCase()))?.[1];

/** How far from a place a reading is meant, in what the panel can be read to: from, to, and the best guess. */
export interface Nearness {
  /** What the words stand before. */
  rest: string;
  from: number;
  to: number;
  best: number;
}

const NEAR: readonly [RegExp, Omit<Nearness, 'rest'>][] = [
  [
    /^(about|around|roughly|approximately|circa|ca\.?|near(ly)?|some) /,
    { from: -2, to: 2, best: 0 },
  ],
  [
    /^(a (little )?bit|just|slightly|a little|a touch|a hair) (over|above|past|more than|up from) /,
    { from: 0, to: 4, best: 2 },
  ],
  [
    /^(a (little )?bit|just|slightly|a little|a touch|a hair) (under|below|before|less than|short of|down from) /,
    { from: -4, to: 0, best: -2 },
  ],
  [/^almost /, { from: -4, to: 0, best: -2 }],
];

/** `about 4`, `a bit over 3`, `just under half`: how far from what follows, in tolerances of the reading. */
export function readNearness(text: string): Nearness | undefined {
  for (const [words, near] of NEAR) {
    const found = words.exec(text.toLowerCase());
    if (found) return { rest: text.slice(found[0].length).trim(), ...near };
  }
  return undefined;
}

const COUNTS: Readonly<Record<string, number>> = {
  a: 1,
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  another: 1,
};

/** `one notch up`, `two steps down`, `3 clicks higher`: signed steps from where it stands; undefined when it is none. */
export function readNotches(text: string): number | undefined {
  const found =
    /^(\d{1,2}|[a-z]+) (?:notch|step|click|position)(?:e?s)? (up|down|higher|lower|right|left|on|back)$/.exec(
      text.toLowerCase(),
    );
  if (!found) return undefined;
  const count = COUNTS[found[1]!] ?? Number(found[1]);
  if (!Number.isFinite(count)) return undefined;
  return /^(up|higher|right|on)$/.test(found[2]!) ? count : -count;
}
