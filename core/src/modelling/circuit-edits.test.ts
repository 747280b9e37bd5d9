import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { catalogue, isModuleKind, type ModuleKind, moduleSpec } from '../catalogue';
import { compile } from '../circuit';
import { checkInstrument, type Instrument, instrumentSchema, panelOf } from '../instrument';
import { instrumentOf } from '../outline/instrument';
import { readOutline } from '../outline/read';
import { sluice } from '../testing/sluice';
import { circuitRoom } from './circuit-room';
import {
  kindsFor,
  namesModule,
  withFixed,
  withKind,
  withModule,
  withModuleName,
  withoutModule,
} from './modules';
import { readWire } from './read-wire';
import { skeletonSchema, withSkeleton } from './skeleton';
import { wireFault, withNormal, withoutWire, withWire } from './wires';

const kinds = Object.keys(catalogue) as ModuleKind[];
const blank = (text = 'Own Thing\nFilter:\ncutoff 0..10\n< in\n'): Instrument =>
  instrumentOf(readOutline(text).outline, text);
const built = (...wanted: ModuleKind[]): Instrument =>
  wanted.reduce((i, kind) => withModule(i, kind).instrument, blank());
const libraryOf = (folder: string): { name: string; source: unknown }[] => {
  const at = new URL(`../../../library/${folder}/`, import.meta.url);
  return readdirSync(at).map((name) => ({
    name,
    source: JSON.parse(readFileSync(new URL(name, at), 'utf8')),
  }));
};
const textOf = (instrument: Instrument, text: string): string => {
  const read = readWire(text, instrument);
  return read.ok ? `${read.ends.from} ${read.ends.to}` : read.message;
};

describe('modules', () => {
  it('begin with an output, get ids and names of their own, and stand before the output', () => {
    const two = built('oscillator', 'oscillator');
    expect(two.circuit.modules.map((m) => m.id)).toEqual(['oscillator', 'oscillator-2', 'output']);
    expect(two.circuit.modules[1]!.name).toBe('oscillator 2');
    expect(checkInstrument(two)).toEqual([]);
    expect(() => withModule(two, 'output')).toThrow('an output already');
    expect(kindsFor(two, kinds)).not.toContain('output');
    expect(kindsFor(blank(), kinds)).toContain('output');
  });

  it('stop at two hundred', () => {
    let many = blank();
    for (let i = 0; i < 199; i++) many = withModule(many, 'attenuator').instrument;
    expect(many.circuit.modules).toHaveLength(200);
    expect(() => withModule(many, 'attenuator')).toThrow('200 modules at most');
  });

  it('take with them what names them', () => {
    expect(namesModule(sluice, 'filter')).toEqual({ wires: 6, controls: 2, jacks: 1 });
    const without = withoutModule(sluice, 'filter');
    expect(namesModule(without, 'filter')).toEqual({ wires: 0, controls: 0, jacks: 0 });
    expect(without.controls.find((c) => c.id === 'cutoff')!.bindings).toEqual([]);
    // Its boards stood in its place.
    expect(without.revisions.every((r) => r.modules.every((m) => m.id !== 'filter'))).toBe(true);
    expect(checkInstrument(without)).toEqual([]);
  });

  it('leave nothing when the output goes', () => {
    const gone = withoutModule(sluice, sluice.circuit.modules.find((m) => m.kind === 'output')!.id);
    expect(gone.circuit).toEqual({ modules: [], wires: [] });
    expect(gone.controls.every((c) => c.bindings.length === 0)).toBe(true);
    expect(checkInstrument(gone)).toEqual([]);
  });

  it('are exchanged for another kind, which keeps what it has too', () => {
    let plain = built('oscillator', 'low-pass-24');
    plain = withFixed(plain, 'low-pass-24', 'cutoff', 800);
    plain = withWire(plain, { from: 'oscillator.out', to: 'low-pass-24.in' });
    const other = withKind(plain, 'low-pass-24', 'low-pass-12');
    expect(other.circuit.modules.find((m) => m.id === 'low-pass-24')).toMatchObject({
      kind: 'low-pass-12',
      params: { cutoff: 800 },
    });
    expect(other.circuit.wires).toEqual(plain.circuit.wires);
    const odd = withKind(plain, 'low-pass-24', 'noise');
    expect(odd.circuit.wires).toEqual([]);
    expect(checkInstrument(odd)).toEqual([]);
  });

  it('are named, and have values where no control turns them', () => {
    const named = withModuleName(built('noise'), 'noise', ' hiss ');
    expect(named.circuit.modules[0]!.name).toBe('hiss');
    expect(withModuleName(named, 'noise', '').circuit.modules[0]).not.toHaveProperty('name');
    const filter = built('low-pass-24');
    expect(() => withFixed(filter, 'low-pass-24', 'cutoff', 1e6)).toThrow('cutoff runs from');
    expect(() => withFixed(filter, 'low-pass-24', 'parms', 1)).toThrow('no parameter "parms"');
    const set = withFixed(filter, 'low-pass-24', 'cutoff', 90);
    expect(compile(set, { settings: {}, cables: [] }).nodes[0]!.params.cutoff).toBe(90);
    expect(withFixed(set, 'low-pass-24', 'cutoff', undefined).circuit).toEqual(filter.circuit);
  });
});

