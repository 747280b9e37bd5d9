import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import {
  blankPatch,
  type Cable,
  type Feed,
  type Instrument,
  instrumentSchema,
  type Patch,
} from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import skimmerFile from '../../../../library/instruments/staithe-skimmer.json';
import { openPatch } from '../../testing/open-patch';
import { PatchActions } from '../patch/patch.actions';
import { FedIn } from './fed-in';
import { SoundsService } from './sounds.service';

const curlew: Instrument = instrumentSchema.parse(curlewFile);
const rain: Feed = {
  sound: 'a'.repeat(64),
  name: 'rain',
  jack: 'j-ext',
  start: 'running',
  round: true,
  level: 0.5,
};

let fixture: ComponentFixture<FedIn>;
let send: (file: Blob) => Promise<{ id: string; seconds: number }>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const text = (): string => page().textContent!.replace(/\s+/g, ' ').trim();
const named = <T extends HTMLElement>(name: string): T =>
  page().querySelector<T>(`[aria-label="${name}"]`)!;

async function open(changes: Partial<Patch> = {}, instrument = curlew) {
  const opened = openPatch(instrument, changes, [
    { provide: SoundsService, useValue: { send: (file: Blob) => send(file) } },
  ]);
  fixture = TestBed.createComponent(FedIn);
  await fixture.whenStable();
  return opened;
}
async function pick(name: string): Promise<void> {
  const field = page().querySelector<HTMLInputElement>('input[type="file"]')!;
  const file = new File(['RIFF'], name);
  Object.defineProperty(field, 'files', { value: [file], configurable: true });
  // A file field only takes nothing as its value: here it takes all.
  Object.defineProperty(field, 'value', { value: '', writable: true, configurable: true });
  field.dispatchEvent(new Event('change'));
  await new Promise((done) => setTimeout(done));
  await fixture.whenStable();
}
async function choose(name: string, value: string): Promise<void> {
  const field = named<HTMLSelectElement>(name);
  field.value = value;
  field.dispatchEvent(new Event('change'));
  await fixture.whenStable();
}

beforeEach(() => {
  send = () => Promise.resolve({ id: 'b'.repeat(64), seconds: 2 });
});

describe('what is fed into an instrument', () => {
  it('is chosen as a file, and goes into the first input that is free', async () => {
    const { patch, undo } = await open();
    expect(text()).toContain('A loop, a phrase of drums or a voice');
    await pick('bar of rain.wav');
    expect(patch().feed).toMatchObject({ sound: 'b'.repeat(64), name: 'bar of rain' });
    const jack = curlew.jacks.find((j) => j.id === patch().feed!.jack)!;
    expect([jack.direction, jack.signal]).toEqual(['in', 'audio']);
    undo();
    expect(patch().feed).toBeUndefined();
  });

  it('keeps its way when another file takes its place', async () => {
    const { patch } = await open({ feed: { ...rain, start: 'key', level: 0.8 } });
    await pick('hail.wav');
    expect(patch().feed).toEqual({
      ...rain,
      sound: 'b'.repeat(64),
      name: 'hail',
      start: 'key',
      level: 0.8,
    });
  });

  it('says where it goes, how it starts, and how loud it is', async () => {
    const { patch } = await open({ feed: rain });
    await choose('Input that it goes into', 'j-track');
    await choose('How it starts', 'key');
    page().querySelector<HTMLInputElement>('input[type="checkbox"]')!.click();
    const level = page().querySelector<HTMLInputElement>('hur-number-field input')!;
    level.value = '3,5';
    level.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(patch().feed).toEqual({
      ...rain,
      jack: 'j-track',
      start: 'key',
      round: false,
      level: 0.35,
    });
  });

  it('offers no input that holds a plug', async () => {
    const out = curlew.jacks.find((j) => j.direction === 'out')!.id;
    const cables: Cable[] = [{ id: 'c1', from: out, to: 'j-track' }];
    await open({ feed: rain, cables });
    const options = [...named<HTMLSelectElement>('Input that it goes into').options];
    expect(options.filter((o) => o.disabled).map((o) => o.textContent?.trim())).toEqual([
      'keys in (holds a plug)',
    ]);
  });

  it('is taken out again', async () => {
    const { patch } = await open({ feed: rain });
    named('Feed nothing in').click();
    await fixture.whenStable();
    expect(patch()).not.toHaveProperty('feed');
  });

  it('is left as it was when a file is refused', async () => {
    const { patch } = await open({ feed: rain });
    send = () => Promise.reject(new Error('This is no WAV file.'));
    await pick('rain.txt');
    expect(page().querySelector('[role="alert"]')!.textContent).toBe('This is no WAV file.');
    expect(patch().feed).toEqual(rain);
  });

  it('never goes to another patch that was opened while the file was sent', async () => {
    const { patch } = await open();
    send = () => {
      const store = TestBed.inject(Store);
      store.dispatch(PatchActions.open({ id: 'q' }));
      const stored = { id: 'q', version: 1, updatedAt: '', document: blankPatch(curlew, 'other') };
      store.dispatch(PatchActions.opened({ stored, context: curlew }));
      return Promise.resolve({ id: 'b'.repeat(64), seconds: 2 });
    };
    await pick('rain.wav');
    expect(patch().name).toBe('other');
    expect(patch()).not.toHaveProperty('feed');
  });

  it('is nothing where a panel has no input', async () => {
    await open({}, instrumentSchema.parse({ ...skimmerFile, jacks: [] }));
    expect(text()).toContain('no input that a recording could go into');
    expect(page().querySelector('input[type="file"]')).toBeNull();
  });
});
