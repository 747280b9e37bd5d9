import { decodeWav, fedSoundOf, type Patch, type WithFed } from '@hurrel/core';
import { demoSounds } from '../demo/library';
import { sumOf } from '../store/by-checksum';

const sounds = new Map(demoSounds().map((bytes) => [sumOf(bytes), bytes]));

/** A patch of the demo library with the samples of what it is fed with. */
export function withDemoSound(patch: Patch): Patch & WithFed {
  if (!patch.feed) return patch;
  const { channels, sampleRate } = decodeWav(sounds.get(patch.feed.sound)!);
  return { ...patch, fed: fedSoundOf(channels, sampleRate)! };
}