describe('wires', () => {
  const desk = built('oscillator', 'oscillator', 'mixer', 'envelope');

  it('lead from an output to an input, once', () => {
    const ends = { from: 'oscillator.out', to: 'mixer.in1' };
    const wired = withWire(desk, ends);
    expect(wireFault(wired, ends)).toContain('already');
    expect(wireFault(desk, { from: 'mixer.in1', to: 'oscillator.out' })).toContain('at an output');
    expect(wireFault(desk, { from: 'oscillator.out', to: 'mixer.in9' })).toContain('at an input');
    expect(() => withWire(desk, { from: 'no.out', to: 'mixer.in1' })).toThrow('no.out is none');
    expect(withoutWire(wired, ends).circuit).toEqual(desk.circuit);
  });

  it('are normals of a jack, until nothing breaks them or the jack is gone', () => {
    const ends = { from: 'oscillator.out', to: 'mixer.in1' };
    const jack = desk.jacks[0]!.id;
    const normal = withNormal(withWire(desk, ends), ends, jack);
    expect(normal.circuit.wires).toEqual([{ ...ends, normalOf: jack }]);
    expect(checkInstrument(normal)).toEqual([]);
    expect(withNormal(normal, ends, null).circuit.wires).toEqual([ends]);
    const text = 'Own Thing\nFilter:\ncutoff 0..10\n';
    const gone = instrumentOf(readOutline(text).outline, text, normal);
    expect(gone.circuit.wires).toEqual([ends]);
  });

  it('are read as one says them', () => {
    const ends = 'oscillator-2.out mixer.in2';
    for (const text of [
      'oscillator-2.out > mixer.in2',
      'out of oscillator 2 > in2 of mixer',
      'Oscillator 2 out → Mixer in 2',
      'oscillator 2 out to mixer 2',
    ])
      expect(textOf(desk, text)).toBe(ends);
    // An exact name wins over the one that goes on.
    expect(textOf(desk, 'oscillator out > mixer in1')).toBe('oscillator.out mixer.in1');
    expect(textOf(desk, 'oscillator > mixer in1')).toBe('oscillator.out mixer.in1');
    expect(textOf(desk, 'osc > mixer in1')).toContain('say which');
    expect(textOf(desk, 'envelope > output')).toBe('envelope.out output.in');
    expect(textOf(desk, 'lute > mixer 1')).toContain('no output "lute"');
    expect(textOf(desk, 'oscillator')).toContain('what leads where');
  });

  it('part at the word between two names that have it too', () => {
    const one = withModuleName(
      withModule(desk, 'attenuator').instrument,
      'attenuator',
      'keys to cutoff',
    );
    expect(textOf(one, 'keys to cutoff to mixer 3')).toBe('attenuator.out mixer.in3');
    expect(textOf(one, 'envelope to keys to cutoff')).toBe('envelope.out attenuator.in');
  });
});

