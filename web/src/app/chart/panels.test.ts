import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Type } from '@angular/core';
import { type Cable, type Finding, instrumentSchema, type MatrixRow } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import skimmerFile from '../../../../library/instruments/staithe-skimmer.json';
import { Cables } from './cables';
import { Findings } from './findings';
import { MatrixRows } from './matrix-rows';

const curlew = instrumentSchema.parse(curlewFile);
const skimmer = instrumentSchema.parse(skimmerFile);

async function show<T>(
  component: Type<T>,
  inputs: Record<string, unknown>,
): Promise<ComponentFixture<T>> {
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture;
}
const page = (fixture: ComponentFixture<unknown>): HTMLElement =>
  fixture.nativeElement as HTMLElement;
const text = (fixture: ComponentFixture<unknown>): string =>
  page(fixture).textContent!.replace(/\s+/g, ' ');
const button = (fixture: ComponentFixture<unknown>, name: string): HTMLButtonElement =>
  [...page(fixture).querySelectorAll('button')].find((b) => b.textContent!.includes(name))!;

describe('the list of cables', () => {
  const cables: Cable[] = [
    { id: 'c1', from: 'j-lfo', to: 'j-cutoff' },
    { id: 'c2', to: 'j-amp', inactive: true },
  ];

  it('tells each by its ends, those at the chosen jack first', async () => {
    const fixture = await show(Cables, { instrument: curlew, cables, jackId: 'j-amp' });
    const lines = [...page(fixture).querySelectorAll('.line')].map((l) => l.textContent!.trim());
    expect(lines).toEqual(['plug in amp', 'lfo → cutoff']);
    expect(text(fixture)).toContain('Wired inside from envelope to amplifier');
    // A plug that is only left in breaks nothing.
    expect(text(fixture)).toContain('A plug in it breaks that wire.');
  });

  it('refuses a length that is none, and says what is expected', async () => {
    const fixture = await show(Cables, { instrument: curlew, cables, followed: 'c1' });
    const changed: Cable[] = [];
    fixture.componentInstance.changed.subscribe((c) => changed.push(c));
    const length = page(fixture).querySelector<HTMLInputElement>('input[inputmode=numeric]')!;
    const write = async (value: string): Promise<void> => {
      length.value = value;
      length.dispatchEvent(new Event('change'));
      await fixture.whenStable();
    };
    await write('long');
    expect(page(fixture).querySelector('[role=alert]')!.textContent).toContain('1 to 2000');
    expect(changed).toEqual([]);
    await write('45');
    expect(changed).toEqual([{ ...cables[0], length: 45 }]);
  });
});

describe('the rows of a wired matrix', () => {
  it('show all of them, and only their depths can be set', async () => {
    const fixture = await show(MatrixRows, { matrix: skimmer.matrix, rows: [] });
    const rows = page(fixture).querySelectorAll('.row');
    expect(rows).toHaveLength(skimmer.matrix!.rows);
    expect([...page(fixture).querySelectorAll('select')].every((s) => s.disabled)).toBe(true);
    const set: MatrixRow[][] = [];
    fixture.componentInstance.changed.subscribe((r) => set.push(r));
    const depth = rows[2]!.querySelector('input')!;
    depth.value = '-25 %';
    depth.dispatchEvent(new Event('change'));
    expect(set).toEqual([[{ row: 2, source: 'lfo', destination: 'cutoff', depth: -0.25 }]]);
  });
});

describe('findings', () => {
  const finding: Finding = {
    id: 'chain:a>b',
    severity: 'hint',
    title: 'reverb is fed by delay',
    why: 'Every repeat is reverberated too.',
    controls: ['delay-mix'],
    cables: ['c1'],
  };

  it('are kept as meant with a reason, and can be taken up again', async () => {
    const fixture = await show(Findings, { findings: [finding] });
    const meant: unknown[] = [];
    fixture.componentInstance.meant.subscribe((m) => meant.push(m));
    button(fixture, 'It is meant so').click();
    await fixture.whenStable();
    page(fixture).querySelector<HTMLInputElement>('form input')!.value = 'a hall ';
    button(fixture, 'Keep').click();
    expect(meant).toEqual([{ id: 'chain:a>b', note: 'a hall' }]);

    fixture.componentRef.setInput('findings', [{ ...finding, meant: 'a hall' }]);
    await fixture.whenStable();
    expect(page(fixture).querySelectorAll('.finding')).toHaveLength(0);
    expect(text(fixture)).toContain('1 meant so');
    expect(text(fixture)).toContain('nothing looks wrong');
    button(fixture, 'not after all').click();
    expect(meant.at(-1)).toEqual({ id: 'chain:a>b', note: null });
  });

  it('lead to their cable and their control', async () => {
    const fixture = await show(Findings, { findings: [finding] });
    const shown: string[] = [];
    fixture.componentInstance.shown.subscribe((id) => shown.push(id));
    fixture.componentInstance.cableShown.subscribe((id) => shown.push(id));
    button(fixture, 'reverb is fed by delay').click();
    expect(shown).toEqual(['c1', 'delay-mix']);
  });
});
