import { levelPath } from './level';

/** An envelope as it is heard; times in seconds. */
export interface HeardEnvelope {
  /** From a tenth to nine tenths of the highest level. */
  attack: number;
  /** From the highest level until it has come down to a tenth of the way to where it stays; 0 when it stays. */
  decay: number;
  /** Level just before the key is let go, in dB against the highest. */
  sustain: number;
  /** From letting go until it is 40 dB down; to the end of the sound when it never is. */
  release: number;
  /** It was never 40 dB down: the release is longer than that. */
  outlasts: boolean;
}

const WINDOW = 0.004;
const HOP = 0.001;

/**
 * Reads an envelope off a sound. The finest time that it can tell is its window, 4 ms, or two periods of a low tone.
 * @param released second at which the key was let go
 * @param hz fundamental, when it is known: the window then spans two of its periods
 */
export function heardEnvelope(
  samples: ArrayLike<number>,
  sampleRate: number,
  released: number,
  hz?: number,
): HeardEnvelope {
  const window = Math.max(WINDOW, hz ? 2 / hz : 0);
  const path = levelPath(samples, sampleRate, window, HOP).map((p) => ({
    time: p.time,
    level: 10 ** (p.value / 20),
  }));
  const held = path.filter((p) => p.time <= released - window / 2);
  if (held.length === 0) {
    return { attack: 0, decay: 0, sustain: -120, release: 0, outlasts: false };
  }
  const top = held.reduce((a, b) => (b.level > a.level * 1.0005 ? b : a));
  const first = (share: number): number =>
    held.find((p) => p.level >= share * top.level)?.time ?? top.time;
  const stays = held.at(-1)!.level;
  const knee = stays + 0.1 * (top.level - stays);
  const down = held.find((p) => p.time > top.time && p.level <= knee);
  const gone = path.find((p) => p.time > released && p.level <= 0.01 * stays);
  return {
    attack: first(0.9) - first(0.1),
    decay: stays > 0.97 * top.level || !down ? 0 : down.time - top.time,
    sustain: 20 * Math.log10(Math.max(1e-6, stays / top.level)),
    release: (gone?.time ?? path.at(-1)!.time) - released,
    outlasts: gone === undefined && stays > 1e-6,
  };
}
