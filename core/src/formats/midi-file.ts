import { type MidiEvent as FileEvent, parseMidi, writeMidi as writeBytes } from 'midi-file';

/** A note of a file. Times in quarter notes from the start. */
export interface FileNote {
  beat: number;
  length: number;
  note: number;
  velocity: number;
}

/** One track of one channel: a file of type 0 comes apart into one for each channel. */
export interface FileTrack {
  name: string;
  /** 0..15. */
  channel: number;
  notes: FileNote[];
  controllers: { beat: number; number: number; value: number }[];
}

/** What a Standard MIDI File holds that patterns know. */
export interface MidiSong {
  tempos: { beat: number; bpm: number }[];
  /** Beats of a bar and the note value that is a beat: 3 and 4, say. */
  meters: { beat: number; beats: number; unit: number }[];
  tracks: FileTrack[];
  /** How many events of each kind were found that patterns don't know; absent when there was none. */
  unknown?: Partial<Record<UnknownEvent, number>>;
}

/** Events that no pattern holds, as they are told. */
const unknownEvents = {
  pitchBend: 'pitch bend',
  programChange: 'program change',
  channelAftertouch: 'aftertouch value',
  noteAftertouch: 'aftertouch value of a key',
  sysEx: 'system message',
} as const;
export type UnknownEvent = (typeof unknownEvents)[keyof typeof unknownEvents];

export type MidiReading =
  | { ok: true; song: MidiSong }
  /** What is wrong, and the byte from which on. */
  | { ok: false; message: string; at: number };

/** Bytes of the largest file that is read. */
export const MOST_BYTES = 4_000_000;
/** Ticks of a quarter note in files that are written. */
export const TICKS = 480;
const MOST_NOTES = 100_000;

/** A stretch of the file, by its four letters. */
interface Chunk {
  id: string;
  /** First byte of its letters. */
  at: number;
  data: Uint8Array;
}

class Refused extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

/**
 * Reads a Standard MIDI File of type 0 or 1. Bytes are taken apart by the `midi-file` package, track by track, so that a
 * refusal can say in which one it is.
 * @see MIDI 1.0, Standard MIDI Files, RP-001
 */
export function readMidiFile(bytes: Uint8Array): MidiReading {
  try {
    return { ok: true, song: readSong(bytes) };
  } catch (error) {
    if (error instanceof Refused) return { ok: false, message: error.message, at: error.at };
    throw error;
  }
}

function readSong(bytes: Uint8Array): MidiSong {
  if (bytes.length > MOST_BYTES) {
    throw new Refused(`The file has ${bytes.length} bytes; ${MOST_BYTES} are read at most.`, 0);
  }
  const [head, ...others] = chunksOf(bytes);
  if (head?.id !== 'MThd') {
    throw new Refused('This is no MIDI file: it does not begin with "MThd".', 0);
  }
  if (head.data.length < 6) {
    throw new Refused(`The head has ${head.data.length} bytes instead of 6.`, head.at);
  }
  const [format, count, division] = [0, 2, 4].map(
    (i) => (head.data[i]! << 8) | head.data[i + 1]!,
  ) as [number, number, number];
  if (format > 1) {
    throw new Refused(`Files of type ${format} are not read: save it as type 0 or 1.`, head.at + 8);
  }
  if (division & 0x8000 || division === 0) {
    throw new Refused(
      'Its times are in frames, not in quarter notes: save it with ticks per quarter note.',
      head.at + 12,
    );
  }
  const tracks = others.filter((c) => c.id === 'MTrk');
  if (tracks.length < count) {
    throw new Refused(
      `The head announces ${count} tracks; the file ends after ${tracks.length}.`,
      bytes.length,
    );
  }
  const song: MidiSong = { tempos: [], meters: [], tracks: [] };
  tracks.slice(0, count).forEach((chunk, i) => readTrack(song, chunk, i, head, division));
  song.tempos.sort((a, b) => a.beat - b.beat);
  song.meters.sort((a, b) => a.beat - b.beat);
  return song;
}

