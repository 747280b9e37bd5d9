import { Random } from '../sound/random';

/** Numbers 0..1, the same for the same seed. */
export const seededRandom = (seed: number): (() => number) => {
  const random = new Random(seed);
  return () => random.next();
};
