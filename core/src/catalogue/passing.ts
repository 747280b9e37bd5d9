import { hull, ZERO } from './interval';
import type { Bounds } from './situation';

/** What comes in comes out. */
export const asItComes: Bounds = ({ input }) => ({ out: input('in') });

/** Goes no further than what comes in has ever been. */
export const asItCame: Bounds = ({ input }) => ({ out: hull(ZERO, input('in')) });
