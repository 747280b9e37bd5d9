import { Act } from '../sound/key-feed';

/** What a MIDI message means to an instrument. */
export type MidiEvent =
  | { type: 'act'; act: Act; note: number; value: number }
  | { type: 'controller'; number: number; value: number }
  | { type: 'clock' }
  | { type: 'start' }
  | { type: 'continue' }
  | { type: 'stop' };

const WHEEL = 1;
const SUSTAIN = 64;
const ALL_NOTES_OFF = 123;

/**
 * Reads one MIDI message. Any channel; a note on with velocity 0 is a note off. Undefined for what no instrument here
 * listens to, and for what is cut short or out of range.
 */
export function readMidi(bytes: ArrayLike<number>): MidiEvent | undefined {
  const status = bytes[0] ?? 0;
  if (status >= 0xf8) return realTime(status);
  const [a, b] = [bytes[1], bytes[2]];
  if (a === undefined || a > 127 || (b !== undefined && b > 127)) return undefined;
  const kind = status & 0xf0;
  if (kind === 0xd0) return { type: 'act', act: Act.pressure, note: 0, value: a / 127 };
  if (b === undefined) return undefined;
  switch (kind) {
    case 0x90:
      return b > 0
        ? { type: 'act', act: Act.press, note: a, value: b }
        : { type: 'act', act: Act.release, note: a, value: 0 };
    case 0x80:
      return { type: 'act', act: Act.release, note: a, value: 0 };
    case 0xe0: {
      // 14 bits around 8192; the upper half is one step shorter than the lower.
      const bent = a + 128 * b - 8192;
      return { type: 'act', act: Act.bend, note: 0, value: bent < 0 ? bent / 8192 : bent / 8191 };
    }
    case 0xb0:
      if (a === WHEEL) return { type: 'act', act: Act.wheel, note: 0, value: b / 127 };
      if (a === SUSTAIN) return { type: 'act', act: Act.pedal, note: 0, value: b >= 64 ? 1 : 0 };
      return a === ALL_NOTES_OFF ? { type: 'stop' } : { type: 'controller', number: a, value: b };
    default:
      return undefined;
  }
}

/** A controller that was moved, whatever it is for. */
export interface MovedController {
  /** 1..16 */
  channel: number;
  /** Controller number, 0..127. */
  cc: number;
  /** 0..127 */
  sent: number;
}

/** The controller that a message moves. Undefined for all other messages. */
export function readController(bytes: ArrayLike<number>): MovedController | undefined {
  const [status = 0, cc = 128, sent = 128] = [bytes[0], bytes[1], bytes[2]];
  if ((status & 0xf0) !== 0xb0 || cc > 127 || sent > 127) return undefined;
  return { channel: (status & 0x0f) + 1, cc, sent };
}

function realTime(status: number): MidiEvent | undefined {
  const types = { 0xf8: 'clock', 0xfa: 'start', 0xfb: 'continue', 0xfc: 'stop' } as const;
  const type = types[status as keyof typeof types];
  return type && { type };
}

/** The bytes of an act, on the first channel: what the simulated keyboard sends. */
export function writeMidi(act: Act, note: number, value: number): number[] {
  const seven = (v: number): number => Math.min(127, Math.max(0, Math.round(v)));
  switch (act) {
    case Act.press:
      return [0x90, seven(note), Math.max(1, seven(value))];
    case Act.release:
      return [0x80, seven(note), 0];
    case Act.bend: {
      const bent = Math.round(value < 0 ? value * 8192 : value * 8191) + 8192;
      return [0xe0, bent & 127, bent >> 7];
    }
    case Act.wheel:
      return [0xb0, WHEEL, seven(value * 127)];
    case Act.pressure:
      return [0xd0, seven(value * 127)];
    case Act.pedal:
      return [0xb0, SUSTAIN, value >= 0.5 ? 127 : 0];
  }
}
