import { Component, input } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type Control, instrumentSchema, type Setting } from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import { ControlView } from './control';

const instrument = instrumentSchema.parse(document);

@Component({
  imports: [ControlView],
  template: `<svg>
    <g hurControl [control]="control()" [setting]="setting()" section="Filter"></g>
  </svg>`,
})
class Host {
  readonly control = input.required<Control>();
  readonly setting = input<Setting | undefined>();
}

async function show(id: string, setting?: Setting): Promise<Element> {
  const fixture: ComponentFixture<Host> = TestBed.createComponent(Host);
  fixture.componentRef.setInput(
    'control',
    instrument.controls.find((c) => c.id === id)!,
  );
  fixture.componentRef.setInput('setting', setting);
  await fixture.whenStable();
  return (fixture.nativeElement as HTMLElement).querySelector('[data-control]')!;
}

describe('a control on the panel', () => {
  it('tells its name, reading and kind to those who do not see it', async () => {
    const knob = await show('cutoff', { kind: 'range', from: 0.35, to: 0.4, best: 0.37 });
    expect(knob.getAttribute('aria-label')).toBe('Filter cutoff');
    expect(knob.getAttribute('aria-valuetext')).toBe('3.5–4, best 3.7');
    expect(knob.getAttribute('aria-valuenow')).toBe('37');
    expect(knob.getAttribute('data-kind')).toBe('range');
    expect(knob.getAttribute('tabindex')).toBe('0');
  });

  it('tells not recorded from not mattering', async () => {
    expect((await show('cutoff')).getAttribute('aria-valuetext')).toBe('not recorded');
    expect((await show('cutoff', { kind: 'any' })).getAttribute('aria-valuetext')).toBe(
      'does not matter',
    );
  });

  it('draws a switch as words, the chosen one in its own cell', async () => {
    const shape = await show('osc1-shape', { kind: 'set', value: 'sine' });
    expect(
      [...shape.querySelectorAll('.letter-word-on')].map((t) => t.textContent!.trim()),
    ).toEqual(['sine']);
    expect(shape.querySelectorAll('.pen-cell')).toHaveLength(4);
    expect(shape.getAttribute('aria-valuemax')).toBe('4');
  });
});
