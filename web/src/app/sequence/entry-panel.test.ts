import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type Instrument, parseSteps, patternSchema } from '@hurrel/core';
import { drumBox, lineBox, openPatch } from '../../testing/open-patch';
import { EntryPanel } from './entry-panel';

let fixture: ComponentFixture<EntryPanel>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const titles = (): string[] =>
  [...page().querySelectorAll('li strong')].map((e) => e.textContent!.trim());
const field = (label: string): HTMLSelectElement | undefined =>
  [...page().querySelectorAll('label')]
    .find((l) => l.textContent!.includes(label))
    ?.querySelector('select') ?? undefined;

async function open(instrument: Instrument, text: string) {
  const reading = parseSteps(text, 48);
  if (!reading.ok) throw new Error(reading.error.message);
  const { steps, length } = reading;
  const box = instrument.sequencers[0]!;
  const { id, name } = box.tracks[0] ?? { id: 'a', name: 'a' };
  const pattern = { id: 'p', name: 'p', sequencer: box.id, tracks: [{ id, name, steps, length }] };
  openPatch(instrument, { patterns: [patternSchema.parse(pattern)] });
  fixture = TestBed.createComponent(EntryPanel);
  await fixture.whenStable();
}

describe('the presses that enter a pattern', () => {
  it('begin with the pass that is wished, where the box takes either', async () => {
    await open(lineBox, "c2 . d2' e2");
    const passes = (): string[] => titles().filter((t) => t === 'pitches' || t === 'time');
    expect(passes()).toEqual(['pitches', 'time']);
    const first = field('Begin with')!;
    first.value = 'time';
    first.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(passes()).toEqual(['time', 'pitches']);
    expect(page().textContent).toContain('presses, about');
  });

  it('ask nothing of a box that has no passes, nor of one that wants the pitches first', async () => {
    await open(drumBox, 'c2 . c2 .');
    expect(field('Begin with')).toBeUndefined();
    TestBed.resetTestingModule();
    const [{ passes: _, ...box }] = lineBox.sequencers as [Instrument['sequencers'][number]];
    await open({ ...lineBox, sequencers: [box] }, 'c2 . d2 .');
    expect(field('Begin with')).toBeUndefined();
    expect(titles()).toContain('pitches');
  });
});
