import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { LiveService } from '../sound/live.service';
import { RecordingPlayer } from '../sound/recording-player';
import { StageSound } from './stage-sound';

const loud = (level: number) => ({
  channels: [new Float32Array(9), new Float32Array(9).fill(-level)],
  sampleRate: 48000,
});

/** How loud each was played, by a machine that lets sound out or does not. */
function stage(machine: 'runs' | 'stands still') {
  const gains: number[] = [];
  jest.spyOn(RecordingPlayer.prototype, 'play').mockImplementation(function (
    this: RecordingPlayer,
    _channels,
    _rate,
    gain,
  ) {
    gains.push(gain);
    if (machine === 'runs') this.playing.set(true);
    else (this as unknown as { silent: (why: string) => void }).silent('No sound comes out.');
  });
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [StageSound, { provide: LiveService, useValue: { volume: () => 0.5 } }],
  });
  return { sound: TestBed.inject(StageSound), gains };
}

describe('what is heard on stage', () => {
  it('is as loud as was set, and never above full scale', () => {
    const { sound, gains } = stage('runs');
    sound.toggle('a', loud(0.25), 'silent');
    sound.toggle('b', loud(2), 'silent');
    expect(gains).toEqual([0.5, 0.25]);
    expect([sound.playing('a'), sound.playing('b')]).toEqual([false, true]);
    sound.toggle('b', loud(2), 'silent');
    expect(sound.playing('b')).toBe(false);
  });

  it('is not played where there is nothing to hear, which is said until it is forgotten', () => {
    const { sound, gains } = stage('runs');
    sound.toggle('a', loud(0.25), 'silent');
    sound.toggle('b', loud(0.0009), 'silent');
    expect(gains).toHaveLength(1);
    // What played before is over: nobody takes it for what was asked for.
    expect([sound.playing('a'), sound.playing('b')]).toEqual([false, false]);
    expect([sound.unheard('a'), sound.unheard('b')]).toEqual(['', 'silent']);
    sound.toggle('b', loud(0.0011), 'silent');
    expect(sound.unheard('b')).toBe('');
    sound.toggle('b', loud(0.0011), 'silent');
    sound.toggle('b', loud(0), 'silent');
    sound.forget();
    expect(sound.unheard('b')).toBe('');
  });

  it('is said to be unheard where the machine lets no sound out', () => {
    const { sound } = stage('stands still');
    sound.toggle('a', loud(0.25), 'silent');
    expect([sound.unheard('a'), sound.playing('a')]).toEqual(['No sound comes out.', false]);
    expect(sound.unheard('b')).toBe('');
  });
});
