import { instrumentSchema } from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import { Entry } from './entry';

const instrument = instrumentSchema.parse(document);
const control = (id: string) => instrument.controls.find((c) => c.id === id)!;

describe('writing a reading', () => {
  it('gathers keys and reads them at the end', () => {
    const entry = new Entry();
    for (const key of '3.5-4') entry.type(control('cutoff'), key);
    expect(entry.draft()!.text).toBe('3.5-4');
    expect(entry.commit(undefined)).toEqual({ kind: 'range', from: 0.35, to: 0.4, best: 0.375 });
    expect(entry.draft()).toBeNull();
  });

  it('keeps what it does not understand, with what it expected', () => {
    const entry = new Entry();
    entry.write(control('cutoff'), '99');
    expect(entry.commit(undefined)).toBeUndefined();
    expect(entry.draft()).toMatchObject({
      text: '99',
      error: { message: expect.stringMatching(/off the scale/) },
    });
    entry.backspace();
    expect(entry.draft()).toMatchObject({ text: '9', error: null });
    entry.backspace();
    expect(entry.draft()).toBeNull();
  });

  it('begins anew on another control, and knows when a reading is whole', () => {
    const entry = new Entry();
    entry.type(control('cutoff'), '5');
    entry.type(control('drive'), '2');
    expect(entry.draft()).toMatchObject({ text: '2' });
    expect(entry.complete(undefined)).toBe(true);
    entry.write(control('drive'), '2-');
    expect(entry.complete(undefined)).toBe(false);
    expect(entry.commit(undefined)).toBeUndefined();
    entry.write(control('drive'), '?');
    expect(entry.commit(undefined)).toBeNull();
  });
});
