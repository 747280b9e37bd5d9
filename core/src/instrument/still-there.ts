import { isModuleKind, type ModuleSpec, moduleSpec } from '../catalogue';
import { checkTaperFits } from './check-tapers';
import type { Problem } from '../document/problem';
import { paramFits } from './param-fits';
import { moduleAlone } from './module-alone';
import { panelOf } from './panel-of';
import type { Control, Instrument, Module, Rack, RackType } from './schema';
import { isSwitched } from './switched';
import { lacks, type Uses, usesOf } from './uses';
import type { Sequencer } from './sequencer';

/**
 * The instrument without whatever names something that is not there any more: wires and jacks to modules and ports that are
 * gone, what controls turned of them, normals of jacks, ends of the matrix, steps of sequencers, modules of revisions, places
 * in the start and the init patch. What is sound stays the same object.
 */
export function onlyWhatIsThere(instrument: Instrument): Instrument {
  const { rack } = instrument;
  if (!rack) return withOnly(instrument, instrument);
  const types = each(rack.types, (type) => typeStillThere(instrument, rack, type));
  const whole = types === rack.types ? instrument : { ...instrument, rack: { ...rack, types } };
  return withOnly(whole, panelOf(whole));
}

/** A module of a cabinet without what names something that is not there in it. */
function typeStillThere(instrument: Instrument, rack: Rack, type: RackType): RackType {
  const alone = moduleAlone(instrument, rack, type);
  const { controls, jacks, circuit, sequencers } = withOnly(alone, alone);
  const { wires } = circuit;
  const [sequencer] = sequencers;
  const same =
    controls === type.controls &&
    jacks === type.jacks &&
    wires === type.wires &&
    sequencer === type.sequencer;
  const { sequencer: _, ...rest } = type;
  return same ? type : { ...rest, controls, jacks, wires, ...(sequencer ? { sequencer } : {}) };
}

/** @param face all that stands on the panel, modules of a cabinet too: what is named may be any of it */
function withOnly(instrument: Instrument, face: Instrument): Instrument {
  const { circuit, revisions, matrix, sequencers } = instrument;
  const specs = specsOf(face.circuit.modules);
  const has = (port: string, side: 'inputs' | 'outputs'): boolean => {
    const [module = '', name = ''] = port.split('.');
    return Object.hasOwn(specs.get(module)?.[side] ?? {}, name) && name !== 'hz';
  };
  const jacks = new Set(face.jacks.map((j) => j.id));
  const controls = new Set(face.controls.map((c) => c.id));
  const wires = each(circuit.wires, (wire) => {
    if (!has(wire.from, 'outputs') || !has(wire.to, 'inputs')) return null;
    if (wire.normalOf === undefined || jacks.has(wire.normalOf)) return wire;
    // The plug that broke it is gone: the wire is there for good.
    return { from: wire.from, to: wire.to };
  });
  const byId = new Map(face.controls.map((c) => [c.id, c]));
  const stands = (id: string, value: number | string): boolean => {
    const control = byId.get(id);
    if (!control) return false;
    return isSwitched(control)
      ? control.positions.some((p) => p.id === value)
      : typeof value === 'number';
  };
  const state = (of: Instrument['start']): Instrument['start'] => {
    const all = Object.entries(of.settings);
    const left = all.filter(([id, value]) => stands(id, value));
    return left.length === all.length ? of : { ...of, settings: Object.fromEntries(left) };
  };
  const { matrix: _, ...rest } = instrument;
  const ends = matrix && matrixStillThere(matrix, has, controls);
  const now: Instrument = {
    ...rest,
    controls: each(instrument.controls, (control) => bindingsStillThere(control, specs)),
    jacks: each(instrument.jacks, (jack) =>
      jack.port === '' || has(jack.port, jack.direction === 'in' ? 'inputs' : 'outputs')
        ? jack
        : { ...jack, port: '' },
    ),
    circuit: wires === circuit.wires ? circuit : { ...circuit, wires },
    sequencers: each(sequencers, (sequencer) => sequencerStillThere(sequencer, controls)),
    ...(ends ? { matrix: ends } : {}),
    start: state(instrument.start),
    init: state(instrument.init),
  };
  const uses = usesOf(now);
  return {
    ...now,
    revisions: each(revisions, (revision) => {
      const modules = each(revision.modules, (module) => (replaces(module, uses) ? module : null));
      return modules === revision.modules ? revision : { ...revision, modules };
    }),
  };
}

