import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { type Instrument, instrumentSchema, type Outboard, outboardKinds } from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-lockgate.json';
import sluice from '../../../../library/instruments/oxbow-sluice.json';
import { openPatch } from '../../testing/open-patch';
import { Behind } from './behind';

const lockgate: Instrument = instrumentSchema.parse(document);

let fixture: ComponentFixture<Behind>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const named = <T extends HTMLElement>(name: string): T =>
  page().querySelector<T>(`[aria-label="${name}"]`)!;
const press = async (name: string): Promise<void> => {
  named(name).click();
  await fixture.whenStable();
};
async function say(name: string, text: string): Promise<void> {
  const field = named<HTMLInputElement>(name);
  field.value = text;
  field.dispatchEvent(new Event('change'));
  await fixture.whenStable();
}
async function put(name: string): Promise<void> {
  const more = named<HTMLSelectElement>('Put something behind it');
  more.selectedIndex = 1 + outboardKinds.findIndex((k) => k.name === name);
  more.dispatchEvent(new Event('change'));
  await fixture.whenStable();
}
const things = (): string[] =>
  [...page().querySelectorAll('li.thing')].map((li) => li.getAttribute('aria-label')!);
const controls = (): string => page().querySelector('summary')!.textContent!.trim();

async function open(instrument = lockgate) {
  const opened = openPatch(instrument, {}, [provideRouter([])]);
  fixture = TestBed.createComponent(Behind);
  await fixture.whenStable();
  return opened;
}
/** The first kind that is heard, and the first that is only noted. */
const heard = outboardKinds.find((k) => k.module !== undefined)!;
const noted = outboardKinds.find((k) => k.module === undefined)!;

describe('what stands behind an instrument', () => {
  it('is put there, ordered and taken away', async () => {
    const { patch } = await open();
    await put(heard.name);
    await put(noted.name);
    await put(heard.name);
    expect(things()).toHaveLength(3);
    expect(new Set(patch().outboard.map((o) => o.id)).size).toBe(3);
    const [first, second, third] = things() as [string, string, string];
    expect(named<HTMLButtonElement>(`${first}: one earlier`).disabled).toBe(true);
    expect(named<HTMLButtonElement>(`${third}: one later`).disabled).toBe(true);
    await press(`${second}: one earlier`);
    expect(things()).toEqual([second, first, third]);
    await press(`Take away: ${second}`);
    expect(things()).toEqual([first, third]);
  });

  it('says what of it is heard', async () => {
    await open();
    await put(heard.name);
    await put(noted.name);
    const [one, other] = [...page().querySelectorAll('li.thing > p')].map((p) =>
      p.textContent!.replace(/\s+/g, ' ').trim(),
    );
    expect(one).toMatch(/^heard as /);
    expect(other).toMatch(/^noted, not heard/);
    const off = page().querySelector<HTMLInputElement>('li.thing input[type="checkbox"]')!;
    off.click();
    await fixture.whenStable();
    expect(page().querySelector('li.thing > p')!.textContent).toContain(
      'switched off, in its place',
    );
  });

  it('keeps its name where none is given', async () => {
    const { patch } = await open();
    await put(heard.name);
    const [name] = things();
    await say(`Name of ${name!}`, '  ');
    expect(named<HTMLInputElement>(`Name of ${name!}`).value).toBe(name);
    await say(`Name of ${name!}`, ' grey pedal ');
    expect(patch().outboard[0]!.name).toBe('grey pedal');
  });

  it('has controls of its own: named, scaled from one end to the other, removed', async () => {
    const { patch } = await open();
    await put(noted.name);
    page()
      .querySelectorAll('details')
      .forEach((d) => (d.open = true));
    const add = [...page().querySelectorAll('button')].find(
      (b) => b.textContent?.trim() === 'Add a control',
    )!;
    const before = patch().outboard[0]!.controls.length;
    add.click();
    await fixture.whenStable();
    const last = (): Outboard['controls'][number] => patch().outboard[0]!.controls.at(-1)!;
    expect(patch().outboard[0]!.controls).toHaveLength(before + 1);
    await say(`Name of control ${last().name}`, 'bite');
    expect(controls()).toContain('bite');
    await say('bite begins at', '-5');
    await say('bite ends at', '12,5');
    expect(last().scale).toEqual([-5, 12.5]);
    for (const wrong of ['', 'loud', '-5']) {
      await say('bite ends at', wrong);
      expect([wrong, last().scale]).toEqual([wrong, [-5, 12.5]]);
      expect(named<HTMLInputElement>('bite ends at').value).toBe('12.5');
    }
    await press('Remove control bite');
    expect(patch().outboard[0]!.controls).toHaveLength(before);
  });

  it('is taken off at a jack, where there are any that give something', async () => {
    const { patch } = await open();
    const outlet = named<HTMLSelectElement>('The sound is taken off at');
    expect(outlet.options.length).toBeGreaterThan(5);
    outlet.selectedIndex = 2;
    outlet.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(patch().outlet).toBe(outlet.options[2]!.value);
    outlet.selectedIndex = 0;
    outlet.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(patch().outlet).toBeUndefined();
    TestBed.resetTestingModule();
    await open(instrumentSchema.parse({ ...sluice, jacks: [] }));
    expect(page().textContent).toContain('Taken off at the output');
  });
});