describe('what the circuit room tells', () => {
  it('is every module with its ports, and every wire with what it carries', () => {
    const room = circuitRoom(sluice);
    expect(room.modules).toHaveLength(sluice.circuit.modules.length);
    expect(room.wires).toHaveLength(sluice.circuit.wires.length);
    expect(room.notes).toEqual([]);
  });

  it('is nothing to be mended in any circuit of the library, ready-made or to begin from', () => {
    const notes = (of: Instrument): string[] => circuitRoom(of).notes.map((n) => n.text);
    for (const file of libraryOf('instruments'))
      expect([file.name, notes(panelOf(instrumentSchema.parse(file.source)))]).toEqual([
        file.name,
        [],
      ]);
    for (const file of libraryOf('skeletons')) {
      const skeleton = skeletonSchema.parse(file.source);
      // Behind a module of a cabinet it is jacks that everything leads to.
      if (skeleton.module !== undefined) continue;
      const bare = withSkeleton(blank(), skeleton, []);
      expect([file.name, notes(bare)]).toEqual([file.name, []]);
    }
  });

  it('is what leads nowhere, and what waits for something', () => {
    const alone = built('oscillator', 'low-pass-24');
    const texts = (i: Instrument): string[] => circuitRoom(i).notes.map((n) => n.text);
    expect(texts(alone)).toEqual([
      'oscillator leads nowhere that is heard.',
      'low pass 24 leads nowhere that is heard.',
      'Nothing leads to output: nothing is heard.',
    ]);
    const half = withWire(alone, { from: 'low-pass-24.out', to: 'output.in' });
    expect(texts(half)).toContain('oscillator leads nowhere that is heard.');
    expect(texts(withWire(half, { from: 'oscillator.out', to: 'low-pass-24.in' }))).toEqual([]);
    expect(texts(built('attenuator'))[0]).toBe(
      'Nothing comes into in of attenuator: it gives nothing.',
    );
  });
});

describe('whatever is done to a circuit', () => {
  it('leaves an instrument that is sound and compiles', () => {
    const act = fc.record({
      what: fc.constantFrom('add', 'remove', 'exchange', 'wire', 'unwire', 'normal'),
      a: fc.nat(400),
      b: fc.nat(400),
    });
    const pick = <T>(list: readonly T[], n: number): T | undefined => list[n % list.length];
    fc.assert(
      fc.property(
        fc.constantFrom(sluice, blank()),
        fc.array(act, { maxLength: 30 }),
        (from, acts) => {
          let now = from;
          for (const { what, a, b } of acts) {
            const { modules, wires } = now.circuit;
            const [one, other] = [pick(modules, a), pick(modules, b)];
            const kind = pick(kindsFor(now, kinds), b)!;
            if (what === 'add') now = withModule(now, kind).instrument;
            if (what === 'remove' && one) now = withoutModule(now, one.id);
            if (what === 'exchange' && one && one.kind !== 'output')
              now = withKind(now, one.id, kind);
            const wire = pick(wires, a);
            if (what === 'unwire' && wire) now = withoutWire(now, wire);
            if (what === 'normal' && wire) now = withNormal(now, wire, now.jacks[0]?.id ?? null);
            if (
              what === 'wire' &&
              one &&
              other &&
              isModuleKind(one.kind) &&
              isModuleKind(other.kind)
            ) {
              const ends = {
                from: `${one.id}.${pick(Object.keys(moduleSpec(one.kind).outputs), a) ?? 'none'}`,
                to: `${other.id}.${pick(Object.keys(moduleSpec(other.kind).inputs), b) ?? 'none'}`,
              };
              if (wireFault(now, ends) === null) now = withWire(now, ends);
            }
          }
          expect(checkInstrument(now)).toEqual([]);
          expect(compile(now, { settings: {}, cables: [] }).nodes.length).toBeGreaterThan(0);
        },
      ),
    );
  });
});
