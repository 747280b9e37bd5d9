import { inject, Injectable, signal } from '@angular/core';
import * as z from 'zod';
import { type ChosenAt, type MidiInput, MidiInService, type MovedAt } from './midi-in.service';

/** An input and a channel: where one device is heard. */
export interface Place {
  input: MidiInput;
  /** 1..16 */
  channel: number;
}

/** What was heard where nobody knows what is heard there: a control that was moved, or a place of a memory that was chosen. */
export type Asked = { panel: string } & ({ moved: MovedAt } | { chosen: ChosenAt });

export const placeAsked = (asked: Asked): Place => ('moved' in asked ? asked.moved : asked.chosen);

const KEY = 'hurrel.heard-at';
const keptSchema = z.record(
  z.string(),
  z.object({
    input: z.object({ id: z.string(), name: z.string() }),
    channel: z.number().int().min(1).max(16),
  }),
);

/**
 * At which input and channel which panel is heard, as somebody has said on this device: one controller number is sent by many
 * panels, and by keyboards that are none. Until somebody has said it, nothing that is heard is believed.
 */
@Injectable({ providedIn: 'root' })
export class PanelInputs {
  private readonly midi = inject(MidiInService);
  private readonly known = signal(read());
  /** What is no panel that anybody asked of, on this visit. */
  private readonly others = signal<readonly string[]>([]);
  /** The last of it. */
  readonly asked = signal<Asked | null>(null);

  /** Where a panel is heard. */
  of(panel: string): Place | undefined {
    return this.known()[panel];
  }

  /** The panel that is heard there. */
  panelAt(place: Place): string | undefined {
    return Object.entries(this.known()).find(([, other]) => same(other, place))?.[0];
  }

  /** Whether it is this panel that is heard there. */
  isHeard(panel: string, place: Place): 'yes' | 'no' | 'unknown' {
    const known = this.known();
    if (known[panel]) return same(known[panel], place) ? 'yes' : 'no';
    const taken = Object.values(known).some((other) => same(other, place));
    return taken || this.others().includes(`${panel} ${keyOf(place)}`) ? 'no' : 'unknown';
  }

  /** The panel is heard there, and no other; what was asked of is heard again. */
  say(panel: string, { input, channel }: Place): void {
    const place = { input, channel };
    const asked = this.asked();
    const others = Object.entries(this.known()).filter(([, other]) => !same(other, place));
    this.keep({ ...Object.fromEntries(others), [panel]: place });
    if (asked && 'moved' in asked) this.midi.moved.next(asked.moved);
    if (asked && 'chosen' in asked) this.midi.chosen.next(asked.chosen);
  }

  /** Something else is heard there. */
  deny(panel: string, place: Place): void {
    this.others.update((some) => [...some, `${panel} ${keyOf(place)}`]);
    this.asked.set(null);
  }

  /** Nobody knows where the panel is heard: it will be asked again. */
  forget(panel: string): void {
    const { [panel]: _, ...rest } = this.known();
    this.others.set([]);
    this.keep(rest);
  }

  private keep(known: Record<string, Place>): void {
    this.asked.set(null);
    this.known.set(known);
    try {
      localStorage.setItem(KEY, JSON.stringify(known));
    } catch {
      // A device that keeps nothing asks again on the next visit.
    }
  }
}

const keyOf = ({ input, channel }: Place): string => `${input.id} ${channel}`;
const same = (a: Place, b: Place): boolean => keyOf(a) === keyOf(b);

function read(): Record<string, Place> {
  try {
    const kept = keptSchema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
    return kept.success ? kept.data : {};
  } catch {
    return {};
  }
}
