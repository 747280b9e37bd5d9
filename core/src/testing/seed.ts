import fc from 'fast-check';
import { runs } from './runs';

/**
 * Every property test of a run begins from one seed, which the run prints: a failure can be repeated by naming it. Where a
 * test does not say how often it tries, it is a hundred times, and more in the long run.
 */
const seed = Number(process.env['HURREL_SEED'] ?? Number.NaN);
fc.configureGlobal({ numRuns: runs(100), ...(Number.isInteger(seed) ? { seed } : {}) });
