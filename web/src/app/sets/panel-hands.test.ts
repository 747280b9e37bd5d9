import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { type Evening, eveningSchema, type StagePanel } from '@hurrel/core';
import { PanelHands } from './panel-hands';
import { SetDesk } from './set-desk';

function at() {
  const evening = signal<Evening>(
    eveningSchema.parse({
      format: 'hurrel-set',
      version: 1,
      name: 'Skerrow Lock',
      people: [
        { id: 'low', name: 'low keys' },
        { id: 'high', name: 'high keys' },
        { id: 'hand', name: 'stage hand' },
      ],
      panels: [{ id: 's', name: 'Sluice', instrument: 'oxbow-sluice', by: 'low' }],
    }),
  );
  const changePanel = (id: string, changes: Partial<StagePanel>): void =>
    evening.update((e) => ({
      ...e,
      panels: e.panels.map((p) => (p.id === id ? { ...p, ...changes } : p)),
    }));
  TestBed.configureTestingModule({
    providers: [{ provide: SetDesk, useValue: { evening, changePanel } }],
  });
  const fixture = TestBed.createComponent(PanelHands);
  const panel = (): StagePanel => evening().panels[0]!;
  const draw = async (): Promise<void> => {
    fixture.componentRef.setInput('panel', panel());
    await fixture.whenStable();
  };
  const page = fixture.nativeElement as HTMLElement;
  const pick = async (label: string, value: string): Promise<void> => {
    const field = page.querySelector<HTMLSelectElement>(`select[aria-label="${label}"]`)!;
    field.value = value;
    field.dispatchEvent(new Event('change'));
    await draw();
  };
  return { page, panel, draw, pick };
}

describe('hands that reach a panel', () => {
  it('are named, with their way, and taken back', async () => {
    const { page, panel, draw, pick } = at();
    await draw();
    const offered = [...page.querySelectorAll('select:last-child option')].map((o) =>
      o.textContent!.trim(),
    );
    expect(offered).toEqual(['who may help …', 'high keys', 'stage hand']);
    await pick('Who may help at Sluice', 'hand');
    expect(panel().also).toEqual([{ by: 'hand', walk: 5, beside: false }]);
    const field = page.querySelector<HTMLInputElement>('hur-number-field input')!;
    field.value = '12';
    field.dispatchEvent(new Event('change'));
    await draw();
    expect(panel().also).toEqual([{ by: 'hand', walk: 12, beside: false }]);
    page.querySelector<HTMLInputElement>('.helper input[type=checkbox]')!.click();
    await draw();
    expect(panel().also).toEqual([{ by: 'hand', walk: 12, beside: true }]);
    page.querySelector<HTMLButtonElement>('.helper button')!.click();
    await draw();
    expect(panel().also).toEqual([]);
  });

  it('are the left or the right one, or either', async () => {
    const { panel, draw, pick } = at();
    await draw();
    await pick('Which hand reaches Sluice', 'left');
    expect(panel().side).toBe('left');
    await pick('Which hand reaches Sluice', '');
    expect(panel().side).toBeUndefined();
  });
});
