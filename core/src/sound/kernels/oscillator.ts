import { kernelOf } from '../kernel';
import { runPulse, runSawOrSine, runTriangle } from './oscillator/free';
import { At, fillRing, makeOscillator } from './oscillator/parts';
import { isSteadySaw, runSteadySaw } from './oscillator/steady-saw';
import { runSynced } from './oscillator/synced';

export { TOP } from './oscillator/parts';

/**
 * Oscillator with band-limited edges and corners; late by REACH samples, all waveforms alike. Pitch and width move in
 * straight lines and curves between samples, so that edges stay where they belong under modulation at audio rate. Hard
 * sync starts the cycle anew at the fraction of a sample at which the master did.
 */
export const oscillator = kernelOf(makeOscillator, (parts, from, to) => {
  if (from === 0) parts.tuning.update(64);
  if (isSteadySaw(parts, from, to)) return runSteadySaw(parts, from, to);
  const { S } = parts;
  if (S[At.straight]! > 0) fillRing(parts);
  S[At.volts] = NaN;
  if (parts.synced || parts.noise) runSynced(parts, from, to);
  else if (parts.pulse) runPulse(parts, from, to);
  else if (parts.triangle) runTriangle(parts, from, to);
  else runSawOrSine(parts, from, to);
});