/** Ids of the controls that a matrix or a sequencer names. */
export function namedControls({ matrix, sequencers }: Instrument): Set<string> {
  const ends = [...(matrix?.sources ?? []), ...(matrix?.destinations ?? [])];
  return new Set(
    [
      ...ends.map((end) => end.control),
      ...sequencers.flatMap((s) => [
        ...s.rows.flatMap((row) => [...row.controls, row.through]),
        ...Object.values(s.panel),
        ...(Array.isArray(s.can.ownValues) ? s.can.ownValues : []),
      ]),
    ].filter((id) => id !== undefined),
  );
}

/** Each item as it is now, without those that are gone; the same list where nothing changes. */
function each<T>(list: T[], now: (item: T) => T | null): T[] {
  const next = list.map(now).filter((item) => item !== null);
  return next.length === list.length && next.every((item, i) => item === list[i]) ? list : next;
}

const specsOf = (modules: readonly Module[]): Map<string, ModuleSpec> =>
  new Map(
    modules.flatMap((m) =>
      isModuleKind(m.kind) ? [[m.id, moduleSpec(m.kind)] as [string, ModuleSpec]] : [],
    ),
  );

/** Whether a module of a revision has all that is used of the one in whose place it stands. */
const replaces = (module: Module, uses: Uses): boolean =>
  uses.has(module.id) &&
  isModuleKind(module.kind) &&
  lacks(moduleSpec(module.kind), uses, module.id).length === 0;

function bindingsStillThere(control: Control, specs: ReadonlyMap<string, ModuleSpec>): Control {
  const bindings = each(control.bindings as Control['bindings'][number][], (bound) => {
    const spec = specs.get(bound.module);
    if (!spec) return null;
    if ('taper' in bound) {
      const param = Object.hasOwn(spec.params, bound.param) ? spec.params[bound.param] : undefined;
      if (param?.kind !== 'number') return null;
      const faults: Problem[] = [];
      checkTaperFits(bound.taper, param, bound.param, '', (pointer, message) =>
        faults.push({ pointer, message }),
      );
      return faults.length > 0 ? null : bound;
    }
    if (!isSwitched(control)) return null;
    const fits = control.positions.every(({ id }) => {
      const value = bound.values[id];
      return value !== undefined && paramFits(spec, bound.param, value);
    });
    return fits ? bound : null;
  });
  return bindings === control.bindings ? control : ({ ...control, bindings } as Control);
}

function matrixStillThere(
  matrix: NonNullable<Instrument['matrix']>,
  has: (port: string, side: 'inputs' | 'outputs') => boolean,
  controls: ReadonlySet<string>,
): Instrument['matrix'] {
  const end = <T extends { port: string; control?: string | undefined }>(
    one: T,
    side: 'inputs' | 'outputs',
  ): T | null => {
    if (!has(one.port, side)) return null;
    if (one.control === undefined || controls.has(one.control)) return one;
    const { control: _, ...rest } = one;
    return rest as T;
  };
  const sources = each(matrix.sources, (one) => end(one, 'outputs'));
  const destinations = each(matrix.destinations, (one) => end(one, 'inputs'));
  // A matrix joins something with something.
  if (sources.length === 0 || destinations.length === 0) return undefined;
  const known = (list: readonly { id: string }[], id: string): boolean =>
    list.some((one) => one.id === id);
  const fixed = each(matrix.fixed, (row) =>
    known(sources, row.source) && known(destinations, row.destination) ? row : null,
  );
  const same =
    sources === matrix.sources && destinations === matrix.destinations && fixed === matrix.fixed;
  return same ? matrix : { ...matrix, sources, destinations, fixed };
}

function sequencerStillThere(sequencer: Sequencer, controls: ReadonlySet<string>): Sequencer {
  const rows = each(sequencer.rows, (row) => {
    const steps = each(row.controls, (id) => (controls.has(id) ? id : null));
    const lost = row.through !== undefined && !controls.has(row.through);
    // A row without a step is none.
    if (steps.length === 0) return null;
    if (!lost) return steps === row.controls ? row : { ...row, controls: steps };
    const { through: _, ...rest } = row;
    return { ...rest, controls: steps };
  });
  const panel = Object.entries(sequencer.panel).filter(
    ([, id]) => id !== undefined && controls.has(id),
  );
  const { ownValues } = sequencer.can;
  const own = Array.isArray(ownValues)
    ? each(ownValues, (id) => (controls.has(id) ? id : null))
    : ownValues;
  const same =
    rows === sequencer.rows &&
    panel.length === Object.keys(sequencer.panel).length &&
    own === ownValues;
  if (same) return sequencer;
  return {
    ...sequencer,
    rows,
    panel: Object.fromEntries(panel),
    can: own === undefined ? sequencer.can : { ...sequencer.can, ownValues: own },
  };
}
