import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { signal } from '@angular/core';
import { eveningSchema, type Song, type SongPatch } from '@hurrel/core';
import { PlayDetails } from './play-details';
import { SetDesk } from './set-desk';

const evening = eveningSchema.parse({
  format: 'hurrel-set',
  version: 1,
  name: 'Skerrow Lock',
  people: [
    { id: 'low', name: 'low keys' },
    { id: 'high', name: 'high keys' },
  ],
  panels: [{ id: 's', name: 'Sluice', instrument: 'oxbow-sluice', by: 'low' }],
  songs: [{ id: 'one', name: 'One', pause: 60, plays: [{ panel: 's', patch: 'bass' }] }],
});

let fixture: ComponentFixture<PlayDetails>;
const song = signal<Song>(evening.songs[0]!);
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const summary = (): string => page().querySelector('summary')!.textContent!.trim();
const field = (name: string): HTMLInputElement => page().querySelector(`[aria-label="${name}"]`)!;
const play = (): SongPatch => song().plays[0]!;

async function type(name: string, text: string): Promise<void> {
  field(name).value = text;
  field(name).dispatchEvent(new Event('change'));
  await shown();
}
async function shown(): Promise<void> {
  fixture.componentRef.setInput('song', song());
  await fixture.whenStable();
}

beforeEach(async () => {
  song.set(evening.songs[0]!);
  const desk = {
    evening: signal(evening),
    patchName: () => 'Winch Room bass',
    changeSong: (_id: string, changes: Partial<Song>) => song.update((s) => ({ ...s, ...changes })),
  };
  TestBed.configureTestingModule({ providers: [{ provide: SetDesk, useValue: desk }] });
  fixture = TestBed.createComponent(PlayDetails);
  fixture.componentRef.setInput('at', 0);
  await shown();
});

describe('one part of a song', () => {
  it('says nothing of what is not said, and then what is', async () => {
    expect(summary()).toBe('who, which bars, when a hand is free');
    const by = page().querySelector('select')!;
    by.value = 'high';
    by.dispatchEvent(new Event('change'));
    await shown();
    await type('First bar of Winch Room bass', '9');
    await type('Last bar of Winch Room bass', '40');
    await type('A hand is free from this bar of Winch Room bass', '32');
    expect(play()).toMatchObject({ by: 'high', from: 9, to: 40, free: { bar: 32, hand: 'left' } });
    expect(summary()).toBe('high keys, bars 9 to 40, left hand free from bar 32');
  });

  it('takes what is emptied away', async () => {
    await type('First bar of Winch Room bass', '9');
    await type('A hand is free from this bar of Winch Room bass', '32');
    await type('First bar of Winch Room bass', '');
    await type('A hand is free from this bar of Winch Room bass', ' ');
    expect(play()).not.toHaveProperty('from');
    expect(play()).not.toHaveProperty('free');
  });

  it('puts back what is no bar, and bars that run backwards', async () => {
    await type('First bar of Winch Room bass', '9');
    for (const wrong of ['0', '2.5', 'verse', '-3', '10001']) {
      await type('First bar of Winch Room bass', wrong);
      expect([wrong, field('First bar of Winch Room bass').value]).toEqual([wrong, '9']);
      await type('A hand is free from this bar of Winch Room bass', wrong);
      expect(field('A hand is free from this bar of Winch Room bass').value).toBe('');
    }
    await type('Last bar of Winch Room bass', '8');
    expect(field('Last bar of Winch Room bass').value).toBe('');
    expect(play()).toMatchObject({ from: 9 });
    expect(play()).not.toHaveProperty('to');
  });

  it('says which hand, once there is a bar', async () => {
    const hand = page().querySelectorAll('select')[1]!;
    hand.value = 'both';
    hand.dispatchEvent(new Event('change'));
    await shown();
    expect(play()).not.toHaveProperty('free');
    await type('A hand is free from this bar of Winch Room bass', '4');
    expect(summary()).toMatch(/^both hands free from bar 4$|^left hand free from bar 4$/);
    const again = page().querySelectorAll('select')[1]!;
    again.value = 'both';
    again.dispatchEvent(new Event('change'));
    await shown();
    expect(summary()).toBe('both hands free from bar 4');
  });

  it('stays on its panel', async () => {
    const locked = page().querySelector<HTMLInputElement>('input[type="checkbox"]')!;
    locked.checked = true;
    locked.dispatchEvent(new Event('change'));
    await shown();
    expect(play()).toMatchObject({ locked: true });
    expect(summary()).toBe('stays here');
  });
});
