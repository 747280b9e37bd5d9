/** Minutes without a version after which what comes next is another sitting. */
const REST_MINUTES = 10;

/** What was done between two rests: versions, newest first. */
export interface Sitting<V> {
  versions: [V, ...V[]];
  newest: V;
  oldest: V;
}

/**
 * Versions of a document by the sittings in which they were made.
 * @param versions newest first
 * @param timeOf when one was made, in ms of any clock
 */
export function sittingsOf<V>(
  versions: readonly V[],
  timeOf: (version: V) => number,
  rest = REST_MINUTES,
): Sitting<V>[] {
  const sittings: Sitting<V>[] = [];
  for (const version of versions) {
    const last = sittings.at(-1);
    if (last && timeOf(last.oldest) - timeOf(version) < rest * 60_000) {
      last.versions.push(version);
      last.oldest = version;
    } else sittings.push({ versions: [version], newest: version, oldest: version });
  }
  return sittings;
}
