import { TestBed } from '@angular/core/testing';
import { signal } from '@angular/core';
import { MadeAhead } from './made-ahead';
import type { Sound } from './messages';
import { StageListen } from './stage-listen';
import { StagePlaces } from './stage-places';
import { StageSound } from './stage-sound';

const soundOf = (level: number): Sound => ({
  channels: [new Float32Array(100).fill(level), new Float32Array(100)],
  sampleRate: 48000,
});

/** At a place to listen, at which a sound was rendered, or none could be. */
async function at(rendered: Promise<Sound>) {
  const played: Sound[] = [];
  const now = signal({ checkpoint: { note: 36, hear: 'A bright saw.' }, sound: {} });
  const toggle = (_: string, sound: Sound) => played.push(sound);
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      { provide: StagePlaces, useValue: { now } },
      { provide: MadeAhead, useValue: { sound: () => rendered } },
      { provide: StageSound, useValue: { playing: () => false, toggle } },
    ],
  });
  const fixture = TestBed.createComponent(StageListen);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  page.querySelector('button')!.click();
  await rendered.catch(() => undefined);
  await fixture.whenStable();
  return { page, played, fixture, now };
}

describe('a place to listen', () => {
  it('says which key to play and what one should hear, and plays it', async () => {
    const { page, played } = await at(Promise.resolve(soundOf(0.1)));
    expect(page.textContent).toContain('C2');
    expect(page.textContent).toContain('A bright saw.');
    expect(played).toEqual([soundOf(0.1)]);
    expect(page.querySelector('.error')).toBeNull();
  });

  it('says so where nothing sounds yet, until another place comes', async () => {
    const { page, played, fixture, now } = await at(Promise.resolve(soundOf(0.0005)));
    expect(page.querySelector('.error')!.textContent).toContain('Nothing sounds yet');
    expect(played).toEqual([]);
    now.set({ ...now(), checkpoint: { note: 48, hear: 'The same, short.' } });
    await fixture.whenStable();
    expect(page.querySelector('.error')).toBeNull();
  });

  it('says why a sound could not be made', async () => {
    const { page, played } = await at(Promise.reject(new Error('Too much at once.')));
    expect(page.querySelector('.error')!.textContent).toContain('Too much at once.');
    expect(played).toEqual([]);
  });
});
