import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideDrawnAtOnce } from './drawn-at-once';

@Component({
  template: `<input #field [value]="length() + ' s'" (change)="length.set(+field.value)" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class OneField {
  readonly length = signal(60);
}

/** Types into a field and leaves it, then types on in the very next task. */
async function typesOn(): Promise<string> {
  const fixture = TestBed.createComponent(OneField);
  fixture.autoDetectChanges();
  await fixture.whenStable();
  const host = fixture.nativeElement as HTMLElement;
  document.body.append(host);
  const field = host.querySelector('input')!;
  expect(field.value).toBe('60 s');
  field.value = '300';
  field.dispatchEvent(new Event('change', { bubbles: true }));
  await Promise.resolve();
  field.value = '10';
  await fixture.whenStable();
  host.remove();
  return field.value;
}

describe('a field that was changed', () => {
  it('is drawn before one can type on', async () => {
    TestBed.configureTestingModule({ providers: [provideDrawnAtOnce()] });
    expect(await typesOn()).toBe('10');
  });

  it('would otherwise be drawn over what was typed', async () => {
    TestBed.configureTestingModule({});
    expect(await typesOn()).toBe('300 s');
  });
});