function chunksOf(bytes: Uint8Array): Chunk[] {
  const chunks: Chunk[] = [];
  let at = 0;
  while (at < bytes.length) {
    if (at + 8 > bytes.length) {
      throw new Refused(`The file ends within the head of a chunk, at byte ${at}.`, at);
    }
    const id = String.fromCharCode(...bytes.subarray(at, at + 4));
    if (at === 0 && id !== 'MThd') {
      throw new Refused('This is no MIDI file: it does not begin with "MThd".', 0);
    }
    const length = new DataView(bytes.buffer, bytes.byteOffset + at + 4, 4).getUint32(0);
    if (at + 8 + length > bytes.length) {
      const missing = at + 8 + length - bytes.length;
      throw new Refused(`The chunk at byte ${at} lacks ${missing} bytes of its ${length}.`, at);
    }
    chunks.push({ id, at, data: bytes.subarray(at + 8, at + 8 + length) });
    at += 8 + length;
  }
  return chunks;
}

/** Events of one track, by the package: it is handed a file that holds nothing else. */
function eventsOf(chunk: Chunk, number: number, head: Chunk): FileEvent[] {
  const where = `Track ${number + 1}, which begins at byte ${chunk.at},`;
  const alone = new Uint8Array(22 + chunk.data.length);
  const view = new DataView(alone.buffer);
  alone.set([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1]);
  alone.set(head.data.subarray(4, 6), 12);
  alone.set([0x4d, 0x54, 0x72, 0x6b], 14);
  view.setUint32(18, chunk.data.length);
  alone.set(chunk.data, 22);
  let events: FileEvent[];
  try {
    events = parseMidi(alone).tracks[0] ?? [];
  } catch (error) {
    const said = error instanceof Error ? error.message : String(error);
    throw new Refused(`${where} cannot be read: ${said}.`, chunk.at);
  }
  const last = events.at(-1);
  if (last?.type !== 'endOfTrack') {
    throw new Refused(`${where} has no end: the file is cut short or damaged.`, chunk.at);
  }
  if (events.some((e) => !Number.isFinite(e.deltaTime))) {
    throw new Refused(`${where} holds a time that is cut short.`, chunk.at);
  }
  return events;
}

function readTrack(
  song: MidiSong,
  chunk: Chunk,
  number: number,
  head: Chunk,
  division: number,
): void {
  const channels = new Map<number, FileTrack>();
  const down = new Map<string, { beat: number; velocity: number }[]>();
  let [tick, name] = [0, ''];
  const trackOf = (channel: number): FileTrack => {
    const found = channels.get(channel);
    if (found) return found;
    const made = { name: '', channel, notes: [], controllers: [] };
    channels.set(channel, made);
    return made;
  };
  const refuse = (said: string): never => {
    const where = `Track ${number + 1}, which begins at byte ${chunk.at},`;
    throw new Refused(
      `${where} ${said} at quarter note ${(tick / division).toFixed(2)}.`,
      chunk.at,
    );
  };
  const seven = (v: number): number =>
    Number.isInteger(v) && v >= 0 && v <= 127 ? v : refuse('holds a number over 127');
  for (const event of eventsOf(chunk, number, head)) {
    tick += event.deltaTime;
    const beat = tick / division;
    switch (event.type) {
      case 'trackName':
        name = event.text.trim().slice(0, 40);
        break;
      case 'setTempo': {
        const { microsecondsPerBeat } = event;
        if (!(microsecondsPerBeat > 0)) refuse('sets no tempo');
        song.tempos.push({ beat, bpm: 60_000_000 / microsecondsPerBeat });
        break;
      }
      case 'timeSignature':
        if (!(event.numerator > 0 && event.denominator > 0)) refuse('sets no meter');
        song.meters.push({ beat, beats: event.numerator, unit: event.denominator });
        break;
      case 'pitchBend':
      case 'programChange':
      case 'channelAftertouch':
      case 'noteAftertouch':
      case 'sysEx': {
        const kind = unknownEvents[event.type];
        song.unknown = { ...song.unknown, [kind]: (song.unknown?.[kind] ?? 0) + 1 };
        break;
      }
      case 'controller': {
        const value = seven(event.value);
        trackOf(event.channel).controllers.push({
          beat,
          number: seven(event.controllerType),
          value,
        });
        break;
      }
      case 'noteOn':
      case 'noteOff': {
        const note = seven(event.noteNumber);
        const velocity = seven(event.velocity);
        const key = `${event.channel}.${note}`;
        if (event.type === 'noteOn' && velocity > 0) {
          const waiting = down.get(key) ?? [];
          waiting.push({ beat, velocity });
          down.set(key, waiting);
          break;
        }
        const began = down.get(key)?.shift();
        if (!began) break;
        const { notes } = trackOf(event.channel);
        if (notes.length >= MOST_NOTES) refuse(`holds more than ${MOST_NOTES} notes`);
        notes.push({ ...began, length: Math.max(1 / 96, beat - began.beat), note });
      }
    }
  }
  // What is never let go of ends with the track.
  for (const [key, waiting] of down) {
    const [channel, note] = key.split('.').map(Number) as [number, number];
    for (const began of waiting) {
      const length = Math.max(1 / 96, tick / division - began.beat);
      trackOf(channel).notes.push({ ...began, length, note });
    }
  }
  const several = channels.size > 1;
  for (const track of channels.values()) {
    track.notes.sort((a, b) => a.beat - b.beat || a.note - b.note);
    const called = name === '' ? `Track ${number + 1}` : name;
    track.name = several ? `${called}, channel ${track.channel + 1}` : called;
    song.tracks.push(track);
  }
}

