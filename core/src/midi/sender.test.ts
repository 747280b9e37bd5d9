import { events } from '../sequence/events';
import { patternSchema } from '../pattern/pattern';
import { parseSteps } from '../sequence/text';
import { Act } from '../sound/key-feed';
import { ClockFollower } from './clock';
import { readMidi } from './message';
import { MidiSender } from './sender';

const reading = parseSteps('c3 . d3~ e3?50%', 60);
if (!reading.ok) throw new Error('no steps');
const pattern = patternSchema.parse({
  id: 'p',
  name: 'P',
  tracks: [{ id: 't', name: 'T', length: 4, steps: reading.steps }],
});

describe('what patterns send', () => {
  it('is the notes of their events and a clock that is followed at the tempo, asked for bit by bit', () => {
    const sender = new MidiSender([pattern], 5);
    const all = [0.13, 1, 1.01, 4, 8].flatMap((until) => sender.advance(until));
    const beats = all.map((m) => m.beat);
    expect([...beats].sort((a, b) => a - b)).toEqual(beats);
    const wanted = events([pattern], { beats: 8, tempo: 120, seed: 5 }).flatMap((e) =>
      e.kind === 'press' ? [[e.beat, e.note]] : [],
    );
    const sent = all.flatMap(({ beat, bytes }) => {
      const said = readMidi(bytes);
      return said?.type === 'act' && said.act === Act.press ? [[beat, said.note]] : [];
    });
    expect(sent).toEqual(wanted);
    const clocks = all.filter((m) => m.bytes[0] === 0xf8);
    expect(clocks).toHaveLength(8 * 24);
    const follower = new ClockFollower();
    let bpm: number | undefined;
    for (const { beat } of clocks) bpm = follower.tick((beat * 60) / 126) ?? bpm;
    expect(bpm).toBe(126);
    expect(all[0]!.bytes).toEqual([0xfa]);
  });

  it('ends with keys up and a stop; nothing that is not wanted is sent', () => {
    const sender = new MidiSender([pattern], 1, { notes: true, clock: true });
    sender.advance(0.1);
    expect(sender.stop(0.1).map((m) => m.bytes[0])).toEqual([0x80, 0xfc]);
    const quiet = new MidiSender([pattern], 1, { notes: false, clock: false });
    expect(quiet.advance(4)).toEqual([]);
  });
});
