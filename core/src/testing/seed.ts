import fc from 'fast-check';

/** Every property test of a run begins from one seed, which the run prints: a failure can be repeated by naming it. */
const seed = Number(process.env['HURREL_SEED'] ?? Number.NaN);
if (Number.isInteger(seed)) fc.configureGlobal({ seed });
