import { BLOCK, type KernelContext } from '../kernel';
import { exp2, log2, tanTurns } from '../portable';
import { exp2Quick } from '../quick';

export const LOWEST_HZ = 5;
export const HIGHEST_HZ = 20000;
const LOWEST_OCTAVE = log2(LOWEST_HZ);
/** Points an octave; joined by lines they are within 1e-6. */
const POINTS = 256;

/** g = tan(pi fc/fs) over the octaves above 5 Hz, and g/(1 + g), the gain of a one-pole step. */
export interface CutoffTable {
  g: Float64Array;
  pole: Float64Array;
  /** Octaves above 5 Hz at which the filters' range ends. */
  top: number;
}

const tables = new Map<number, CutoffTable>();

/** Made once for a sample rate. */
export function cutoffTable(sampleRate: number): CutoffTable {
  const known = tables.get(sampleRate);
  if (known) return known;
  const highest = Math.min(HIGHEST_HZ, 0.45 * sampleRate);
  const top = log2(highest / LOWEST_HZ);
  const length = Math.ceil(top * POINTS) + 2;
  const g = new Float64Array(length);
  const pole = new Float64Array(length);
  for (let i = 0; i < length; i++) {
    const hz = LOWEST_HZ * exp2(i / POINTS);
    g[i] = tanTurns(hz / sampleRate / 2);
    pole[i] = g[i]! / (1 + g[i]!);
  }
  const table = { g, pole, top };
  tables.set(sampleRate, table);
  return table;
}

/**
 * Follows a cutoff: Hz at the knob, moved by an octave a volt and by tracking. Fills `values` with what the table has for
 * each sample, g or the one-pole gain, and the `hz` reading with the cutoff at the end of the block.
 */
export class CutoffFollower {
  readonly values = new Float64Array(BLOCK);
  private readonly table: Float64Array;
  private readonly top: number;
  private readonly volts: Float64Array;
  private readonly pitch: Float64Array;
  private readonly floor;
  private readonly track;
  private readonly reading: Float64Array | null;
  private was = 0;
  private slope = 0;

  constructor(context: KernelContext, kind: 'g' | 'pole', param = 'cutoff', reads = true) {
    const table = cutoffTable(context.sampleRate);
    this.table = table[kind];
    this.top = table.top;
    this.floor = context.number(param);
    this.track = context.number('track');
    this.volts = context.input(param);
    this.pitch = context.input('pitch');
    this.reading = reads ? context.output('hz') : null;
  }

  fill(from: number, to: number): void {
    if (from === 0) this.turn();
    const { table, top, values, volts, pitch, was, slope } = this;
    const tracking = this.track.value / 100;
    const most = top * POINTS;
    let last = NaN;
    if (slope === 0 && tracking === 0) {
      const base = was * POINTS;
      for (let i = from; i < to; i++) {
        let at = base + volts[i]! * POINTS;
        at = at > 0 ? (at < most ? at : most) : 0;
        const k = at | 0;
        const a = table[k]!;
        values[i] = a + (at - k) * (table[k + 1]! - a);
      }
      last = was + volts[to - 1]!;
    } else {
      let value = 0.5;
      for (let i = from; i < to; i++) {
        const octaves = was + slope * i + volts[i]! + tracking * pitch[i]!;
        if (octaves !== last) {
          last = octaves;
          let at = octaves * POINTS;
          at = at > 0 ? (at < most ? at : most) : 0;
          const k = at | 0;
          const a = table[k]!;
          value = a + (at - k) * (table[k + 1]! - a);
        }
        values[i] = value;
      }
    }
    this.read(last, to);
  }

  /** Puts out how many octaves above the lowest cutoff a stretch ends. */
  private read(last: number, to: number): void {
    if (!this.reading) return;
    const reached = last > 0 ? Math.min(last, this.top) : 0;
    // A reading is looked at where a stretch ends.
    this.reading[to - 1] = LOWEST_HZ * exp2Quick(reached);
  }

  private turn(): void {
    this.was = this.floor.octavesWas - LOWEST_OCTAVE;
    this.slope = (this.floor.octaves - this.floor.octavesWas) / BLOCK;
  }
}
