import { type Control, instrumentSchema } from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import { Entry } from './entry';

const instrument = instrumentSchema.parse(document);
const control = (id: string) => instrument.controls.find((c) => c.id === id)!;

describe('writing a reading', () => {
  it('gathers keys and reads them at the end', () => {
    const entry = new Entry();
    for (const key of '3.5-4') entry.type(control('cutoff'), key);
    expect(entry.draft()!.text).toBe('3.5-4');
    expect(entry.commit(undefined, 120)).toEqual({
      kind: 'range',
      from: 0.35,
      to: 0.4,
      best: 0.375,
    });
    expect(entry.draft()).toBeNull();
  });

  it('keeps what it does not understand, with what it expected', () => {
    const entry = new Entry();
    entry.write(control('cutoff'), '99');
    expect(entry.commit(undefined, 120)).toBeUndefined();
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
    expect(entry.commit(undefined, 120)).toBeUndefined();
    entry.write(control('drive'), '?');
    expect(entry.commit(undefined, 120)).toBeNull();
  });
});

describe('a stroke', () => {
  const write = (of: Control, text: string): Entry => {
    const entry = new Entry();
    entry.write(of, text);
    return entry;
  };
  const attack = control('env1-attack');
  const shape = control('osc1-shape');

  it('goes on with a note length where a time is set, and begins a jump everywhere else', () => {
    expect(write(attack, '1').takesStroke()).toBe(true);
    expect(write(attack, '6.5').takesStroke()).toBe(false);
    expect(write(shape, '1').takesStroke()).toBe(false);
  });

  it('that was a jump after all is one: a letter follows', () => {
    const entry = write(attack, '1/6');
    expect(entry.jumpInside('5')).toBeUndefined();
    expect(entry.jumpInside('b')).toBe('6b');
    expect(entry.draft()!.text).toBe('1');
    expect(write(attack, '1/8').jumpInside('t')).toBeUndefined();
  });
});
