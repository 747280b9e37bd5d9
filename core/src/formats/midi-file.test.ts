import fc from 'fast-check';
import { type MidiEvent, writeMidi } from 'midi-file';
import { seededRandom } from '../testing/random';
import { type MidiSong, readMidiFile, TICKS, writeMidiFile } from './midi-file';

const song = (): MidiSong => ({
  tempos: [{ beat: 0, bpm: 120 }],
  meters: [{ beat: 0, beats: 3, unit: 4 }],
  tracks: [
    {
      name: 'line',
      channel: 0,
      notes: [
        { beat: 0, length: 0.5, note: 36, velocity: 90 },
        { beat: 0.5, length: 1, note: 39, velocity: 122 },
      ],
      controllers: [{ beat: 0.25, number: 74, value: 64 }],
    },
    {
      name: 'top',
      channel: 3,
      notes: [{ beat: 1, length: 2, note: 72, velocity: 1 }],
      controllers: [],
    },
  ],
});
const readBack = (bytes: Uint8Array): MidiSong => {
  const reading = readMidiFile(bytes);
  if (!reading.ok) throw new Error(reading.message);
  return reading.song;
};

describe('Standard MIDI Files', () => {
  it('come back as they were written, in tracks or in one', () => {
    expect(readBack(writeMidiFile(song()))).toEqual(song());
    const one = readBack(writeMidiFile(song(), 0));
    expect(one.tracks.map((t) => [t.channel, t.notes])).toEqual(
      song().tracks.map((t) => [t.channel, t.notes]),
    );
  });

  it('say how many events they hold that patterns do not know', () => {
    const event = (kind: string, more: object) => ({
      deltaTime: 1,
      channel: 0,
      type: kind,
      ...more,
    });
    const bytes = writeMidi({
      header: { format: 0, numTracks: 1, ticksPerBeat: 96 },
      tracks: [
        [
          event('pitchBend', { value: 100 }),
          event('pitchBend', { value: 0 }),
          event('programChange', { programNumber: 3 }),
          event('noteAftertouch', { noteNumber: 60, amount: 9 }),
          { deltaTime: 0, meta: true, type: 'endOfTrack' },
        ] as MidiEvent[],
      ],
    });
    expect(readBack(Uint8Array.from(bytes)).unknown).toEqual({
      'pitch bend': 2,
      'program change': 1,
      'aftertouch value of a key': 1,
    });
  });

  it('come back whatever the notes, to a tick', () => {
    const tick = (max: number) => fc.integer({ min: 0, max }).map((t) => t / TICKS);
    const notes = fc.array(
      fc.record({
        beat: tick(20000),
        length: fc.integer({ min: 10, max: 4000 }).map((t) => t / TICKS),
        note: fc.integer({ min: 0, max: 127 }),
        velocity: fc.integer({ min: 1, max: 127 }),
      }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(notes, (all) => {
        // Two of the same pitch that overlap are one key: what ends first ends the first.
        const alone = all.filter(
          (n, i) =>
            !all.some(
              (m, j) =>
                j < i &&
                m.note === n.note &&
                m.beat < n.beat + n.length + 1 / TICKS &&
                n.beat < m.beat + m.length + 1 / TICKS,
            ),
        );
        alone.sort((a, b) => a.beat - b.beat || a.note - b.note);
        const written = { name: 'a', channel: 5, notes: alone, controllers: [] };
        const read = readBack(writeMidiFile({ tempos: [], meters: [], tracks: [written] }));
        const ticks = (list: typeof alone) =>
          list.map((n) => ({
            ...n,
            beat: Math.round(n.beat * TICKS),
            length: Math.round(n.length * TICKS),
          }));
        expect(ticks(read.tracks[0]?.notes ?? [])).toEqual(ticks(alone));
      }),
    );
  });

  it('read what others write: running status, a note on of velocity 0, one track of many channels', () => {
    const track = [
      0x00, 0xff, 0x51, 3, 0x06, 0x1a, 0x80, 0x00, 0x90, 60, 100, 0x60, 60, 0, 0x00, 0x91, 62, 90,
      0x60, 62, 0, 0x00, 0xff, 0x2f, 0,
    ];
    const bytes = Uint8Array.from([
      ...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96],
      ...[0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, track.length],
      ...track,
    ]);
    const read = readBack(bytes);
    expect(read.tempos).toEqual([{ beat: 0, bpm: 150 }]);
    expect(read.tracks.map((t) => [t.name, t.channel, t.notes])).toEqual([
      ['Track 1, channel 1', 0, [{ beat: 0, length: 1, note: 60, velocity: 100 }]],
      ['Track 1, channel 2', 1, [{ beat: 1, length: 1, note: 62, velocity: 90 }]],
    ]);
  });

  const refused = (bytes: Uint8Array) => {
    const reading = readMidiFile(bytes);
    return reading.ok ? undefined : { at: reading.at, message: reading.message };
  };

  it('are refused with the place', () => {
    const good = writeMidiFile(song());
    expect(refused(new Uint8Array(0))?.message).toMatch(/no MIDI file/);
    expect(refused(new TextEncoder().encode('RIFF and so on'))).toMatchObject({ at: 0 });
    expect(refused(good.subarray(0, 30))).toMatchObject({
      at: 14,
      message: expect.stringMatching(/chunk at byte 14 lacks \d+ bytes/),
    });
    const frames = Uint8Array.from(good);
    frames[12] = 0xe7;
    expect(refused(frames)).toMatchObject({ at: 12, message: expect.stringMatching(/frames/) });
    const type2 = Uint8Array.from(good);
    type2[9] = 2;
    expect(refused(type2)).toMatchObject({ at: 8, message: expect.stringMatching(/type 2/) });
    const endless = Uint8Array.from(good);
    endless.set([0xff, 0x01], endless.length - 3);
    expect(refused(endless)?.message).toMatch(/Track 3, which begins at byte \d+/);
  });

  it('bent ten thousand times neither crash nor yield notes out of range; each refusal says where', () => {
    const good = [writeMidiFile(song()), writeMidiFile(song(), 0)];
    const random = seededRandom(11);
    let refusals = 0;
    for (let n = 0; n < 10_000; n++) {
      const bytes = Uint8Array.from(good[n % 2]!);
      for (let k = 0; k <= n % 4; k++) bytes[Math.floor(random() * bytes.length)] = random() * 256;
      const cut = n % 5 === 0 ? bytes.subarray(0, Math.floor(random() * bytes.length)) : bytes;
      const reading = readMidiFile(cut);
      if (!reading.ok) {
        refusals++;
        expect(reading.message.length).toBeGreaterThan(20);
        expect(reading.at).toBeGreaterThanOrEqual(0);
        expect(reading.at).toBeLessThanOrEqual(cut.length);
        continue;
      }
      for (const track of reading.song.tracks) {
        for (const note of track.notes) {
          if (!(note.note >= 0 && note.note <= 127 && note.velocity >= 1 && note.velocity <= 127))
            throw new Error('a note out of range');
          if (!(note.beat >= 0 && note.length > 0 && Number.isFinite(note.beat + note.length)))
            throw new Error('a time out of range');
        }
      }
    }
    expect(refusals).toBeGreaterThan(2000);
    expect(refusals).toBeLessThan(9900);
  });
});
