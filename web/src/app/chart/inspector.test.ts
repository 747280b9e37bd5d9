import { type ComponentFixture, TestBed } from '@angular/core/testing';
import {
  blankPatch,
  type Finding,
  instrumentSchema,
  type Mend,
  type Setting,
  type Sensitivity,
} from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import { SensitivityService } from '../sound/sensitivity.service';
import { Inspector } from './inspector';

const instrument = instrumentSchema.parse(document);
const control = (id: string) => instrument.controls.find((c) => c.id === id);
const patch = {
  ...blankPatch(instrument, 'x'),
  about: 'A test of words.',
  settings: { cutoff: { kind: 'range', from: 0.35, to: 0.4, best: 0.37 } as Setting },
  notes: { 'control:cutoff': 'The floor must stay.' },
};
const finding: Finding = {
  id: 'silent-gain:out.level',
  severity: 'silent',
  title: 'Silent: every way to the output is turned down',
  why: 'Out level is at 0.',
  controls: ['level'],
  mend: { text: 'Set Out level to 7', settings: { level: { kind: 'set', value: 0.7 } } },
};

let fixture: ComponentFixture<Inspector>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const text = (): string => page().textContent!.replace(/\s+/g, ' ');
async function show(inputs: Record<string, unknown>): Promise<void> {
  fixture = TestBed.createComponent(Inspector);
  for (const [name, value] of Object.entries({ instrument, patch, ...inputs })) {
    fixture.componentRef.setInput(name, value);
  }
  await fixture.whenStable();
}
const button = (name: string): HTMLButtonElement =>
  [...page().querySelectorAll('button')].find((b) => b.textContent!.trim() === name)!;

beforeEach(() => TestBed.configureTestingModule({ providers: [SensitivityService] }));

describe('the inspector', () => {
  it('says what a reading means, how well it can be read, and why it is there', async () => {
    await show({ control: control('cutoff') });
    expect(page().querySelector<HTMLInputElement>('#reading')!.value).toBe('3.5 to 4 best 3.7');
    expect(text()).toContain('258 Hz, read as well as 217 Hz to 306 Hz');
    expect(page().querySelector('textarea')!.value).toBe('The floor must stay.');
    expect(page().querySelector('.kinds .on')!.textContent!.trim()).toBe('range');
  });

  it('opens the text for a range and for by ear, and records nothing before it is taken', async () => {
    await show({ control: control('resonance') });
    const [written, recorded]: [unknown[], unknown[]] = [[], []];
    fixture.componentInstance.write.subscribe((one) => written.push(one.text));
    fixture.componentInstance.setting.subscribe((one) => recorded.push(one));
    button('by ear').click();
    button('range').click();
    await fixture.whenStable();
    expect(written).toEqual(['~ ', '']);
    expect(recorded).toEqual([]);
    expect(globalThis.document.activeElement?.id).toBe('reading');
  });

  it('leaves a message with the control that it is about', async () => {
    const error = { message: 'Nothing like it.', expected: 'a number' };
    const draft = { control: control('cutoff')!, text: 'xx', error };
    await show({ control: control('resonance'), draft });
    expect(text()).not.toContain('Nothing like it.');
    fixture.componentRef.setInput('control', control('cutoff'));
    await fixture.whenStable();
    expect(text()).toContain('Nothing like it.');
  });

  it('shows what a reading would be taken as, before it is taken', async () => {
    const cutoff = control('cutoff')!;
    await show({ control: cutoff, draft: { control: cutoff, text: 'a bit over 3', error: null } });
    const says = page().querySelector('#reading-says')!.textContent!.replace(/\s+/g, ' ');
    expect(says).toContain('3 to 4 best 3.5 · 224 Hz taken as 3 to 4');
  });

  it('offers no range where there are positions', async () => {
    await show({ control: control('osc1-shape') });
    expect([...page().querySelectorAll('.kinds button')].map((b) => b.textContent!.trim())).toEqual(
      ['exact', 'by ear', 'any', '?'],
    );
  });

  it('turns a setting into another kind at the same place', async () => {
    await show({ control: control('cutoff') });
    const given: unknown[] = [];
    fixture.componentInstance.setting.subscribe((s) => given.push(s));
    button('exact').click();
    button('?').click();
    expect(given).toEqual([
      { control: 'cutoff', setting: { kind: 'set', value: 0.37 } },
      { control: 'cutoff', setting: null },
    ]);
  });

  it('tells what is wrong, and gives out its mend', async () => {
    await show({ findings: [finding] });
    const mended: Mend[] = [];
    fixture.componentInstance.mended.subscribe((m) => mended.push(m));
    expect(text()).toContain('Out level is at 0.');
    expect(text()).not.toContain('nothing looks wrong');
    button('Set Out level to 7').click();
    expect(mended).toEqual([finding.mend]);
  });

  it('says that nothing is wrong only when it sounds', async () => {
    await show({ picture: { peakVolts: 2, cutoff: [] } });
    expect(text()).toContain('It sounds, and nothing looks wrong.');
    await show({ checking: true });
    expect(text()).toContain('Checking against the sound');
    expect(text()).not.toContain('nothing looks wrong');
  });

  it('explains itself while nothing is chosen', async () => {
    await show({});
    expect(text()).toContain('1 of 47 controls recorded');
    expect(text()).toContain('A test of words.');
    expect(page().querySelectorAll('.legend div')).toHaveLength(5);
  });

  it('shows what was expected when a reading was none', async () => {
    const error = {
      message: '99 is off the scale, which runs from 0 to 10.',
      expected: 'a number from 0 to 10',
    };
    await show({
      control: control('cutoff'),
      draft: { control: control('cutoff'), text: '99', error },
    });
    expect(page().querySelector('#reading-says')!.textContent).toContain('99 is off the scale');
    expect(page().querySelector('#reading')!.getAttribute('aria-invalid')).toBe('true');
  });

  it('ranks what was weighed, and says when the patch has changed since', async () => {
    await show({});
    const weight = (control: string, total: number): Sensitivity => ({
      control,
      from: 0,
      to: 1,
      distance: { timbre: total, level: 0, pitch: 0, total },
    });
    TestBed.inject(SensitivityService).weights.set([
      weight('resonance', 0.4),
      weight('cutoff', 3.2),
      weight('drive', 0.01),
    ]);
    await fixture.whenStable();
    const rows = [...page().querySelectorAll('.matters li')].map((li) =>
      li.textContent!.replace(/\s+/g, ' ').trim(),
    );
    expect(rows).toEqual(['Filter cutoff3.2 dB', 'Filter resonance0.4 dB']);
    expect(text()).toContain('The patch has changed since.');
  });

  it('offers to hear it without what is chosen', async () => {
    await show({ control: control('cutoff') });
    let asked = 0;
    fixture.componentInstance.takenAway.subscribe(() => asked++);
    page().querySelector<HTMLButtonElement>('button.away')!.click();
    expect(asked).toBe(1);
  });
});
