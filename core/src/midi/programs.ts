import type { Program } from '../unit/program';
import { readController } from './message';

/** A program that was chosen, with the banks that were selected before it on its channel. */
export interface ChosenProgram extends Program {
  /** 1..16 */
  channel: number;
}

/** Controllers that select a bank. */
const [COARSE, FINE] = [0, 32];

/**
 * Reads the programs that come in at one input: a bank is selected by controllers, and holds for all programs after it.
 * Source: MIDI 1.0 Detailed Specification, Program Change and Bank Select.
 */
export class ProgramReader {
  private readonly banks = new Map<number, Pick<ChosenProgram, 'coarse' | 'fine'>>();

  /** @returns the program that a message chooses; undefined for all other messages, and for what is cut short */
  take(bytes: ArrayLike<number>): ChosenProgram | undefined {
    const moved = readController(bytes);
    if (moved?.cc === COARSE || moved?.cc === FINE) {
      const half = moved.cc === COARSE ? { coarse: moved.sent } : { fine: moved.sent };
      this.banks.set(moved.channel, { ...this.banks.get(moved.channel), ...half });
    }
    const [status = 0, program = 128] = [bytes[0], bytes[1]];
    if ((status & 0xf0) !== 0xc0 || program > 127) return undefined;
    const channel = (status & 0x0f) + 1;
    return { channel, program, ...this.banks.get(channel) };
  }
}
