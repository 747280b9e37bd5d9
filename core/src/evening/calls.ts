import * as z from 'zod';

/** What an evening calls its people for, in this order. */
const callKinds = ['loadIn', 'soundCheck', 'doors', 'begins'] as const;
export type CallKind = (typeof callKinds)[number];
const timeOfDay = z
  .string()
  .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'expected hours and minutes, as 20:30');
export const callsSchema = z.strictObject({
  loadIn: timeOfDay.optional(),
  soundCheck: timeOfDay.optional(),
  doors: timeOfDay.optional(),
  /** When the first song begins. */
  begins: timeOfDay.optional(),
});
/** Times of day; what is after midnight is of the next day. */
export type Calls = z.infer<typeof callsSchema>;

export const callNames: Readonly<Record<CallKind, string>> = {
  loadIn: 'load in',
  soundCheck: 'sound check',
  doors: 'doors',
  begins: 'first song',
};
const DAY = 24 * 60;

const minutesOf = (time: string): number => {
  const [hours, minutes] = time.split(':').map(Number);
  return 60 * hours! + minutes!;
};
const timeOf = (minutes: number): string => {
  const [hours, rest] = [Math.floor(minutes / 60) % 24, Math.floor(minutes % 60)];
  return `${String(hours).padStart(2, '0')}:${String(rest).padStart(2, '0')}`;
};
/** Minutes from one time of day to the next time that it is another. */
const until = (from: string, to: string): number => (minutesOf(to) - minutesOf(from) + DAY) % DAY;

/** The times that are known, in the order in which they have to come. */
export const callsInOrder = (calls: Calls): { kind: CallKind; at: string }[] =>
  callKinds.flatMap((kind) => {
    const at = calls[kind];
    return at === undefined ? [] : [{ kind, at }];
  });

/**
 * Times that go round in a circle: all of an evening's lie within one day, midnight or not.
 */
export function callFaults(calls: Calls): { kind: CallKind; message: string }[] {
  const known = callsInOrder(calls);
  let passed = 0;
  return known.flatMap(({ kind, at }, i) => {
    const last = known[i - 1];
    if (!last) return [];
    passed += until(last.at, at);
    if (passed < DAY) return [];
    passed -= DAY;
    return [
      {
        kind,
        message: `${capital(callNames[kind])} at ${at} is before ${callNames[last.kind]} at ${last.at}.`,
      },
    ];
  });
}
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Seconds between sound check and doors; undefined where one of them is not known. */
export const beforeDoors = ({ soundCheck, doors }: Calls): number | undefined =>
  soundCheck === undefined || doors === undefined ? undefined : 60 * until(soundCheck, doors);

/**
 * When each song begins, as a time of day, when the breaks are as long as they are said to be: from the first song on as far as
 * songs have lengths. What is in reserve is not counted.
 */
export function songTimes({
  calls,
  songs,
}: {
  calls: Calls;
  songs: readonly { id: string; kind: string; seconds: number; pause: number }[];
}): Map<string, string> {
  const times = new Map<string, string>();
  if (calls.begins === undefined) return times;
  let seconds = 60 * minutesOf(calls.begins);
  let last: { seconds: number } | undefined;
  for (const song of songs) {
    if (song.kind === 'reserve') continue;
    if (last?.seconds === 0) break;
    if (last) seconds += last.seconds + song.pause;
    times.set(song.id, timeOf(seconds / 60));
    last = song;
  }
  return times;
}
