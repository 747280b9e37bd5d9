import fc from 'fast-check';
import { Act } from '../sound/key-feed';
import { seededRandom } from '../testing/random';
import { ClockFollower, ClockLock, CLOCKS } from './clock';
import { readController, readMidi, writeMidi } from './message';

describe('MIDI messages', () => {
  it('that move a controller are told, also those that play: wheel and pedal', () => {
    expect(readController([0xb3, 74, 90])).toEqual({ channel: 4, cc: 74, sent: 90 });
    expect(readController(writeMidi(Act.wheel, 0, 1))).toEqual({ channel: 1, cc: 1, sent: 127 });
    for (const other of [writeMidi(Act.press, 60, 90), [0xb0, 74], [0xb0, 74, 128], [0xf8], []])
      expect(readController(other)).toBeUndefined();
  });

  it('come back as they were sent', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 127 }),
        fc.integer({ min: 1, max: 127 }),
        (note, value) => {
          expect(readMidi(writeMidi(Act.press, note, value))).toEqual({
            type: 'act',
            act: Act.press,
            note,
            value,
          });
          expect(readMidi(writeMidi(Act.release, note, 0))).toEqual({
            type: 'act',
            act: Act.release,
            note,
            value: 0,
          });
        },
      ),
    );
    for (const value of [-1, -0.5, 0, 0.5, 1]) {
      const bent = readMidi(writeMidi(Act.bend, 0, value));
      expect(bent).toMatchObject({ act: Act.bend });
      expect((bent as { value: number }).value).toBeCloseTo(value, 3);
    }
    for (const act of [Act.wheel, Act.pressure]) {
      expect((readMidi(writeMidi(act, 0, 1)) as { value: number }).value).toBe(1);
    }
    expect(readMidi(writeMidi(Act.pedal, 0, 1))).toEqual({
      type: 'act',
      act: Act.pedal,
      note: 0,
      value: 1,
    });
  });

  it('a note on with no velocity is a note off, on any channel', () =>
    expect(readMidi([0x95, 60, 0])).toEqual({ type: 'act', act: Act.release, note: 60, value: 0 }));

  it('of other kinds, cut short or bent mean nothing, and never throw', () => {
    expect(readMidi([])).toBeUndefined();
    expect(readMidi([0x90, 60])).toBeUndefined();
    expect(readMidi([0x90, 200, 3])).toBeUndefined();
    fc.assert(fc.property(fc.uint8Array({ maxLength: 4 }), (bytes) => void readMidi(bytes)));
  });
});

describe('a clock that jitters', () => {
  it('is followed to within 1 bpm, single late clocks or none', () => {
    const random = seededRandom(7);
    const follower = new ClockFollower();
    let bpm: number | undefined;
    let time = 10;
    for (let n = 0; n < 200; n++) {
      time += 60 / 127 / 24;
      const late = n % 17 === 0 ? 0.015 : 0;
      bpm = follower.tick(time + late + 0.002 * (random() - 0.5)) ?? bpm;
      if (n > 30) expect(Math.abs(bpm! - 127)).toBeLessThan(4);
    }
    expect(Math.abs(bpm! - 127)).toBeLessThan(2);
  });

  it('that stopped is told anew from its next clocks', () => {
    const follower = new ClockFollower();
    for (let n = 0; n < 40; n++) follower.tick(n * (60 / 120 / 24));
    expect(follower.tick(100)).toBeUndefined();
    let bpm: number | undefined;
    for (let n = 1; n < 40; n++) bpm = follower.tick(100 + n * (60 / 90 / 24));
    expect(bpm).toBe(90);
  });
});

describe('a player that is kept in step with a clock', () => {
  /** Runs both for so many seconds; says how far they are apart, in quarter notes, at each place it is steered. */
  const together = (bpm: (t: number) => number, seconds: number, begins: number): number[] => {
    const random = seededRandom(3);
    const lock = new ClockLock();
    lock.start();
    const apart: number[] = [];
    let [clock, player, tempo] = [0, begins, 120];
    let ticks = 0;
    for (let ms = 0; ms < seconds * 1000; ms++) {
      const t = ms / 1000;
      if (clock >= ticks / CLOCKS - 1e-12) {
        ticks++;
        lock.tick(t + 0.005 * (2 * random() - 1));
      }
      // Told now and then, some milliseconds late, as a page is by its audio thread.
      if (ms % 50 === 0) tempo = lock.steer(player - (0.006 * random() * tempo) / 60, t) ?? tempo;
      clock += bpm(t) / 60000;
      player += tempo / 60000;
      apart.push(clock - player - Math.round(clock - player));
    }
    return apart;
  };

  const worst = (apart: readonly number[]): number =>
    apart.reduce((most, off) => Math.max(most, Math.abs(off)), 0);

  it('comes into step and does not drift in ten minutes', () => {
    for (const [bpm, begins] of [
      [126.37, 0],
      [97.04, 0.3],
      [171.9, -0.45],
    ] as const) {
      const apart = together(() => bpm, 600, begins);
      // 0.03 of a quarter note are 14 ms at 126 bpm: the jitter of the clock is 5 ms, that of being told 6.
      expect(worst(apart.slice(30_000))).toBeLessThan(0.03);
    }
  });

  it('follows a tempo that moves', () => {
    const apart = together((t) => 120 + Math.min(20, t), 60, 0);
    expect(worst(apart.slice(40_000))).toBeLessThan(0.03);
  });

  it('says that the clock has gone, and nothing to go by', () => {
    const lock = new ClockLock();
    expect(lock.steer(0, 0)).toBeUndefined();
    for (let n = 0; n < 48; n++) lock.tick(n / 48);
    expect(lock.steer(1.9, 1)).toBeGreaterThan(110);
    expect(lock.goneAt(1.2)).toBe(false);
    expect(lock.goneAt(1.6)).toBe(true);
    expect(lock.steer(3, 1.6)).toBeUndefined();
  });
});
