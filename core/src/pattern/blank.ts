import type { Arpeggio } from './arpeggio';
import type { Pattern, Track } from './pattern';

/** What an arpeggiator does before anything is set. */
export const PLAIN_ARPEGGIO: Omit<Arpeggio, 'chords'> = Object.freeze({
  mode: 'up',
  octaves: 1,
  length: 0.75,
});

/** A track as it is before anything is said of it: what a file may leave out, in full. */
export const blankTrack = (id: string, name: string): Track => ({
  ...{ id, name, length: 16, rate: '1/16', direction: 'forward' },
  ...{ swing: 50, offset: 0, muted: false, ownFor: 'note', steps: [], rows: {} },
});

/** A pattern of some tracks, as it is before anything else is said of it. */
export const blankPattern = (id: string, name: string, tracks: Track[]): Pattern => ({
  ...{ id, name, bars: 1, transpose: 0, tracks, about: '' },
});
