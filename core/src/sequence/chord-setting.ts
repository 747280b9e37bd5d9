import type { Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { chordNotes, type ChordType, chordTypes } from '../theory/chord';
import { midiToNote } from '../theory/note';

/** How a chord oscillator plays a wanted chord, or the nearest that it can. */
export interface ChordSetting {
  /** Key that is held. */
  key: number;
  /** Controls and what they are set to. */
  settings: Record<string, Value>;
  /** As one reads it: `chord minor7, inversion 1, hold A3`. */
  told: string;
  /** Notes that sound. */
  notes: number[];
  /** Wanted pitch classes that do not sound, and those that sound and were not wanted. */
  missing: number;
  strange: number;
}

const classOf = (n: number): number => ((n % 12) + 12) % 12;

/**
 * The key, type and inversion with which an instrument's chord oscillator plays a chord. Among those that play its pitch
 * classes the one whose notes are nearest; when none does, the one that misses and adds the fewest.
 * @param wanted MIDI numbers
 * @returns undefined when the instrument has no chord oscillator whose type is on the panel
 */
export function chordSetting(
  instrument: Instrument,
  wanted: readonly number[],
): ChordSetting | undefined {
  const module = instrument.circuit.modules.find((m) => m.kind === 'chord')?.id;
  const positions = (
    param: string,
  ): { control: string; name: string; id: string; value: unknown }[] =>
    instrument.controls.flatMap((control) => {
      if (!isSwitched(control)) return [];
      const bound = control.bindings.find((b) => b.module === module && b.param === param);
      return bound
        ? control.positions.map((p) => ({
            control: control.id,
            name: p.name,
            id: p.id,
            value: bound.values[p.id],
          }))
        : [];
    });
  const types = positions('type').filter((p) => String(p.value) in chordTypes);
  if (module === undefined || types.length === 0 || wanted.length === 0) return undefined;
  const inversions = positions('inversion');
  const lowest = Math.min(...wanted);
  const classes = new Set(wanted.map(classOf));
  let best: (ChordSetting & { cost: number }) | undefined;
  for (const type of types) {
    for (const inversion of inversions.length > 0 ? inversions : [null]) {
      const turned = Number(inversion?.value ?? 0);
      const form = chordNotes(String(type.value) as ChordType, turned);
      if (turned >= chordTypes[String(type.value) as ChordType].length) continue;
      for (let key = lowest - 14; key <= lowest + 12; key++) {
        if (key < 0 || key + form.at(-1)! > 127) continue;
        const notes = form.map((n) => key + n);
        const sounding = new Set(notes.map(classOf));
        const missing = [...classes].filter((c) => !sounding.has(c)).length;
        const strange = [...sounding].filter((c) => !classes.has(c)).length;
        const far = Math.abs(notes[0]! - lowest);
        // Of two names for the same notes, the one that is inverted less.
        const cost = 1000 * (missing + strange) + far + turned / 100;
        if (best && cost >= best.cost) continue;
        const told = [
          type.name,
          inversion ? `inversion ${inversion.name}` : '',
          `hold ${midiToNote(key)}`,
        ];
        best = {
          key,
          settings: {
            [type.control]: type.id,
            ...(inversion ? { [inversion.control]: inversion.id } : {}),
          },
          told: told.filter(Boolean).join(', '),
          notes,
          missing,
          strange,
          cost,
        };
      }
    }
  }
  if (!best) return undefined;
  const { cost: _, ...setting } = best;
  return setting;
}
