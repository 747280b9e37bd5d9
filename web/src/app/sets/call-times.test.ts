import { signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type Calls, type Evening, eveningSchema } from '@hurrel/core';
import { CallTimes } from './call-times';
import { SetDesk } from './set-desk';

const evening = signal<Evening | null>(null);
let fixture: ComponentFixture<CallTimes>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const text = (): string => page().textContent.replace(/\s+/g, ' ').trim();
const field = (name: string): HTMLInputElement =>
  [...page().querySelectorAll('label')]
    .find((l) => l.textContent.trim() === name)!
    .querySelector('input')!;
const type = async (name: string, value: string): Promise<void> => {
  field(name).value = value;
  field(name).dispatchEvent(new Event('change'));
  await fixture.whenStable();
};

async function show(calls: Calls = {}, pause = 900): Promise<void> {
  const songs = [{ id: 'one', name: 'One', pause }];
  const set = { format: 'hurrel-set', version: 1, name: 'Skerrow Lock', calls, songs };
  evening.set(eveningSchema.parse(set));
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      {
        provide: SetDesk,
        useValue: {
          evening,
          change: (of: Partial<Evening>) => evening.update((e) => ({ ...e!, ...of })),
        },
      },
    ],
  });
  fixture = TestBed.createComponent(CallTimes);
  await fixture.whenStable();
}

describe('call times', () => {
  it('are said one by one, told in a line, and left out again', async () => {
    await show();
    expect(text()).toContain('Say when the first song begins');
    await type('doors', '20:00');
    await type('first song', '21:00');
    expect(evening()!.calls).toEqual({ doors: '20:00', begins: '21:00' });
    expect(text()).toMatch(/^Call times doors 20:00 first song 21:00/);
    await type('doors', '');
    expect(evening()!.calls).toEqual({ begins: '21:00' });
  });

  it('that go round in a circle are told, and not kept', async () => {
    await show({ soundCheck: '17:30', begins: '21:00' });
    await type('doors', '17:00');
    expect(page().querySelector('[role="alert"]')?.textContent).toBe(
      'First song at 21:00 is before doors at 17:00.',
    );
    expect(evening()!.calls).toEqual({ soundCheck: '17:30', begins: '21:00' });
    expect(field('doors').value).toBe('');
    await type('doors', '20:00');
    expect(page().querySelector('[role="alert"]')).toBeNull();
  });

  it('tell where less time is there before doors than is counted on', async () => {
    await show({ soundCheck: '19:50', doors: '20:00' });
    expect(text()).toContain('there are 10:00, and 15:00 are counted on before doors');
    await show({ soundCheck: '19:45', doors: '20:00' });
    expect(text()).not.toContain('counted on');
  });
});
