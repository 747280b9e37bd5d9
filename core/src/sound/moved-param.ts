import { movedBy } from '../catalogue/by-voltage';
import type { NumberParam } from '../catalogue';
import { BLOCK, type Kernel } from './kernel';
import type { Param } from './param';

/** A voltage that moves a parameter. */
export interface Mover {
  buffer: Float64Array;
  by: number | 'octaves';
  volts: number;
}

/**
 * Moves a voice's own parameter from where the control stands by the voltages as each block begins; it arrives at the
 * block's end in a straight line.
 */
export const movedParam = (
  control: Param,
  own: Param,
  about: NumberParam,
  movers: readonly Mover[],
): Pick<Kernel, 'process'> => {
  let begun = false;
  return {
    process(from, to) {
      // Sample by sample in a circle: the block begins once.
      if (from !== 0) return;
      for (const mover of movers) mover.volts = mover.buffer[0]!;
      const value = movedBy(control.value, about, movers);
      if (begun) own.lead(value, to > 1 ? to : BLOCK);
      else own.jump(value);
      begun = true;
    },
  };
};
