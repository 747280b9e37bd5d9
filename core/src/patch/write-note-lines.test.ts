import fc from 'fast-check';
import { type Instrument, isSwitched } from '../instrument';
import { readingText } from '../reading/format';
import type { Setting } from '../reading/setting';
import { cabinet, curlew, estuary } from '../testing/panels';
import { anyPanel, initWith, sluice } from '../testing/sluice';
import { initPositions, settingsAt } from './create';
import { parseNoteLine } from './note-line';
import { writeNoteLines } from './write-note-lines';

/** Readings of what lines say, by control. */
function read(lines: string, instrument: Instrument): Record<string, string> {
  const items = parseNoteLine(lines, instrument);
  expect(items.map((i) => i.error).filter(Boolean)).toEqual([]);
  return Object.fromEntries(
    items.map((i) => {
      const control = instrument.controls.find((c) => c.id === i.control)!;
      return [i.control!, readingText(control, i.setting ?? undefined)];
    }),
  );
}
const told = (instrument: Instrument, settings: Record<string, Setting>): Record<string, string> =>
  Object.fromEntries(
    instrument.controls
      .filter((c) => settings[c.id])
      .map((c) => [c.id, readingText(c, settings[c.id])]),
  );

describe('a patch in lines to read aloud', () => {
  it('is a line a section, in working order, with what was recorded and no more', () => {
    const { settings } = initWith();
    const some = { cutoff: settings['cutoff']!, resonance: settings['resonance']! };
    expect(writeNoteLines(sluice, { settings: some })).toMatch(
      /^Filter: cutoff \S+, resonance \S+\n$/,
    );
    expect(writeNoteLines(sluice, { settings: {} })).toBe('');
  });

  it('is read again as it was, of any panel', () => {
    fc.assert(
      fc.property(anyPanel, (positions) => {
        const settings = settingsAt(positions);
        const lines = writeNoteLines(sluice, { settings });
        expect(lines).not.toContain('//');
        expect(read(lines, sluice)).toEqual(told(sluice, settings));
      }),
    );
  });

  it('keeps ranges, guesses and what does not matter', () => {
    const some: Setting[] = [
      { kind: 'any' },
      { kind: 'range', from: 0.2, to: 0.4, best: 0.3 },
      { kind: 'ear', target: 'until it beats slowly', near: 0.6 },
    ];
    const knobs = sluice.controls.filter((c) => !isSwitched(c)).slice(0, 9);
    const settings = Object.fromEntries(knobs.map((c, i) => [c.id, some[i % 3]!]));
    expect(read(writeNoteLines(sluice, { settings }), sluice)).toEqual(told(sluice, settings));
  });

  it.each([
    ['a cabinet', cabinet],
    ['channels alike', curlew],
    ['displays', estuary],
  ])('of %s says all that can be told apart by its names, and the rest to people', (_, panel) => {
    const settings = settingsAt(initPositions(panel));
    const lines = writeNoteLines(panel, { settings });
    const back = read(lines, panel);
    const all = told(panel, settings);
    for (const [id, reading] of Object.entries(back)) expect(reading).toBe(all[id]);
    const apart = lines.split('\n').filter((l) => l.startsWith('//')).length;
    expect(Object.keys(back).length + apart).toBe(panel.controls.length);
    expect(apart).toBeLessThan(panel.controls.length / 10);
  });
});
