import type { Setting } from '../reading/setting';
import { controlLabel, isSwitched } from '../instrument';
import { cabinet, curlew, estuary } from '../testing/panels';
import { readingText } from '../reading';
import { sluice } from '../testing/sluice';
import { parseNoteLine } from './note-line';

const read = (text: string) =>
  parseNoteLine(text, sluice).map(({ control, setting, error }) => [control, setting ?? error]);

describe('note lines', () => {
  it('reads controls by name, shortened names, and section and name', () => {
    expect(read('cutoff 3.5-4, res 2; osc 2 fine 2:30')).toEqual([
      ['cutoff', { kind: 'range', from: 0.35, to: 0.4, best: 0.375 }],
      ['resonance', { kind: 'set', value: 0.2 }],
      ['osc2-fine', { kind: 'set', value: 0.75 }],
    ]);
    expect(read('oscillator 1 shape pulse\nenvelope 2 decay 6')).toEqual([
      ['osc1-shape', { kind: 'set', value: 'pulse' }],
      ['env2-decay', { kind: 'set', value: 0.6 }],
    ]);
  });

  it('keeps a section named with a colon for its line', () => {
    expect(read('Envelope 1: attack 1, decay 5, sustain 7')).toEqual([
      ['env1-attack', { kind: 'set', value: 0.1 }],
      ['env1-decay', { kind: 'set', value: 0.5 }],
      ['env1-sustain', { kind: 'set', value: 0.7 }],
    ]);
  });

  it('keeps decimal commas, best guesses and targets together', () => {
    expect(read('cutoff 3,5, drive ~4 until it growls, high-pass 2-3, best 2.2')).toEqual([
      ['cutoff', { kind: 'set', value: 0.35 }],
      ['drive', { kind: 'ear', near: 0.4, target: 'until it growls' }],
      ['high-pass', { kind: 'range', from: 0.2, to: 0.3, best: 0.22 }],
    ]);
  });

  it('says what it did not understand, item by item', () => {
    const [unknown, ambiguous, wrong, fine] = parseNoteLine(
      'flux 3, shape saw, cutoff 99, drive 2',
      sluice,
    );
    expect(unknown!.error).toMatch(/No control is called "flux"/);
    expect(ambiguous!.error).toMatch(/"shape" could be .*Oscillator 1 shape.*name the section too/);
    expect(wrong).toMatchObject({
      control: 'cutoff',
      error: expect.stringMatching(/off the scale/) as string,
    });
    expect(fine).toMatchObject({ control: 'drive', setting: { kind: 'set', value: 0.2 } });
  });

  it('reads back a whole panel written out by section and name', () => {
    const settings: [string, Setting][] = sluice.controls.map((c) => [
      c.id,
      { kind: 'set', value: isSwitched(c) ? c.positions[1]!.id : 0.5 },
    ]);
    const lines = sluice.sections.map((section) => {
      const own = sluice.controls.filter((c) => c.section === section.id);
      const items = own.map(
        (c) => `${c.name} ${readingText(c, settings.find(([id]) => id === c.id)![1])}`,
      );
      return `${section.name}: ${items.join(', ')}`;
    });
    const found = parseNoteLine(lines.join('\n'), sluice);
    expect(found.filter((i) => i.error)).toEqual([]);
    expect(new Map(found.map((i) => [i.control, i.setting]))).toEqual(new Map(settings));
  });
});

describe('every name that is shown', () => {
  it.each([
    ['curlew', curlew],
    ['cabinet', cabinet],
    ['estuary', estuary],
    ['sluice', sluice],
  ] as const)('of the %s names its control', (_, instrument) => {
    for (const control of instrument.controls) {
      const reading = isSwitched(control) ? '#1' : 'min';
      const [item, ...more] = parseNoteLine(
        `${controlLabel(instrument, control.id)} ${reading}`,
        instrument,
      );
      expect(more).toEqual([]);
      expect([item!.control, item!.error]).toEqual([control.id, undefined]);
    }
  });

  it('tells two controls of one section and name apart', () => {
    const waves = cabinet.controls.filter((c) => /^bank-1-[ab]-wave$/.test(c.id));
    const labels = waves.map((c) => controlLabel(cabinet, c.id));
    expect(new Set(labels).size).toBe(2);
    expect(labels[0]).toMatch(/^Bank wave \((upper|left)\)$/);
  });
});
