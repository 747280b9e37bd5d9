import { type ComponentFixture, TestBed } from '@angular/core/testing';
import {
  blankPatch,
  checkPatch,
  type Instrument,
  instrumentSchema,
  panelOf,
  type Patch,
} from '@hurrel/core';
import lockgateFile from '../../../../library/instruments/oxbow-lockgate.json';
import { type SectionChange, SectionTools } from './section-tools';

const lockgate: Instrument = instrumentSchema.parse(lockgateFile);

let fixture: ComponentFixture<SectionTools>;
let changed: SectionChange[];
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const selects = (): HTMLSelectElement[] => [...page().querySelectorAll('select')];
const labelled = (text: string): HTMLSelectElement =>
  selects().find((s) => s.closest('label')!.textContent!.includes(text))!;
const options = (text: string): string[] =>
  [...labelled(text).options].map((o) => o.textContent!.replace(/\s+/g, ' ').trim());

async function show(patch: Patch, section: string | null = null): Promise<void> {
  changed = [];
  fixture = TestBed.createComponent(SectionTools);
  fixture.componentRef.setInput('instrument', panelOf(lockgate, patch));
  fixture.componentRef.setInput('patch', patch);
  fixture.componentRef.setInput('section', section);
  fixture.componentInstance.changed.subscribe((change) => changed.push(change));
  await fixture.whenStable();
}
async function choose(text: string, option: RegExp): Promise<void> {
  const field = labelled(text);
  field.selectedIndex = options(text).findIndex((o) => option.test(o));
  field.dispatchEvent(new Event('change'));
  await fixture.whenStable();
}
/** A cabinet whose rows have room in all, and no gap for the widest kind. */
const scattered = (): Patch => {
  const { types, rows, placed } = lockgate.rack!;
  const width = (type: string): number => types.find((t) => t.id === type)!.width;
  const narrow = [...types].sort((a, b) => a.width - b.width)[0]!;
  const widest = Math.max(...types.map((t) => t.width));
  const end = Math.max(...placed.map((p) => p.at + width(p.type)));
  // From edge to edge, with a little less between two of them than the widest kind needs.
  const gaps = Math.ceil((end - narrow.width) / (widest + narrow.width - 4));
  const step = (end - narrow.width) / gaps;
  const rack = Array.from({ length: rows }, (_, row) =>
    Array.from({ length: gaps + 1 }, (_n, i) => ({
      id: `small-${row * 100 + i + 1}`,
      type: narrow.id,
      row,
      at: i * step,
    })),
  ).flat();
  return { ...blankPatch(lockgate, 'scattered'), rack };
};

describe('the modules of a cabinet in a patch', () => {
  it('are put in where a gap is wide enough, and none gives way', async () => {
    const patch = blankPatch(lockgate, 'plain');
    await show(patch);
    const kinds = options('Put in another module');
    expect(kinds[0]).toBe('choose one for which there is room');
    const plain = kinds.findIndex((k, i) => i > 0 && !k.includes('give'));
    expect(plain).toBeGreaterThan(0);
    await choose('Put in another module', new RegExp(`^${kinds[plain]!}$`));
    expect(changed).toHaveLength(1);
    expect(checkPatch(changed[0]!.patch, lockgate)).toEqual([]);
    expect(changed[0]!.patch.rack).toHaveLength(lockgate.rack!.placed.length + 1);
    expect(changed[0]!.said).toMatch(/put in: row \d, \d+ from the left\.$/);
  });

  it('give way where a row has room in all, and say so', async () => {
    const patch = scattered();
    expect(checkPatch(patch, lockgate)).toEqual([]);
    await show(patch);
    const given = options('Put in another module').find((o) => /gives? way$/.test(o))!;
    expect(given).toBeDefined();
    await choose('Put in another module', /gives? way$/);
    expect(changed[0]!.said).toMatch(/gives? way\.$/);
    expect(checkPatch(changed[0]!.patch, lockgate)).toEqual([]);
    const moved = changed[0]!.patch.rack!.filter((p) => {
      const before = patch.rack!.find((b) => b.id === p.id);
      return before && before.at !== p.at;
    });
    expect(moved.length).toBeGreaterThan(0);
  });

  it('are moved to any place there is, and taken out', async () => {
    const patch = scattered();
    await show(patch, 'small-1');
    const places = options('Move to');
    expect(places.length).toBeGreaterThan(2);
    await choose('Move to', /row 1, [1-9]/);
    const { said, patch: after } = changed[0]!;
    expect(said).toMatch(/: moved/);
    expect(after.rack!.find((p) => p.id === 'small-1')!.at).toBeGreaterThan(0);
    expect(checkPatch(after, lockgate)).toEqual([]);
    [...page().querySelectorAll('button')].find((b) => b.textContent === 'Take it out')!.click();
    expect(changed[1]!.patch.rack!.some((p) => p.id === 'small-1')).toBe(false);
  });
});
