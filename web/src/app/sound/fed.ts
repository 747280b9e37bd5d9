import { decodeWav, type FedSound, fedSoundOf, type Patch, type WithFed } from '@hurrel/core';

/** Samples by the checksum of their file, as far as they were asked for; what could not be read is asked for again. */
const asked = new Map<string, Promise<FedSound>>();
const here = new Map<string, FedSound>();
/** When one could not be had, in ms. */
const missed = new Map<string, number>();
/** Ms until one that could not be had is asked for again while controls are turned. */
const AGAIN_MS = 5000;

async function read(sound: string, name: string): Promise<FedSound> {
  const response = await fetch(`/api/v1/sounds/${sound}`).catch(() => undefined);
  if (response?.ok) {
    const { channels, sampleRate } = decodeWav(new Uint8Array(await response.arrayBuffer()));
    const found = fedSoundOf(channels, sampleRate);
    if (found) return found;
  }
  throw new Error(
    response?.status === 404
      ? `"${name}", which it is fed with, is not here: choose its WAV file again in its details.`
      : `"${name}", which it is fed with, could not be read.`,
  );
}

/** A patch with the samples of what it is fed with. Rejects when they cannot be had. */
export async function withFed<P extends Patch>(patch: P): Promise<P & WithFed> {
  const { feed } = patch;
  if (!feed) return patch;
  const reading = asked.get(feed.sound) ?? read(feed.sound, feed.name);
  asked.set(feed.sound, reading);
  try {
    const fed = await reading;
    here.set(feed.sound, fed);
    return { ...patch, fed };
  } catch (error) {
    asked.delete(feed.sound);
    missed.set(feed.sound, Date.now());
    throw error;
  }
}

/** The same at once, as far as the samples are here; where they are not, `then` is called when they have come. */
export function withFedNow<P extends Patch>(patch: P, then: () => void): P & WithFed {
  const fed = patch.feed && here.get(patch.feed.sound);
  if (fed) return { ...patch, fed };
  // What it is fed with is told to be missing where one chooses it; until then it is heard without.
  const last = patch.feed && missed.get(patch.feed.sound);
  const waits = last !== undefined && Date.now() - last < AGAIN_MS;
  if (patch.feed && !waits) withFed(patch).then(then, () => undefined);
  return patch;
}

/** Something with a patch in it, likewise. */
export const subjectWithFed = async <S extends { patch: Patch }>(subject: S): Promise<S> => ({
  ...subject,
  patch: await withFed(subject.patch),
});
