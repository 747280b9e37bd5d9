import type { Instrument } from '../instrument/schema';
import type { Memory } from '../instrument/memory';
import type { Slot, Unit } from './schema';

/** Characters that an encoder steps through where the instrument does not say. */
const CHARACTERS = ' ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-';

/** Name of a place: `B12`, or `12` where there is only one bank. */
export function slotName(memory: Memory, bank: number, slot: number): string {
  if (memory.kind === 'none') return '';
  const digits = String(memory.slots).length;
  const number = String(slot).padStart(digits, '0');
  if (memory.banks === 1) return number;
  const letter = memory.banks <= 26 ? String.fromCharCode(64 + bank) : `${bank}.`;
  return `${letter}${number}`;
}

/** The place that somebody wrote, as `B12` or `12`; undefined when the instrument has no such place. */
export function readSlot(memory: Memory, text: string): { bank: number; slot: number } | undefined {
  if (memory.kind === 'none') return undefined;
  const [, letter = '', number] = /^\s*([a-z]?|\d+[.\s-])\s*(\d+)\s*$/i.exec(text) ?? [];
  if (number === undefined) return undefined;
  const bank = /[a-z]/i.test(letter)
    ? letter.toUpperCase().charCodeAt(0) - 64
    : Number.parseInt(letter || '1', 10);
  const slot = Number(number);
  const fits = bank >= 1 && bank <= memory.banks && slot >= 1 && slot <= memory.slots;
  return fits ? { bank, slot } : undefined;
}

export const slotAt = (unit: Unit, bank: number, slot: number): Slot | undefined =>
  unit.slots.find((s) => s.bank === bank && s.slot === slot);

/** Places in which nothing is known to be, in order. */
export function freeSlots(memory: Memory, unit: Unit): { bank: number; slot: number }[] {
  if (memory.kind === 'none') return [];
  const free: { bank: number; slot: number }[] = [];
  for (let bank = 1; bank <= memory.banks; bank++) {
    for (let slot = 1; slot <= memory.slots; slot++) {
      if (!slotAt(unit, bank, slot)) free.push({ bank, slot });
    }
  }
  return free;
}

/** What one would lose by storing into a place, in words; empty when nothing is known to be there. */
export function overwriteWarning(memory: Memory, unit: Unit, bank: number, slot: number): string {
  const there = slotAt(unit, bank, slot);
  if (!there) return '';
  const name = slotName(memory, bank, slot);
  const what = there.name === '' ? 'something without a name' : `"${there.name}"`;
  return there.needed
    ? `${name} holds ${what}, and it is needed: choose another place.`
    : `${name} holds ${what}: it would be overwritten.`;
}

/** A name as the instrument can hold it, with what it costs to enter. */
export interface StoredName {
  /** Cut to length; what the character set lacks told in another case, or left out. */
  text: string;
  /** Detents of the encoder from one character to the next, each begun where the last one stood. */
  detents: number;
  /** Seconds, with 0.15 s a detent and one press a character. */
  seconds: number;
  /** What of the wanted name is lost, in words. */
  lost: string;
}

/** Seconds of a detent of the encoder, and of the press that goes on to the next character. */
const DETENT = 0.15;
const NEXT = 0.5;

/** How a name is entered: every character by the shorter way round the character set. */
export function storedName(memory: Memory, wanted: string): StoredName {
  if (memory.kind === 'none' || memory.nameLength === 0) {
    return { text: '', detents: 0, seconds: 0, lost: wanted ? 'Places have numbers only.' : '' };
  }
  const set = memory.characters ?? CHARACTERS;
  const fits = (c: string): string =>
    [c, c.toUpperCase(), c.toLowerCase()].find((k) => set.includes(k)) ?? '';
  const kept = [...wanted].map(fits);
  const text = kept.join('').slice(0, memory.nameLength).trimEnd();
  const missing = [...new Set([...wanted].filter((_, i) => kept[i] === ''))];
  const cut = kept.join('').trimEnd().length > text.length;
  let [at, detents] = [0, 0];
  for (const c of text) {
    const to = set.indexOf(c);
    const way = Math.abs(to - at);
    detents += Math.min(way, set.length - way);
    at = to;
  }
  const lost = [
    cut ? `Cut to ${memory.nameLength} characters.` : '',
    missing.length > 0 ? `It has no ${missing.map((c) => `"${c}"`).join(', ')}.` : '',
  ];
  return {
    text,
    detents,
    seconds: Math.round((detents * DETENT + text.length * NEXT) * 10) / 10,
    lost: lost.filter(Boolean).join(' '),
  };
}

/** Checks a unit's places against its instrument's memory. */
export function slotFault(instrument: Instrument, slot: Slot): string | undefined {
  const { memory } = instrument;
  if (memory.kind === 'none') return `${instrument.name} has no memory.`;
  if (slot.bank > memory.banks) return `${instrument.name} has ${memory.banks} banks.`;
  if (slot.slot > memory.slots) return `A bank of ${instrument.name} has ${memory.slots} places.`;
  if (slot.name.length > memory.nameLength) {
    return memory.nameLength === 0
      ? 'Its places have numbers only.'
      : `A name has ${memory.nameLength} characters at most.`;
  }
  return undefined;
}
