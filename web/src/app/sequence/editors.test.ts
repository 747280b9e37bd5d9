import type { Type } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { patternSchema, stepOf, trackSchema } from '@hurrel/core';
import { drumBox, lineBox, notesOf, openPatch } from '../../testing/open-patch';
import { Lane } from './lane';
import { AssignmentService } from './assignment.service';
import { StepPanel } from './step-panel';
import { TrackRow } from './track-row';
import { TypedLine } from './typed-line';
import { WholeText } from './whole-text';

let fixture: ComponentFixture<unknown>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const text = (): string => page().textContent!.replace(/\s+/g, ' ');
async function show<T>(component: Type<T>, inputs: Record<string, unknown> = {}): Promise<void> {
  fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
}
async function type(selector: string, value: string, event = 'input'): Promise<void> {
  const field = page().querySelector<HTMLInputElement | HTMLTextAreaElement>(selector)!;
  field.value = value;
  field.dispatchEvent(new Event(event));
  await fixture.whenStable();
}
async function key(selector: string, init: KeyboardEventInit): Promise<void> {
  page().querySelector(selector)!.dispatchEvent(new KeyboardEvent('keydown', init));
  await fixture.whenStable();
}

describe('the typed line', () => {
  it('shows what it understands, says what it does not, and is taken with Enter', async () => {
    const { sequence } = openPatch(lineBox);
    sequence.add(lineBox.sequencers[0]!.id);
    await show(TypedLine);
    await type('input', 'c2 - . h2');
    expect(text()).toContain('"h2" is none of');
    await key('input', { key: 'Enter' });
    expect(notesOf(sequence.pattern())).toEqual([]);
    await type('input', "c2 - . d#2'");
    expect(text()).toContain('4 steps: 2 notes');
    await key('input', { key: 'Enter' });
    expect(notesOf(sequence.pattern())).toEqual([[36], null, null, [39]]);
    expect(sequence.track()!.length).toBe(4);
  });

  it('is taken when one goes elsewhere; one that was emptied says nothing', async () => {
    const { sequence } = openPatch(lineBox);
    sequence.add(lineBox.sequencers[0]!.id);
    await show(TypedLine);
    const leave = () => type('input', page().querySelector('input')!.value, 'blur');
    await type('input', 'c2 - e2 .');
    await leave();
    expect(notesOf(sequence.pattern())).toEqual([[36], null, [40]]);
    await type('input', '  ');
    await leave();
    expect(notesOf(sequence.pattern())).toEqual([[36], null, [40]]);
    expect(page().querySelector('input')!.value).toContain('c2');
    await type('input', 'c2 h9');
    await leave();
    expect(text()).toContain('"h9" is none of');
  });

  it('leaves the own values of steps that stay', async () => {
    const { sequence } = openPatch(drumBox);
    sequence.add('tracks');
    sequence.editStep({ notes: [48], ownValues: { 'kick-decay': 0.5 } });
    await show(TypedLine);
    await type('input', 'x . x .');
    await key('input', { key: 'Enter' });
    expect(stepOf(sequence.track()!, 0).ownValues).toEqual({ 'kick-decay': 0.5 });
    expect(notesOf(sequence.pattern())).toEqual([[48], null, [48]]);
  });
});

describe('the whole pattern as text', () => {
  it('is typed over, refused by its line, taken, and keeps its own name', async () => {
    const { sequence } = openPatch(drumBox);
    sequence.add('tracks');
    const { id } = sequence.pattern()!;
    await show(WholeText);
    const written = page().querySelector('textarea')!.value;
    await type('textarea', written.replace('bars 1', 'bars none'));
    expect(text()).toMatch(/Line \d+: "none" is no number\./);
    await type(
      'textarea',
      written.replace('bars 1', 'bars 3').replace('then', 'then') + '\nthen x',
    );
    expect(text()).toContain('"then" is none of');
    await type('textarea', written.replace('bars 1', 'bars 3\nthen nowhere'));
    expect(text()).toContain(`There is no pattern "nowhere" to follow: there is ${id} only.`);
    await type(
      'textarea',
      written.replace(`pattern ${id}`, 'pattern other').replace('bars 1', 'bars 3'),
    );
    expect(text()).toContain('Understood: 5 tracks');
    await key('textarea', { key: 'Enter', ctrlKey: true });
    expect(sequence.pattern()).toMatchObject({ id, bars: 3 });
  });

  it('goes back to what is there with Escape', async () => {
    const { sequence } = openPatch(drumBox);
    sequence.add('tracks');
    await show(WholeText);
    await type('textarea', 'nonsense');
    await key('textarea', { key: 'Escape' });
    expect(page().querySelector('textarea')!.value).toMatch(/^pattern /);
  });
});

