import { readFileSync } from 'node:fs';
import document from '../../../library/instruments/oxbow-sluice.json' with { type: 'json' };
import fc from 'fast-check';
import { runs } from '../testing/runs';
import { lockgate } from '../testing/panels';
import { sluice } from '../testing/sluice';
import { compile } from '../circuit';
import { blankPatch, initPositions, settingsAt } from '../patch';
import { render } from '../sound';
import { schemaFaults } from '../document/schema-faults';
import { checkInstrument } from './check';
import { type Instrument, instrumentSchema, type Taper } from './schema';

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

  it('has about 45 controls of every kind that a fixed panel has, and four filter boards', () => {
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
      'low-pass-18',
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
    [
      'a controller number twice',
      (c) => (c.controls[0]!.cc = c.controls[3]!.cc = 74),
      '/controls/3/cc',
    ],
    [
      'a controller number that selects a bank',
      (c) => {
        const programs = { counted: 'bank', select: 'fine' } as const;
        c.memory = { kind: 'slots', banks: 2, slots: 4, nameLength: 0, programs };
        c.controls[2]!.cc = 32;
      },
      '/controls/2/cc',
    ],
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
    [
      'the same wire twice',
      (c) => c.circuit.wires.push({ ...c.circuit.wires[0]! }),
      `/circuit/wires/${sluice.circuit.wires.length}`,
    ],
    [
      'a second output',
      (c) => c.circuit.modules.push({ id: 'out2', kind: 'output', params: {} }),
      `/circuit/modules/${sluice.circuit.modules.length}`,
    ],
    ['a place off its section', (c) => (c.controls[0]!.place.x = 3999), '/controls/0/place'],
    ['a section off the panel', (c) => (c.sections[0]!.width = 3000), '/sections/0'],
    ['a section of a jack', (c) => (c.jacks[0]!.section = 'attic'), '/jacks/0/section'],
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

  it.each<[string, Taper, string]>([
    ['in another unit', { kind: 'exponential', lo: 20, hi: 20000, unit: 's' }, '/unit'],
    ['beyond the parameter', { kind: 'exponential', lo: 20, hi: 1e6, unit: 'Hz' }, '/hi'],
    [
      'with a point beyond it',
      {
        kind: 'table',
        points: [
          [0, -5],
          [0.5, 100],
          [1, 1000],
        ],
        unit: 'Hz',
      },
      '/points/0',
    ],
  ])('refuses a taper %s', (_, taper, at) => {
    const i = sluice.controls.findIndex((c) => c.id === 'cutoff');
    const faults = broken((c) => {
      const bound = c.controls[i]!.bindings[0]!;
      if ('taper' in bound) bound.taper = taper;
    });
    expect(faults).toEqual([`/controls/${i}/bindings/0/taper${at}`]);
  });

  it('tells a control that is there twice once, not what it sets too', () => {
    const faults = broken((c) => c.controls.push(structuredClone(c.controls[0]!)));
    expect(faults).toEqual([`/controls/${sluice.controls.length}/id`]);
  });

  it('is told within the type of a cabinet', () => {
    const cabinet = structuredClone(lockgate);
    const at = cabinet.rack!.types.findIndex((t) => t.controls.length > 1);
    cabinet.rack!.types[at]!.controls[1]!.bindings[0]!.module = 'nowhere';
    expect(checkInstrument(cabinet).map((p) => p.pointer)).toEqual([
      `/rack/types/${at}/controls/1/bindings/0/module`,
    ]);
  });

  it('is refused by the schema where a field is unknown or missing, by name', () => {
    const source = structuredClone(document) as unknown as {
      circuit: { modules: Record<string, unknown>[] };
      controls: Record<string, unknown>[];
    };
    source.circuit.modules[0]!['parms'] = {};
    const toggle = source.controls.findIndex((c) => c['kind'] === 'toggle');
    delete source.controls[toggle]!['positions'];
    const parsed = instrumentSchema.safeParse(source);
    expect(schemaFaults(parsed.error!).map((f) => f.pointer)).toEqual([
      `/controls/${toggle}/positions`,
      '/circuit/modules/0/parms',
    ]);
  });

  it('is refused by the schema where the shape is wrong, with the place', () => {
    const parsed = instrumentSchema.safeParse({ ...document, controls: [{ id: 'X' }] });
    expect(parsed.success).toBe(false);
    expect(parsed.error!.issues[0]!.path.slice(0, 2)).toEqual(['controls', 0]);
  });
});

/** Every place in a document, as the keys that lead there. */
function placesIn(value: unknown, path: readonly (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [[...path]];
  const inner = Array.isArray(value)
    ? value.flatMap((v, i) => placesIn(v, [...path, i]))
    : Object.entries(value).flatMap(([k, v]) => placesIn(v, [...path, k]));
  return [[...path], ...inner];
}

describe('a file with any field bent', () => {
  const places = placesIn(document).filter((path) => path.length > 0);
  const wrong: unknown[] = [null, true, -1, 1e9, NaN, '', 'constructor', '__proto__', [], {}];

  it('is refused with the place, or is sound', () => {
    let refused = 0;
    fc.assert(
      fc.property(fc.constantFrom(...places), fc.constantFrom(...wrong), (path, value) => {
        const copy = structuredClone(document) as never;
        const parent = path.slice(0, -1).reduce<never>((at, key) => at[key], copy);
        (parent as Record<string | number, unknown>)[path.at(-1)!] = value;
        const parsed = instrumentSchema.safeParse(copy);
        const faults = parsed.success ? checkInstrument(parsed.data) : schemaFaults(parsed.error);
        if (faults.length > 0) refused++;
        for (const fault of faults) expect(fault.pointer).toMatch(/^\//);
      }),
      { numRuns: runs(400) },
    );
    expect(refused).toBeGreaterThan(200);
  });
});

describe('the smallest instrument of the documentation', () => {
  const page = readFileSync(new URL('../../../docs/instruments.md', import.meta.url), 'utf8');
  const source = JSON.parse(/```json\n([\s\S]*?)```/.exec(page)![1]!) as Record<string, unknown>;

  it('is sound, sounds, and has nothing that it could do without', () => {
    const smallest = instrumentSchema.parse(source);
    expect(checkInstrument(smallest)).toEqual([]);
    const patch = {
      ...blankPatch(smallest, 'P'),
      settings: settingsAt(initPositions(smallest)),
    };
    const { samples } = render(compile(smallest, patch), {
      sampleRate: 48000,
      seconds: 0.1,
      notes: [],
    });
    expect(Math.max(...samples)).toBeGreaterThan(0.2);
    for (const key of Object.keys(source)) {
      const { [key]: _, ...without } = source;
      expect([key, instrumentSchema.safeParse(without).success]).toEqual([key, false]);
    }
  });
});
