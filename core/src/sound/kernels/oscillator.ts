import { C4_HZ } from '../../theory/pitch';
import { addCorner, addStep, REACH } from '../band-limit';
import type { Kernel, KernelContext } from '../kernel';
import { numberOf } from '../kernel';

/** Peak of every waveform in V. */
const PEAK = 5;
/** Highest frequency as a share of the sample rate. */
const TOP = 0.49;
/** What the sync line carries while nothing starts anew; else how many samples ago, 0..1, it did. */
export const NO_SYNC = -1;

/**
 * Oscillator with band-limited edges and corners; late by REACH samples, all waveforms alike. Width is where the pulse
 * falls, as a share of its cycle. Hard sync starts the cycle anew at the fraction of a sample at which the master did.
 */
export function oscillator(context: KernelContext): Kernel {
  const wave = String(context.params.wave);
  const pitch = context.input('pitch');
  const mod = context.input('mod');
  const widthIn = context.input('width');
  const syncIn = context.input('sync');
  const out = context.output('out');
  const syncOut = context.output('sync');
  const synced = context.params.sync === 'on' && context.connected('sync');
  const semitones =
    numberOf(context, 'octave') + numberOf(context, 'interval') + numberOf(context, 'fine') / 100;
  const base = (C4_HZ * 2 ** (semitones / 12)) / context.sampleRate;
  const width = numberOf(context, 'width') / 100;
  const ring = new Float64Array(64);
  const saw = wave === 'saw';
  const pulse = wave === 'pulse';
  const triangle = wave === 'triangle';
  const noise = wave === 'noise';
  let now = 0;
  let phase = 0;
  let high = true;
  let lastVolts = NaN;
  let inc = 0;
  let duty = width;
  let lastDuty = width;

  const shape = (p: number): number => {
    if (saw) return 2 * p - 1;
    if (pulse) return high ? 1 : -1;
    if (triangle) return p < 0.5 ? 4 * p - 1 : 3 - 4 * p;
    return Math.sin(2 * Math.PI * p);
  };
  const slope = (p: number): number => {
    if (saw) return 2;
    if (pulse) return 0;
    if (triangle) return p < 0.5 ? 4 : -4;
    return 2 * Math.PI * Math.cos(2 * Math.PI * p);
  };

  /** Moves the cycle on by `delta` of it, ending `endAgo` samples ago; marks edges and corners on the way. */
  function advance(delta: number, endAgo: number): number {
    let to = phase + delta;
    let wrapped = -1;
    if (triangle && phase < 0.5 && to >= 0.5) {
      addCorner(ring, now, endAgo + (to - 0.5) / inc, -8 * inc);
    }
    if (pulse && high && to >= duty && duty < 1) {
      // Where the moving edge of the width is met; at once when it has come back behind the cycle.
      const closing = inc - (duty - lastDuty);
      const ago = closing > 0 ? Math.min(delta / inc, Math.max(0, (to - duty) / closing)) : 0;
      addStep(ring, now, Math.min(1, endAgo + ago), -2);
      high = false;
    }
    if (to >= 1) {
      to -= 1;
      wrapped = Math.min(1, endAgo + to / inc);
      if (saw) addStep(ring, now, wrapped, -2);
      else if (triangle) {
        addCorner(ring, now, wrapped, 8 * inc);
        if (to >= 0.5) addCorner(ring, now, endAgo + (to - 0.5) / inc, -8 * inc);
      } else if (pulse && duty > 0) {
        if (!high) addStep(ring, now, wrapped, 2);
        high = true;
        if (to >= duty) {
          addStep(ring, now, Math.min(1, endAgo + (to - duty) / inc), -2);
          high = false;
        }
      }
    }
    phase = to;
    return wrapped;
  }

  /** Starts the cycle anew, `ago` samples before now. */
  function restart(ago: number): void {
    const valueBefore = shape(phase);
    const slopeBefore = slope(phase);
    phase = 0;
    high = duty > 0;
    if (noise) return;
    addStep(ring, now, ago, shape(0) - valueBefore);
    const bend = (slope(0) - slopeBefore) * inc;
    if (bend !== 0) addCorner(ring, now, ago, bend);
  }

  return {
    process(n) {
      for (let i = 0; i < n; i++, now++) {
        const volts = pitch[i]! + mod[i]!;
        if (volts !== lastVolts) {
          lastVolts = volts;
          inc = Math.min(TOP, base * Math.exp(Math.LN2 * volts));
        }
        lastDuty = duty;
        duty = Math.min(1, Math.max(0, width + 0.1 * widthIn[i]!));
        let wrapped: number;
        const sync = synced ? syncIn[i]! : NO_SYNC;
        if (sync >= 0) {
          advance(inc * (1 - sync), sync);
          restart(sync);
          if (inc * sync > 0) advance(inc * sync, 0);
          wrapped = sync;
        } else {
          wrapped = advance(inc, 0);
        }
        syncOut[i] = wrapped;
        ring[now & 63]! += noise ? 2 * context.random() - 1 : shape(phase);
        const ready = (now - REACH) & 63;
        out[i] = PEAK * ring[ready]!;
        ring[ready] = 0;
      }
    },
  };
}