describe('the step', () => {
  it('takes a switch by its position, and says what is wrong', async () => {
    const { sequence } = openPatch(drumBox, {}, [AssignmentService]);
    sequence.add('tracks');
    sequence.editStep({ notes: [48], ownValues: { 'syn-wave': 'saw' } });
    await show(StepPanel);
    expect(page().querySelector<HTMLInputElement>('#l-syn-wave')!.value).toBe('saw');
    await type('#l-syn-wave', 'pulse', 'change');
    expect(sequence.step().ownValues).toEqual({ 'syn-wave': 'pulse' });
    await type('#l-syn-wave', 'square-ish', 'change');
    expect(page().querySelector<HTMLInputElement>('#l-syn-wave')!.title).toBe(
      'One of its positions.',
    );
    expect(sequence.step().ownValues).toEqual({ 'syn-wave': 'pulse' });
  });

  it('takes numbers within their limits only', async () => {
    const { sequence } = openPatch(drumBox, {}, [AssignmentService]);
    sequence.add('tracks');
    sequence.editStep({ notes: [48] });
    await show(StepPanel);
    await type('#s-velocity', '200', 'change');
    expect(sequence.step().velocity).toBeUndefined();
    await type('#s-velocity', '101', 'change');
    await type('#s-micro', '-25', 'change');
    expect(sequence.step()).toEqual({ notes: [48], velocity: 101, micro: -0.25 });
    await type('#s-micro', '', 'change');
    expect(sequence.step()).toEqual({ notes: [48], velocity: 101 });
  });
});

describe('who gets which note', () => {
  it('is worked out after an edit, and told for the step one stands on', async () => {
    const chord = trackSchema.parse({ id: 't', name: 'T', steps: [{ notes: [48, 52, 55] }] });
    const pattern = patternSchema.parse({ id: 'p1', name: 'P', tracks: [chord] });
    openPatch(lineBox, { patterns: [pattern] }, [AssignmentService]);
    await show(StepPanel);
    const assignment = TestBed.inject(AssignmentService);
    while (assignment.assigned().length === 0) await new Promise((done) => setTimeout(done, 10));
    await fixture.whenStable();
    expect(text()).toContain('C3 stays silent: the last key wins.');
    expect(text()).toContain('G3 is played.');
    const [silent] = assignment.silent();
    expect([...silent!]).toEqual([[0, false]]);
  });
});

describe('a row of steps', () => {
  const track = trackSchema.parse({
    id: 't',
    name: 'T',
    length: 6,
    steps: [
      { notes: [48], accent: true },
      { tie: true },
      { notes: [50], condition: 'fill', slide: true },
      { notes: [52], ownValues: { a: 0.5, b: 0.2 } },
    ],
  });
  const count = (selector: string): number => page().querySelectorAll(selector).length;

  it('tells hits, ties, slides, own values, conditions and its last step by their marks', async () => {
    await show(TrackRow, { track, count: 8, playing: 3, marked: { step: 0, extent: 2 } });
    expect([count('.hit'), count('.hit.accent'), count('.tie'), count('.slide')]).toEqual([
      3, 1, 1, 1,
    ]);
    expect([count('.own-value'), count('.sign'), count('.hit.conditioned')]).toEqual([2, 1, 1]);
    expect([count('.cell'), count('.beyond'), count('.playing'), count('.marked')]).toEqual([
      8, 2, 1, 2,
    ]);
    expect([...page().querySelectorAll('.name')].map((n) => n.textContent!.trim())).toEqual([
      'C3',
      'D3',
      'E3',
    ]);
  });

  it('crosses out what nobody plays', async () => {
    const silent = new Map([
      [0, true],
      [2, false],
    ]);
    await show(TrackRow, { track, count: 8, silent });
    expect([count('.hit.silent'), count('.lost')]).toEqual([1, 2]);
  });
});

describe('a lane', () => {
  it('has a bar for each value, and a mark where there is none', async () => {
    await show(Lane, { values: [0.5, null, 1], count: 4 });
    const tall = [...page().querySelectorAll('.bar')].map((b) => Number(b.getAttribute('height')));
    expect(tall).toEqual([18, 33]);
    expect(page().querySelectorAll('.none')).toHaveLength(2);
  });
});
