import { TestBed } from '@angular/core/testing';
import { instrumentSchema, settingsCsv } from '@hurrel/core';
import sluiceFile from '../../../../library/instruments/oxbow-sluice.json';
import { openPatch } from '../../testing/open-patch';
import { PatchFiles } from './patch-files';

const sluice = instrumentSchema.parse(sluiceFile);

/** The field of a file that was chosen. */
const chosen = (name: string, text: string): HTMLInputElement =>
  ({ files: [{ name, text: async () => text }], value: name }) as unknown as HTMLInputElement;

function open() {
  const opened = openPatch(sluice, {}, [PatchFiles]);
  return { ...opened, files: TestBed.inject(PatchFiles) };
}

describe('files of a patch', () => {
  it('are taken as lines, all of them or none', async () => {
    const { patch, files } = open();
    const before = patch().settings;
    await files.takeLines(chosen('notes.txt', 'cutoff 3.7\nresonance purple'));
    expect(files.faults()).toHaveLength(1);
    expect(files.faults()[0]).toContain('notes.txt, "resonance purple"');
    expect(patch().settings).toEqual(before);
    await files.takeLines(chosen('notes.txt', 'cutoff 3.7\nresonance 2'));
    expect(files.faults()).toEqual([]);
    expect(patch().settings['cutoff']).toMatchObject({ kind: 'set' });
    expect(patch().settings['resonance']).toMatchObject({ kind: 'set' });
  });

  it('say so when they say nothing of the panel', async () => {
    const { files } = open();
    await files.takeLines(chosen('empty.txt', ''));
    expect(files.faults()).toEqual(['empty.txt says nothing of this panel.']);
  });

  it('are taken as a table, or the cell that is wrong is named', async () => {
    const { patch, files } = open();
    const half = { kind: 'set', value: 0.5 } as const;
    const table = settingsCsv(sluice, [{ ...patch(), settings: { resonance: half } }]);
    await files.takeCsv(chosen('table.csv', table));
    expect(files.faults()).toEqual([]);
    expect(patch().settings['resonance']).toEqual(half);
    const [reading] = /(?<=,)[^,\n]+(?=\n|$)/.exec(
      table.split('\n').find((line) => line.toLowerCase().includes('resonance'))!,
    )!;
    await files.takeCsv(chosen('table.csv', table.replaceAll(reading!, 'purple')));
    expect(files.faults()[0]).toMatch(/^table\.csv, line \d+, column /);
    expect(patch().settings['resonance']).toEqual(half);
  });
});
