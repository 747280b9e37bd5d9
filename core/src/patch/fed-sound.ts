import type { FedSound } from './feed';

/** Longest recording that is fed in, in seconds. */
export const FEED_SECONDS = 60;

/** Two sides of a recording of one or two channels. */
export const fedSoundOf = (
  channels: readonly Float32Array[],
  sampleRate: number,
): FedSound | undefined => {
  const [left, right = left] = channels;
  return left && right ? { left, right, sampleRate } : undefined;
};
