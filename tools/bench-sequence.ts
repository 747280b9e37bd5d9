import { enterPattern, events, instrumentSchema, type Pattern, patternSchema } from '@hurrel/core';
import document from '../library/instruments/marram-shoal.json' with { type: 'json' };

const shoal = instrumentSchema.parse(document);
const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const timed = (count: number, work: () => void): number[] =>
  Array.from({ length: count }, () => {
    const since = performance.now();
    work();
    return performance.now() - since;
  });

/** So many tracks of 64 steps with everything in them. */
export function fullPattern(tracks: number, sequencer?: string): Pattern {
  const names = shoal.sequencers[0]!.tracks;
  return patternSchema.parse({
    id: 'bench',
    name: 'Bench',
    bars: 4,
    ...(sequencer ? { sequencer } : {}),
    tracks: Array.from({ length: tracks }, (_, t) => ({
      id: `t${t}`,
      name: `track ${t + 1}`,
      ...(sequencer ? { on: names[t]!.id } : {}),
      length: 64,
      direction: t % 3 === 0 ? 'there-and-back' : 'forward',
      swing: 50 + t,
      steps: Array.from({ length: 64 }, (_, i) =>
        (i + t) % 3 === 0
          ? {}
          : {
              notes: [sequencer ? names[t]!.from : 36 + 2 * t],
              velocity: 40 + ((7 * i) % 80),
              ...(i % 4 === 1 ? { condition: ['fill', '40%', '2/3', 'previous'][t % 4] } : {}),
              ...(i % 5 === 2 ? { ownValues: { 'kick-decay': (i % 10) / 10 } } : {}),
              ...(i % 7 === 3 ? { micro: 0.12 } : {}),
            },
      ),
    })),
  });
}

/** Milliseconds for all events of ten minutes of 16 tracks at 126 bpm. */
export function eventsTime(): number {
  const pattern = fullPattern(16);
  return median(timed(7, () => events([pattern], { beats: 1260, tempo: 126, seed: 3 })).slice(2));
}

/** Milliseconds for the script of a pattern of 64 steps on all tracks of a box. */
export function scriptTime(): number {
  const pattern = fullPattern(5, 'tracks');
  const entry = enterPattern(shoal, pattern);
  if (!entry.ok) throw new Error(entry.reasons[0]);
  return median(timed(15, () => enterPattern(shoal, pattern)).slice(5));
}
