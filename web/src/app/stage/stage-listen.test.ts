import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { signal } from '@angular/core';
import { LiveService } from '../sound/live.service';
import { RecordingPlayer } from '../sound/recording-player';
import { MadeAhead } from './made-ahead';
import type { Sound } from './messages';
import { StageListen } from './stage-listen';
import { StagePlaces } from './stage-places';
import { StageSound } from './stage-sound';

const soundOf = (level: number): Sound => ({
  channels: [new Float32Array(100).fill(level), new Float32Array(100)],
  sampleRate: 48000,
});

/** What is played instead of by a machine. */
let played: Float32Array[][] = [];
beforeEach(() => {
  played = [];
  jest
    .spyOn(RecordingPlayer.prototype, 'play')
    .mockImplementation((channels) => void played.push([...channels]));
});

const LOW = { note: 36, hear: 'A bright saw.' };

/** At a place to listen, at which a sound was rendered, or none could be. */
async function at(rendered: Promise<Sound>) {
  const now = signal({ name: 'one', checkpoints: [LOW], sounds: [{}] });
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      StageSound,
      { provide: LiveService, useValue: { volume: () => 1 } },
      { provide: StagePlaces, useValue: { now } },
      { provide: MadeAhead, useValue: { sound: () => rendered } },
    ],
  });
  const fixture = TestBed.createComponent(StageListen);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  page.querySelector('button')!.click();
  await rendered.catch(() => undefined);
  await fixture.whenStable();
  return { page, fixture, now };
}

describe('a place to listen', () => {
  it('says which key to play and what one should hear, and plays it', async () => {
    const { page } = await at(Promise.resolve(soundOf(0.1)));
    expect(page.textContent).toContain('C2');
    expect(page.textContent).toContain('A bright saw.');
    expect(played).toEqual([soundOf(0.1).channels]);
    expect(page.querySelector('.error')).toBeNull();
  });

  it('says so where nothing sounds yet, until another place comes', async () => {
    const { page, fixture, now } = await at(Promise.resolve(soundOf(0.0005)));
    expect(page.querySelector('.error')!.textContent).toContain('Nothing sounds yet');
    expect(played).toEqual([]);
    now.set({ ...now(), checkpoints: [{ note: 48, hear: 'The same, short.' }] });
    await fixture.whenStable();
    expect(page.querySelector('.error')).toBeNull();
  });

  it('goes through several keys of one place, one after the other', async () => {
    const { page, fixture, now } = await at(Promise.resolve(soundOf(0.1)));
    now.set({
      name: 'two',
      checkpoints: [LOW, { note: 84, hear: 'A whistle.' }],
      sounds: [{}, {}],
    });
    await fixture.whenStable();
    const marked = () =>
      [...page.querySelectorAll('.key')].map((key) => key.querySelector('kbd') !== null);
    expect(page.textContent).toContain('C6');
    expect(marked()).toEqual([true, false]);
    for (const after of [
      [false, true],
      [true, false],
    ]) {
      dispatchEvent(new KeyboardEvent('keydown', { key: 'h' }));
      await new Promise((on) => setTimeout(on));
      await fixture.whenStable();
      expect(marked()).toEqual(after);
    }
    expect(played).toHaveLength(3);
  });

  it('says why a sound could not be made', async () => {
    const { page } = await at(Promise.reject(new Error('Too much at once.')));
    expect(page.querySelector('.error')!.textContent).toContain('Too much at once.');
    expect(played).toEqual([]);
  });
});
