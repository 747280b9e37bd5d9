import document from '../../../library/instruments/oxbow-sluice.json' with { type: 'json' };
import { sluice } from '../testing/sluice';
import { checkInstrument } from './check';
import { type Instrument, instrumentSchema } from './schema';

const broken = (change: (copy: Instrument) => void): string[] => {
  const copy = structuredClone(sluice);
  change(copy);
  return checkInstrument(copy).map((p) => p.pointer);
};

describe('the ready-made instrument', () => {
  it('is sound', () => expect(checkInstrument(sluice)).toEqual([]));

  it('survives the schema without loss', () => {
    const again = instrumentSchema.parse(JSON.parse(JSON.stringify(sluice)));
    expect(again).toEqual(sluice);
  });

  it('has about 45 controls of every kind that a fixed panel has, and three filter boards', () => {
    expect(sluice.controls.length).toBeGreaterThanOrEqual(45);
    const kinds = new Set(sluice.controls.map((c) => c.kind));
    for (const kind of ['knob', 'slider', 'rotary', 'toggle', 'button', 'wheel', 'pedal']) {
      expect(kinds).toContain(kind);
    }
    const scaled = sluice.controls.filter((c) => c.kind === 'knob' && 'scale' in c && c.scale);
    const bare = sluice.controls.filter((c) => c.kind === 'knob' && !('scale' in c && c.scale));
    expect(scaled.length).toBeGreaterThan(0);
    expect(bare.length).toBeGreaterThan(0);
    expect(sluice.revisions.map((r) => r.modules[0]!.kind)).toEqual([
      'low-pass-12',
      'low-pass-24',
      'diode',
    ]);
  });
});

describe('a definition that names what is not there', () => {
  it.each<[string, (copy: Instrument) => void, string]>([
    [
      'a module',
      (c) => (c.controls[0]!.bindings[0]!.module = 'nowhere'),
      '/controls/0/bindings/0/module',
    ],
    [
      'a parameter',
      (c) => (c.controls[0]!.bindings[0]!.param = 'nothing'),
      '/controls/0/bindings/0/param',
    ],
    ['a section', (c) => (c.controls[0]!.section = 'attic'), '/controls/0/section'],
    ['a port', (c) => (c.circuit.wires[0]!.from = 'keys.pitch9'), '/circuit/wires/0/from'],
    [
      'a reading as a signal',
      (c) => (c.circuit.wires[0]!.from = 'filter.hz'),
      '/circuit/wires/0/from',
    ],
    ['a module kind', (c) => (c.circuit.modules[0]!.kind = 'oracle'), '/circuit/modules/0/kind'],
    [
      'a jack for a normal',
      (c) => (c.circuit.wires[0]!.normalOf = 'none'),
      '/circuit/wires/0/normalOf',
    ],
    ['a jack’s port', (c) => (c.jacks[0]!.port = 'out.in'), '/jacks/0/port'],
    ['a control at the start', (c) => (c.start.settings['ghost'] = 0.5), '/start/settings/ghost'],
    [
      'a position at init',
      (c) => (c.init.settings['osc1-shape'] = 'wave'),
      '/init/settings/osc1-shape',
    ],
    [
      'a module to exchange',
      (c) => (c.revisions[0]!.modules[0]!.id = 'x'),
      '/revisions/0/modules/0/id',
    ],
    ['a control twice', (c) => (c.controls[1]!.id = c.controls[0]!.id), '/controls/1/id'],
  ])('%s', (_, change, pointer) => expect(broken(change)).toContain(pointer));

  it('reports two controls of one parameter, scales that turn back, tapers of one value', () => {
    expect(
      broken((c) => {
        const [a, b] = c.controls.filter((k) => 'scale' in k);
        b!.bindings = structuredClone(a!.bindings) as never;
      }).length,
    ).toBeGreaterThan(0);
    const at = sluice.controls.findIndex((c) => c.id === 'cutoff');
    expect(
      broken((c) => {
        const control = c.controls[at]!;
        if ('scale' in control) control.scale!.marks[3]!.value = 99;
      }),
    ).toContain(`/controls/${at}/scale/marks`);
    expect(
      broken((c) => {
        const control = c.controls[at]!;
        if ('scale' in control)
          control.bindings[0]!.taper = { kind: 'linear', lo: 1, hi: 1, unit: 'Hz' };
      }),
    ).toContain(`/controls/${at}/bindings/0/taper`);
  });

  it('is refused by the schema where the shape is wrong, with the place', () => {
    const parsed = instrumentSchema.safeParse({ ...document, controls: [{ id: 'X' }] });
    expect(parsed.success).toBe(false);
    expect(parsed.error!.issues[0]!.path.slice(0, 2)).toEqual(['controls', 0]);
  });
});
