import { jest } from '@jest/globals';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { readMidi } from '@hurrel/core';
import { KeysService } from '../sound/keys.service';
import { LiveService } from '../sound/live.service';
import { MidiInService } from './midi-in.service';

const CLOCK = [0xf8];

function plugIn() {
  const meter = signal({ beat: -1 });
  const tempos: (number | null)[] = [];
  const live = { meter, followClock: (tempo: number | null) => void tempos.push(tempo) };
  TestBed.configureTestingModule({
    providers: [
      MidiInService,
      { provide: LiveService, useValue: live },
      { provide: KeysService, useValue: { midi: readMidi } },
    ],
  });
  const midi = TestBed.inject(MidiInService);
  const said: string[] = [];
  midi.transport = { start: () => void said.push('start'), stop: () => void said.push('stop') };
  /** Clocks at so many bpm, from a second on. */
  const run = (bpm: number, from: number, quarters: number): void => {
    for (let n = 0; n < 24 * quarters; n++) midi.take(CLOCK, from + (n * 60) / bpm / 24);
  };
  return { midi, meter, tempos, said, run };
}

describe('MIDI that comes in', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  it('starts what runs, leads it at the clock’s tempo, and stops it', () => {
    const { midi, tempos, said, run } = plugIn();
    midi.take([0xfa], 10);
    run(100, 10, 4);
    expect(midi.tempo()).toBe(100);
    expect(tempos.at(-1)).toBeCloseTo(100, 6);
    midi.take([0xfc], 13);
    expect(said).toEqual(['start', 'stop']);
  });

  it('says when the clock has gone, keeps its tempo, and goes back when asked', () => {
    const { midi, tempos, run } = plugIn();
    midi.take([0xfa], 0);
    run(90, 0, 4);
    expect(midi.gone()).toBe(false);
    jest.advanceTimersByTime(600);
    expect(midi.gone()).toBe(true);
    expect(midi.tempo()).toBe(90);
    midi.take(CLOCK, 5);
    expect(midi.gone()).toBe(false);
    midi.leave();
    expect(midi.tempo()).toBeNull();
    expect(tempos.at(-1)).toBeNull();
  });

  it('brings what runs into step, by leaning on its tempo', () => {
    const { midi, meter, tempos, run } = plugIn();
    const now = performance.now() / 1000;
    midi.take([0xfa], now - 2);
    run(120, now - 2, 4);
    // After four quarter notes the run is a tenth of one behind.
    meter.set({ beat: 3.86 });
    TestBed.tick();
    expect(tempos.at(-1)!).toBeGreaterThan(121);
    expect(tempos.at(-1)!).toBeLessThan(120 * 1.031);
    expect(midi.tempo()).toBe(120);
  });

  it('simulates a clock that can be cut without a word', () => {
    const { midi, said } = plugIn();
    midi.startClock(() => ({ tempo: 120, jitter: 0 }));
    jest.advanceTimersByTime(1500);
    expect(midi.running()).toBe(true);
    expect(midi.tempo()).toBeCloseTo(120, 0);
    midi.cutClock();
    expect(said).toEqual(['start']);
    jest.advanceTimersByTime(600);
    expect(midi.gone()).toBe(true);
    midi.stopClock();
    expect(said).toEqual(['start', 'stop']);
    expect(midi.tempo()).toBeNull();
  });
});
