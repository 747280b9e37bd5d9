import fc from 'fast-check';
import { initWith, sluice, anyPanel } from '../testing/sluice';
import { formatSetting } from '../reading/format';
import { settingsAt } from './create';
import { controlsOfCsv, readSettingsCsv, settingsCsv } from './settings-csv';

describe('settings as a table', () => {
  it('are a line a control and a column a patch, as one reads them', () => {
    const first = { ...initWith({ cutoff: 0.35 }), name: 'Night, lock' };
    const csv = settingsCsv(sluice, [first, { name: '=2+3', settings: {} }]);
    const lines = csv.split('\r\n');
    expect(lines[0]).toBe(`control,in words,"Night, lock","'=2+3"`);
    expect(lines).toContain('cutoff,Filter cutoff,3.5,?');
    expect(lines).toHaveLength(sluice.controls.length + 2);
    const read = readSettingsCsv(csv, sluice);
    expect(read.faults).toEqual([]);
    expect(read.columns.map((c) => c.name)).toEqual(['Night, lock', '=2+3']);
    expect(read.columns[1]!.settings['cutoff']).toBeNull();
  });

  it('name their controls, wherever the column stands', () => {
    const csv = settingsCsv(sluice, []);
    expect([...controlsOfCsv(csv)].sort()).toEqual(sluice.controls.map((c) => c.id).sort());
    expect(controlsOfCsv('a;control\n1;cutoff\n2;drive')).toEqual(['cutoff', 'drive']);
    expect(controlsOfCsv('cutoff,5')).toEqual([]);
  });

  it('come back as the same readings, of any panel', () => {
    const anySettings = anyPanel.map((positions) => settingsAt(positions));
    fc.assert(
      fc.property(anySettings, (settings) => {
        const { columns, faults } = readSettingsCsv(
          settingsCsv(sluice, [{ name: 'a', settings }]),
          sluice,
        );
        expect(faults).toEqual([]);
        for (const control of sluice.controls) {
          const back = columns[0]!.settings[control.id] ?? undefined;
          expect(formatSetting(control, back)).toBe(formatSetting(control, settings[control.id]));
        }
      }),
      { numRuns: 40 },
    );
  });

  it('keep ranges, what is by ear and what does not matter', () => {
    const settings = {
      cutoff: { kind: 'range', from: 0.35, to: 0.4, best: 0.37 },
      resonance: { kind: 'ear', near: 0.3, target: 'until it sings' },
      glide: { kind: 'any' },
    } as const;
    const { columns } = readSettingsCsv(settingsCsv(sluice, [{ name: 'a', settings }]), sluice);
    expect(columns[0]!.settings).toMatchObject(settings);
  });

  it('tell every cell that is not understood by its line and column, and take the rest', () => {
    const text = 'in words;control;A\nx;cutoff;loud\nx;resonance;3\nx;nothing;4';
    const { columns, faults } = readSettingsCsv(text, sluice);
    expect(faults.map((f) => [f.line, f.column])).toEqual([
      [2, 3],
      [4, 2],
    ]);
    expect(columns[0]!.settings).toEqual({ resonance: { kind: 'set', value: 0.3 } });
    expect(readSettingsCsv('a,b\n1,2', sluice).faults[0]!.message).toContain('no column "control"');
  });
});
