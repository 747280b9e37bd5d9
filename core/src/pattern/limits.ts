/** Steps a track may have, and tracks a pattern may have. */
export const MOST_STEPS = 64;
export const MOST_TRACKS = 16;
