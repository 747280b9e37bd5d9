import type { TimedNote } from '../pattern/timed';
import { midiToVolts } from '../theory/pitch';
import { type Interval, ZERO } from './interval';

/** A hair's breadth: keys that only give 0 V in a phrase are quiet, but not unconnected. */
export const HAIR = 1e-9;

/** What keys give while some notes are played: pitch, gates, velocity; nothing opens without any. Shifts in octaves. */
export function keyBounds(
  outputs: readonly string[],
  notes: readonly TimedNote[],
  { shift = 0, spread = 0 } = {},
): Record<string, Interval> {
  const volts = notes.length > 0 ? notes.map((n) => midiToVolts(n.note) + shift) : [shift];
  const pitch: Interval = [Math.min(...volts) - spread - HAIR, Math.max(...volts) + spread + HAIR];
  const open: Interval = notes.length > 0 ? [0, 5] : ZERO;
  const of = (port: string): Interval => {
    if (port.startsWith('pitch')) return pitch;
    if (port === 'pressure') return [0, 5];
    return port === 'pan' ? [-5, 5] : open;
  };
  return Object.fromEntries(outputs.map((port) => [port, of(port)]));
}
