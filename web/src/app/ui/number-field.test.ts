import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { NumberField, readNumber } from './number-field';

let fixture: ComponentFixture<NumberField>;
let taken: number[];
const field = (): HTMLInputElement =>
  (fixture.nativeElement as HTMLElement).querySelector('input') as HTMLInputElement;
const fault = (): string | undefined =>
  (fixture.nativeElement as HTMLElement).querySelector('[role=alert]')?.textContent?.trim();

async function type(text: string): Promise<void> {
  field().value = text;
  field().dispatchEvent(new Event('change'));
  await fixture.whenStable();
}

beforeEach(async () => {
  fixture = TestBed.createComponent(NumberField);
  for (const [name, value] of Object.entries({ label: 'bpm', value: 120, min: 20, max: 400 })) {
    fixture.componentRef.setInput(name, value);
  }
  taken = [];
  fixture.componentInstance.taken.subscribe((value) => taken.push(value));
  await fixture.whenStable();
});

describe('a field for a number', () => {
  it('takes a number with a comma as well as with a point', async () => {
    await type('98,5');
    expect(taken).toEqual([98.5]);
    expect(fault()).toBeUndefined();
  });

  it('keeps what it cannot take, and says what it expects', async () => {
    for (const text of ['fast', '', '401']) {
      await type(text);
      expect(fault()).toBe('expected a number from 20 to 400');
      expect(field().value).toBe(text);
    }
    expect(taken).toEqual([]);
    await type('90');
    expect([taken, fault()]).toEqual([[90], undefined]);
  });

  it('forgets on Escape', async () => {
    await type('fast');
    field().dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    await fixture.whenStable();
    expect([field().value, fault()]).toEqual(['120', undefined]);
  });

  it('takes whole numbers only where it is told to', async () => {
    fixture.componentRef.setInput('whole', true);
    await type('4.5');
    expect(fault()).toMatch(/a whole number/);
  });
});

it.each([
  ['−3', -3],
  [' 1,5 ', 1.5],
  ['', undefined],
  ['4 bars', undefined],
])('reads %p as %p', (text, value) => expect(readNumber(text)).toBe(value));
