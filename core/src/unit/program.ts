import type { Memory } from '../instrument/memory';

/** A program of MIDI: which one, and the bank as far as it was selected. */
export interface Program {
  /** 0..127 */
  program: number;
  /** Last value of controller 0, and of 32; absent: never sent. */
  coarse?: number;
  fine?: number;
}

/** Programs in a bank of MIDI. */
const PROGRAMS = 128;

/**
 * The place of a memory that a program stands for; undefined where the instrument does not tell, or has no such place. A bank
 * that was never selected is the first.
 * Source: MIDI 1.0 Detailed Specification, Program Change and Bank Select.
 */
export function placeOfProgram(
  memory: Memory,
  { program, ...banks }: Program,
): { bank: number; slot: number } | undefined {
  if (memory.kind === 'none' || !memory.programs) return undefined;
  const { counted, select } = memory.programs;
  const selected = banks[select] ?? 0;
  const number = PROGRAMS * selected + program;
  const [bank, slot] =
    counted === 'bank'
      ? [selected, program]
      : [Math.floor(number / memory.slots), number % memory.slots];
  return bank < memory.banks && slot < memory.slots
    ? { bank: bank + 1, slot: slot + 1 }
    : undefined;
}