/**
 * Writes a Standard MIDI File.
 * @param type 1 keeps tracks apart; 0 puts all into one
 */
export function writeMidiFile(song: MidiSong, type: 0 | 1 = 1): Uint8Array {
  const general: Timed[] = [
    ...song.tempos.map(({ beat, bpm }) => ({
      tick: Math.round(beat * TICKS),
      order: 0,
      event: {
        deltaTime: 0,
        meta: true,
        type: 'setTempo',
        microsecondsPerBeat: Math.round(60_000_000 / bpm),
      } satisfies FileEvent,
    })),
    ...song.meters.map(({ beat, beats, unit }) => ({
      tick: Math.round(beat * TICKS),
      order: 0,
      event: {
        deltaTime: 0,
        meta: true,
        type: 'timeSignature',
        numerator: beats,
        denominator: unit,
        metronome: 24,
        thirtyseconds: 8,
      } satisfies FileEvent,
    })),
  ];
  const own = song.tracks.map(timedOf);
  const lists = type === 1 ? [general, ...own] : [[...general, ...own.flat()]];
  const tracks = lists.map(inOrder);
  const header = { format: type, numTracks: tracks.length, ticksPerBeat: TICKS };
  return Uint8Array.from(writeBytes({ header, tracks }));
}

interface Timed {
  tick: number;
  /** At one tick names come first, then keys that go up, then controllers, then keys that go down. */
  order: number;
  event: FileEvent;
}

function timedOf(track: FileTrack): Timed[] {
  const { channel } = track;
  const named: Timed = {
    tick: 0,
    order: 0,
    event: { deltaTime: 0, meta: true, type: 'trackName', text: track.name },
  };
  const controllers = track.controllers.map(({ beat, number, value }): Timed => ({
    tick: Math.round(beat * TICKS),
    order: 2,
    event: { deltaTime: 0, type: 'controller', channel, controllerType: number, value },
  }));
  const notes = track.notes.flatMap(({ beat, length, note, velocity }): Timed[] => {
    const from = Math.round(beat * TICKS);
    const to = Math.max(from + 1, Math.round((beat + length) * TICKS));
    const key = { deltaTime: 0, channel, noteNumber: note };
    return [
      { tick: from, order: 3, event: { ...key, type: 'noteOn', velocity } },
      { tick: to, order: 1, event: { ...key, type: 'noteOff', velocity: 64 } },
    ];
  });
  return [named, ...controllers, ...notes];
}

function inOrder(events: Timed[]): FileEvent[] {
  let before = 0;
  const sorted = [...events].sort((a, b) => a.tick - b.tick || a.order - b.order);
  const written = sorted.map(({ tick, event }): FileEvent => {
    const deltaTime = tick - before;
    before = tick;
    return { ...event, deltaTime };
  });
  return [...written, { deltaTime: 0, meta: true, type: 'endOfTrack' }];
}
