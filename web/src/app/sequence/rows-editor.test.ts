import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type Instrument, instrumentSchema } from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sedge.json';
import { openPatch } from '../../testing/open-patch';
import { RowsEditor } from './rows-editor';
import { RunnerService } from './runner.service';

const sedge: Instrument = instrumentSchema.parse(document);
const sequencer = sedge.sequencers[0]!;
const row = sequencer.rows.find((r) => r.pitch)!;

let fixture: ComponentFixture<RowsEditor>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;

async function open() {
  const opened = openPatch(sedge, {}, [
    { provide: RunnerService, useValue: { stepOfTrack: () => -1 } },
  ]);
  opened.sequence.add(sequencer.id);
  fixture = TestBed.createComponent(RowsEditor);
  await fixture.whenStable();
  return opened.sequence;
}

async function type(step: number, text: string): Promise<void> {
  const field = page().querySelector<HTMLInputElement>(
    `input[aria-label="Volts or note of ${row.name} step ${step}"]`,
  )!;
  field.value = text;
  field.dispatchEvent(new Event('change'));
  await fixture.whenStable();
}

describe('rows of voltages', () => {
  it('take volts, notes and semitones', async () => {
    const sequence = await open();
    const volts = (): number[] => sequence.track()!.rows[row.id] ?? [];
    await type(1, '1.25');
    expect(volts()[0]).toBeCloseTo(1.25, 3);
    await type(2, '1,5 V');
    expect(volts()[1]).toBeCloseTo(1.5, 3);
    const before = volts()[2];
    await type(3, 'h9');
    expect(volts()[2]).toBe(before);
    // It began with what the panel showed: a step for each knob.
    expect(volts()).toHaveLength(row.controls.length);
  });

  it('read a note back as the note that was typed', async () => {
    const sequence = await open();
    await type(1, 'g4');
    await type(2, '7 st');
    const [first, second] = sequence.track()!.rows[row.id]!;
    // G4 is seven semitones above the row's bottom, C4.
    expect(first).toBeCloseTo(second!, 3);
    expect(page().querySelector('.step strong')!.textContent).toBe('G4');
  });

  it('hold what lies beyond their reach at its end', async () => {
    const sequence = await open();
    await type(1, '900');
    const held = sequence.track()!.rows[row.id]![0]!;
    expect(held).toBeLessThan(20);
    await type(1, '-900');
    expect(sequence.track()!.rows[row.id]![0]!).toBeLessThan(held);
  });

  it('end at the last step, which is told apart from those beyond', async () => {
    const sequence = await open();
    const last = page().querySelector('select')!;
    last.value = '5';
    last.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(sequence.track()!.length).toBe(5);
    const steps = page().querySelectorAll(`section[aria-label="${row.name}"] .step`);
    expect([...steps].map((s) => s.classList.contains('beyond'))).toEqual(
      Array.from({ length: steps.length }, (_, i) => i >= 5),
    );
  });

  it('say how they run only where the panel says it; else their own clock does', async () => {
    await open();
    const labels = (): string[] =>
      [...page().querySelectorAll('.run label')].flatMap(
        (l) => /^(Last step|Direction|Steps of|Swing)/.exec(l.textContent!.trim())?.[0] ?? [],
      );
    expect(labels()).toEqual(expect.arrayContaining(['Last step', 'Direction', 'Steps of']));
    expect(page().textContent).not.toContain('its own clock');
    TestBed.resetTestingModule();
    const [first] = sedge.sequencers;
    const { rate: _, direction: __, ...panel } = first!.panel;
    const opened = openPatch({ ...sedge, sequencers: [{ ...first!, panel }] }, {}, [
      { provide: RunnerService, useValue: { stepOfTrack: () => -1 } },
    ]);
    opened.sequence.add(first!.id);
    fixture = TestBed.createComponent(RowsEditor);
    await fixture.whenStable();
    expect(labels()).not.toContain('Steps of');
    expect(page().textContent).toContain('A step begins with its own clock');
  });
});
