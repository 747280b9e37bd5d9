import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { stagePanelSchema, type StagePanel } from '@hurrel/core';
import { ToastService } from '../ui/toasts';
import { UnitsService } from '../units/units.service';
import { PanelUnit } from './panel-unit';
import { SetDesk } from './set-desk';

const changes: unknown[] = [];
const told: string[] = [];
let away = false;
let fixture: ComponentFixture<PanelUnit>;

const select = (): HTMLSelectElement =>
  (fixture.nativeElement as HTMLElement).querySelector('select')!;
const says = (): string[] => [...select().options].map((o) => o.textContent!.trim());
const pick = async (value: string): Promise<void> => {
  select().value = value;
  select().dispatchEvent(new Event('change'));
  await new Promise((made) => setTimeout(made));
  await fixture.whenStable();
};

async function show(more: Partial<StagePanel> = {}): Promise<void> {
  changes.length = told.length = 0;
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      {
        provide: SetDesk,
        useValue: { changePanel: (id: string, of: object) => changes.push([id, of]) },
      },
      { provide: ToastService, useValue: { show: (text: string) => told.push(text) } },
      {
        provide: UnitsService,
        useValue: {
          of: async (instrument: string) => [
            { id: 'u1', unit: { instrument, name: 'the grey one' } },
          ],
          add: async (unit: { name: string }) => {
            if (away) throw new Error('The server does not answer.');
            return { id: 'u2', unit };
          },
        },
      },
    ],
  });
  fixture = TestBed.createComponent(PanelUnit);
  const panel = { id: 'c', name: 'Curlew left', instrument: 'staithe-curlew', ...more };
  fixture.componentRef.setInput('panel', stagePanelSchema.parse(panel));
  await fixture.whenStable();
  // The units come after the first drawing.
  await new Promise((read) => setTimeout(read));
  await fixture.whenStable();
}

describe('which unit a panel of a set is', () => {
  beforeEach(() => (away = false));

  it('is chosen of those of its instrument, or left open', async () => {
    await show();
    expect(says()).toEqual(['whichever unit', 'the grey one', 'a new unit, Curlew left']);
    expect(select().value).toBe('');
    await pick('u1');
    expect(changes).toEqual([['c', { unit: 'u1' }]]);
    await show({ unit: 'u1' });
    expect(select().value).toBe('u1');
    await pick('');
    expect(changes).toEqual([['c', { unit: undefined }]]);
  });

  it('is made where there is none yet', async () => {
    await show();
    await pick('new');
    expect(changes).toEqual([['c', { unit: 'u2' }]]);
    expect(says()).toContain('Curlew left');
    away = true;
    await show();
    await pick('new');
    expect(changes).toEqual([]);
    expect(told).toEqual(['The server does not answer.']);
  });

  it('is told to be gone where it is', async () => {
    await show({ unit: 'u9' });
    expect(says()).toContain('a unit that is gone');
    expect(select().value).toBe('u9');
  });
});
