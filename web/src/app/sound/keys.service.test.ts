import { TestBed } from '@angular/core/testing';
import { Act } from '@hurrel/core';
import { LiveService } from './live.service';
import { KeysService } from './keys.service';

/** What live sound was told. */
let told: string[];
const live = {
  press: (note: number, velocity: number) => told.push(`press ${note} at ${velocity}`),
  release: (note: number) => told.push(`release ${note}`),
  act: (act: Act, _note: number, value: number) => told.push(`${Act[act]} ${value.toFixed(2)}`),
  stop: () => told.push('stop'),
};
let keys: KeysService;
const strike = (type: 'keydown' | 'keyup', code: string, key = code): void =>
  void document.dispatchEvent(
    new KeyboardEvent(type, { code, key, bubbles: true, cancelable: true }),
  );

beforeEach(() => {
  told = [];
  TestBed.configureTestingModule({
    providers: [KeysService, { provide: LiveService, useValue: live }],
  });
  keys = TestBed.inject(KeysService);
});
afterEach(() => TestBed.resetTestingModule());

describe('the keys', () => {
  it('play only while they are switched on, at the octave and velocity that are set', () => {
    strike('keydown', 'KeyA');
    expect(told).toEqual([]);
    strike('keydown', 'F2');
    keys.velocity.set(64);
    strike('keydown', 'KeyX');
    strike('keydown', 'KeyW');
    strike('keyup', 'KeyW');
    expect(told).toEqual(['press 61 at 64', 'release 61']);
  });

  it('let go of what they pressed, even after the octave has changed', () => {
    keys.on.set(true);
    strike('keydown', 'KeyA');
    strike('keydown', 'KeyZ');
    strike('keyup', 'KeyA');
    expect(told).toEqual(['press 48 at 100', 'release 48']);
  });

  it('latch: once sounds, once more is silent; another chord takes the place of the last', () => {
    keys.setLatch(true);
    keys.press('screen60', [60]);
    keys.release('screen60');
    keys.press('screen60', [60]);
    expect(told).toEqual(['press 60 at 100', 'release 60']);
    told = [];
    keys.pressPad(0);
    keys.releasePad(0);
    keys.pressPad(5);
    // C minor and G minor share their G: it goes on.
    expect(told.filter((t) => t.startsWith('press'))).toHaveLength(6);
    expect(told.filter((t) => t.startsWith('release'))).toEqual([
      'release 48',
      'release 51',
      'release 55',
    ]);
  });

  it('a note that two keys hold goes on until both are up', () => {
    keys.press('one', [60]);
    keys.press('two', [60, 64]);
    keys.release('one');
    expect(told).not.toContain('release 60');
    keys.release('two');
    expect(told).toContain('release 60');
  });

  it('hands send what a MIDI controller would, and a MIDI keyboard is understood', () => {
    keys.move(Act.wheel, 1);
    keys.move(Act.bend, -1);
    keys.setPedal(true);
    expect(told).toEqual(['wheel 1.00', 'bend -1.00', 'pedal 1.00']);
    expect([keys.wheel(), keys.bend(), keys.pedal()]).toEqual([1, -1, true]);
    told = [];
    keys.midi([0x93, 72, 33]);
    keys.midi([0x83, 72, 0]);
    keys.midi([0xf8]);
    expect(told).toEqual(['press 72 at 33', 'release 72']);
  });

  it('leave nothing hanging', () => {
    keys.press('one', [60]);
    dispatchEvent(new Event('blur'));
    expect(told).toEqual(['press 60 at 100', 'release 60']);
  });
});
