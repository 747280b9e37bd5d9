import type { Graph } from '../circuit/graph';
import type { OwnSwitches, OwnChanges } from '../circuit/own-values';
import type { ParamChange } from '../circuit/param-changes';
import type { Pattern } from '../pattern/pattern';
import type { TimedNote } from '../pattern/timed';
import type { Act } from './key-feed';
import type { PartSource } from './part';

/** Which of two sounds: they run side by side, and one of them is heard. */
export type LiveSide = 'a' | 'b';

/** What live sound is told. */
export type LiveMessage =
  /** Another circuit: an edited one, which goes on from what the last one did; or one of its own, when it is `fresh`. */
  | { type: 'graph'; side: LiveSide; graph: Graph; tempo: number; fresh?: boolean }
  | { type: 'turn'; side: LiveSide; turns: ParamChange[] }
  | { type: 'tempo'; side: LiveSide; tempo: number }
  | {
      type: 'recording';
      side: LiveSide;
      left: Float32Array;
      right: Float32Array;
      sampleRate: number;
    }
  | { type: 'clear'; side: LiveSide }
  | { type: 'hear'; side: LiveSide | 'both' }
  | { type: 'gain'; side: LiveSide; gain: number }
  | { type: 'act'; act: Act; note: number; value: number }
  | { type: 'volume'; volume: number }
  /** A phrase from its beginning; again after `every` seconds when that is given. */
  | { type: 'play'; notes: TimedNote[]; every?: number }
  /** Patterns, from the beginning; or, when they run already, edited where they are. */
  | {
      type: 'run';
      patterns: Pattern[];
      turns: OwnChanges;
      switches?: OwnSwitches | null;
      tempo: number;
      seed?: number;
    }
  /** Another of the patterns from the next bar on. */
  | { type: 'queue'; pattern: number }
  | { type: 'fill'; held: boolean }
  | { type: 'mute'; track: number; muted: boolean }
  /** Semitones that the patterns are moved by; `held`: the keys that are down go along at once. */
  | { type: 'move'; semitones: number; held?: boolean }
  /** What keys that are pressed do to the patterns. */
  | { type: 'keys'; do: KeysDo }
  /**
   * Other instruments that play their own patterns along, by name. Who is new begins with the run, or at its next bar;
   * who is not named leaves; the others get the level they are given.
   */
  | { type: 'band'; parts: Record<string, PartSource> }
  /** Ends the run; controls that steps have moved go back. */
  | { type: 'run-stop'; returned: ParamChange[] }
  | { type: 'stop' }
  | { type: 'all-off' }
  /** Fades everything to nought, forgets what rings, and stays mute until a key is pressed or something is played. */
  | { type: 'hush' }
  /**
   * What is told here happens at the next bar of what runs or goes round; at once when nothing does, or when the change of
   * this number has been made already. A change of another number takes the place of the one that waits.
   */
  | { type: 'at-bar'; change: number; messages: LiveMessage[] }
  /** What waits for the bar happens now. */
  | { type: 'now' };

/**
 * What keys that are pressed do while patterns run: they sound as well, they interrupt the patterns, or they are the chord
 * that the arpeggios run through.
 */
export type KeysDo = 'sound' | 'interrupt' | 'arpeggio';

/** What it tells of the last stretch: highest level before the limiter, 0..1, and how much the limiter took away. */
export interface LiveMeter {
  peak: number;
  taken: number;
  /** Keys that sound. */
  held: number;
  /** A phrase is being played. */
  playing: boolean;
  /** Quarter notes that patterns have run; below 0 while none do. */
  beat: number;
  /** Number of the pattern that runs. */
  pattern: number;
  /** Number of the last change that was to be made at a bar and has been made. */
  changed: number;
}

/** What is told while nothing sounds. */
export const silentMeter = (): LiveMeter => ({
  peak: 0,
  taken: 0,
  held: 0,
  playing: false,
  beat: -1,
  pattern: 0,
  changed: 0,
});
