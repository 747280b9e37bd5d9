import { BLOCK, type KernelContext } from '../kernel';
import { exp2, log2, tanTurns } from '../../theory/portable';
import { exp2Quick } from '../quick';
import { Ask, type WarpCompensator } from './warp-compensator';

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
  /** That of its steps. */
  private readonly sampleRate: number;

  constructor(
    context: KernelContext,
    kind: 'g' | 'pole',
    private readonly compensator: WarpCompensator,
    param = 'cutoff',
    reads = true,
    /** How many steps the filter goes for each sample. */
    over = 1,
  ) {
    const sampleRate = over * context.sampleRate;
    const table = cutoffTable(sampleRate);
    this.table = table[kind];
    this.top = table.top;
    this.floor = context.number(param);
    this.track = context.number('track');
    this.volts = context.input(param);
    this.pitch = context.input('pitch');
    this.reading = reads ? context.output('hz') : null;
    this.sampleRate = sampleRate;
  }

  /** Fills a stretch, and at a block's beginning turns the filter's compensator on to its end. */
  fill(from: number, to: number): void {
    const { compensator, floor, volts, pitch } = this;
    const tracking = this.track.value / 100;
    const end = floor.octaves - LOWEST_OCTAVE + volts[to - 1]! + tracking * pitch[to - 1]!;
    if (from === 0 || this.reading) {
      const hz = LOWEST_HZ * exp2Quick(end > 0 ? Math.min(end, this.top) : 0);
      if (from === 0) {
        compensator.ask[Ask.cutoff] = hz / this.sampleRate;
        compensator.turn();
      }
      // A reading is looked at where a stretch ends.
      if (this.reading) this.reading[to - 1] = hz;
    }
    const { table, values } = this;
    const most = this.top * POINTS;
    const base = POINTS * (floor.octavesWas - LOWEST_OCTAVE + compensator.octavesWas);
    const goal = POINTS * (floor.octaves - LOWEST_OCTAVE + compensator.octaves);
    const slope = (goal - base) / BLOCK;
    if (tracking === 0) {
      let knob = base + slope * from;
      for (let i = from; i < to; i++) {
        let at = knob + volts[i]! * POINTS;
        knob += slope;
        at = at > 0 ? (at < most ? at : most) : 0;
        const k = at | 0;
        const a = table[k]!;
        values[i] = a + (at - k) * (table[k + 1]! - a);
      }
      return;
    }
    let last = NaN;
    let value = 0.5;
    for (let i = from; i < to; i++) {
      let at = base + slope * i + POINTS * (volts[i]! + tracking * pitch[i]!);
      if (at !== last) {
        last = at;
        at = at > 0 ? (at < most ? at : most) : 0;
        const k = at | 0;
        const a = table[k]!;
        value = a + (at - k) * (table[k + 1]! - a);
      }
      values[i] = value;
    }
  }
}
