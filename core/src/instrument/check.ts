import type { ModuleSpec } from '../catalogue';
import { isModuleKind, moduleSpec } from '../catalogue';
import { checkPlaces } from './check-places';
import { checkScale, checkTaper, checkTaperFits } from './check-tapers';
import type { Problem, Report } from '../document/problem';
import { freeModuleId } from './arrange';
import { panelOf } from './panel-of';
import { checkPlaced } from './placed';
import type { Instrument, Module, Rack } from './schema';
import { isSwitched } from './switched';
import { lacks, usesOf } from './uses';

/**
 * Checks what a schema cannot say of an instrument: that everything it names is there, that ports and parameters exist,
 * that scales and tapers run one way, that no two controls claim one parameter.
 * @returns problems, empty when the definition is sound
 */
export function checkInstrument(definition: Instrument): Problem[] {
  // A cabinet is sound when every module that can be placed is: each is tried once, beside those that stand there.
  const faults = definition.rack ? checkRackTypes(definition, definition.rack) : [];
  return faults.length > 0 ? faults : checkFace(panelOf(definition), definition.circuit);
}

function checkRackTypes(definition: Instrument, rack: Rack): Problem[] {
  const placed = checkPlaced(rack.placed, rack).map((p) => ({
    ...p,
    pointer: `/rack/placed${p.pointer}`,
  }));
  if (placed.length > 0) return placed;
  const bare = panelOf(definition, { rack: [] });
  const ids = [...bare.sections, ...bare.controls, ...bare.jacks, ...bare.circuit.modules].map(
    (one) => one.id,
  );
  const before = new Set(checkFace(bare, definition.circuit).map((p) => p.message));
  return rack.types.flatMap((type, i) => {
    const alone = [{ id: freeModuleId([], type.id, ids), type: type.id, row: 0, at: 0 }];
    return checkFace(panelOf(definition, { rack: alone }), definition.circuit)
      .filter((p) => !before.has(p.message))
      .map(({ pointer, message }) => ({
        pointer: `/rack/types/${i}${withinType(pointer, bare)}`,
        message,
      }));
  });
}

/** Where a fault of a placed module stands in its type: lists of a panel begin with what the cabinet has by itself. */
function withinType(pointer: string, bare: Instrument): string {
  const [, list, index, rest = ''] =
    /^\/(controls|jacks|circuit\/modules|circuit\/wires|sequencers)\/(\d+)(.*)$/.exec(pointer) ??
    [];
  const fixed = {
    controls: bare.controls.length,
    jacks: bare.jacks.length,
    'circuit/modules': bare.circuit.modules.length,
    'circuit/wires': bare.circuit.wires.length,
    sequencers: bare.sequencers.length,
  };
  const at = Number(index) - (fixed[list as keyof typeof fixed] ?? 0);
  if (list === 'sequencers' && at >= 0) return `/sequencer${rest}`;
  return list && at >= 0 ? `/${list.replace('circuit/', '')}/${at}${rest}` : '';
}

/** @param own the circuit that is there whatever stands in a cabinet: one that is begun ends somewhere */
function checkFace(instrument: Instrument, own: Instrument['circuit']): Problem[] {
  const problems: Problem[] = [];
  const report: Report = (pointer, message) => void problems.push({ pointer, message });
  unique(instrument.sections, '/sections', report);
  unique(instrument.controls, '/controls', report);
  unique(instrument.jacks, '/jacks', report);
  unique(instrument.circuit.modules, '/circuit/modules', report);
  unique(instrument.revisions, '/revisions', report);
  const specs = checkModules(instrument, own, report);
  checkPlaces(instrument, report);
  checkNumbers(instrument, report);
  checkControls(instrument, specs, report);
  checkWires(instrument, specs, report);
  checkMatrix(instrument, specs, report);
  checkStates(instrument, report);
  checkSequencers(instrument, report);
  return problems;
}

function unique(items: readonly { id: string }[], pointer: string, report: Report): void {
  const seen = new Set<string>();
  items.forEach((item, i) => {
    if (seen.has(item.id)) report(`${pointer}/${i}/id`, `"${item.id}" is used twice.`);
    seen.add(item.id);
  });
}

function checkModules(
  instrument: Instrument,
  own: Instrument['circuit'],
  report: Report,
): Map<string, ModuleSpec> {
  const specs = new Map<string, ModuleSpec>();
  const check = (module: Module, pointer: string): ModuleSpec | undefined => {
    if (!isModuleKind(module.kind)) {
      report(`${pointer}/kind`, `There is no module kind "${module.kind}".`);
      return undefined;
    }
    const spec = moduleSpec(module.kind);
    for (const [name, value] of Object.entries(module.params)) {
      checkParam(spec, module.kind, name, value, `${pointer}/params/${name}`, report);
    }
    return spec;
  };
  instrument.circuit.modules.forEach((module, i) => {
    const spec = check(module, `/circuit/modules/${i}`);
    if (spec) specs.set(module.id, spec);
  });
  const outputs = instrument.circuit.modules.flatMap((m, i) => (m.kind === 'output' ? [i] : []));
  // No circuit at all is none yet; one that is begun ends somewhere.
  if (outputs.length === 0 && own.modules.length > 0) {
    report('/circuit/modules', 'There is no module of kind "output": nothing could be heard.');
  }
  for (const i of outputs.slice(1)) {
    report(`/circuit/modules/${i}`, 'There is an output already: what is heard leaves by one.');
  }
  const uses = usesOf(instrument);
  instrument.revisions.forEach((revision, r) =>
    revision.modules.forEach((module, i) => {
      const pointer = `/revisions/${r}/modules/${i}`;
      const spec = check(module, pointer);
      if (!specs.has(module.id))
        report(`${pointer}/id`, `There is no module "${module.id}" to exchange.`);
      else if (spec)
        for (const name of lacks(spec, uses, module.id))
          report(`${pointer}/kind`, `It lacks "${name}" of what it replaces.`);
    }),
  );
  return specs;
}

function checkParam(
  spec: ModuleSpec,
  kind: string,
  name: string,
  value: number | string,
  pointer: string,
  report: Report,
): void {
  const param = Object.hasOwn(spec.params, name) ? spec.params[name] : undefined;
  if (!param) return report(pointer, `A ${kind} has no parameter "${name}".`);
  if (param.kind === 'choice') {
    if (!param.choices.includes(String(value))) {
      report(pointer, `"${value}" is none of ${param.choices.join(', ')}.`);
    }
  } else if (typeof value !== 'number') {
    report(pointer, `${name} is a number in ${param.unit || 'no unit'}.`);
  } else if (value < param.lo || value > param.hi) {
    report(pointer, `${name} runs from ${param.lo} to ${param.hi} ${param.unit}.`);
  }
}

/** Controller numbers: each is one control's, and none selects a bank of the memory. */
function checkNumbers({ controls, memory }: Instrument, report: Report): void {
  const sent = new Map<number, string>();
  const selects = memory.kind === 'slots' && memory.programs && SELECTS[memory.programs.select];
  controls.forEach(({ cc, name }, i) => {
    if (cc === undefined) return;
    const other = sent.get(cc);
    if (other) report(`/controls/${i}/cc`, `Controller number ${cc} is that of "${other}".`);
    if (cc === selects)
      report(`/controls/${i}/cc`, `Controller number ${cc} selects a bank of its memory.`);
    sent.set(cc, name);
  });
}
const SELECTS = { coarse: 0, fine: 32 } as const;

function checkControls(
  instrument: Instrument,
  specs: ReadonlyMap<string, ModuleSpec>,
  report: Report,
): void {
  const sections = new Set(instrument.sections.map((s) => s.id));
  const kinds = new Map(instrument.circuit.modules.map((m) => [m.id, m.kind]));
  const ids = new Set<string>();
  const claimed = new Map<string, string>();
  instrument.controls.forEach((control, i) => {
    const pointer = `/controls/${i}`;
    if (!sections.has(control.section)) {
      report(`${pointer}/section`, `There is no section "${control.section}".`);
    }
    if (!isSwitched(control) && control.scale)
      checkScale(control.scale, `${pointer}/scale`, report);
    if (isSwitched(control)) {
      unique(control.positions, `${pointer}/positions`, report);
      if (!control.positions.some((p) => p.id === control.rest)) {
        report(`${pointer}/rest`, `There is no position "${control.rest}".`);
      }
    }
    // A control that is there twice is told once: what it sets is not claimed again.
    const again = ids.has(control.id);
    ids.add(control.id);
    control.bindings.forEach((bound, b) => {
      const at = `${pointer}/bindings/${b}`;
      const spec = specs.get(bound.module);
      if (!spec) return report(`${at}/module`, `There is no module "${bound.module}".`);
      const key = `${bound.module}.${bound.param}`;
      const other = claimed.get(key);
      if (other !== undefined && !again) report(at, `"${other}" sets ${key} already.`);
      claimed.set(key, control.id);
      const kind = kinds.get(bound.module)!;
      if ('taper' in bound) {
        checkTaper(bound.taper, `${at}/taper`, report);
        const param = Object.hasOwn(spec.params, bound.param)
          ? spec.params[bound.param]
          : undefined;
        if (param?.kind !== 'number') {
          report(`${at}/param`, `A ${kind} has no parameter "${bound.param}" that is a number.`);
        } else checkTaperFits(bound.taper, param, bound.param, `${at}/taper`, report);
        return;
      }
      if (!isSwitched(control)) return;
      for (const position of control.positions) {
        const value = bound.values[position.id];
        if (value === undefined) {
          report(`${at}/values`, `Position "${position.id}" has no value.`);
        } else {
          checkParam(spec, kind, bound.param, value, `${at}/values/${position.id}`, report);
        }
      }
    });
  });
}

function checkWires(
  instrument: Instrument,
  specs: ReadonlyMap<string, ModuleSpec>,
  report: Report,
): void {
  const jacks = new Set(instrument.jacks.map((j) => j.id));
  const known = (port: string, side: 'inputs' | 'outputs', pointer: string): void => {
    const [module = '', name = ''] = port.split('.');
    const spec = specs.get(module);
    if (!spec) report(pointer, `There is no module "${module}".`);
    else if (!Object.hasOwn(spec[side], name)) {
      report(pointer, `"${module}" has no ${side === 'inputs' ? 'input' : 'output'} "${name}".`);
    } else if (side === 'outputs' && name === 'hz') {
      report(pointer, `"${port}" is a reading in Hz, not a voltage: it cannot be wired.`);
    }
  };
  const wired = new Set<string>();
  instrument.circuit.wires.forEach((wire, i) => {
    const pointer = `/circuit/wires/${i}`;
    const ends = `${wire.from} ${wire.to}`;
    if (wired.has(ends)) report(pointer, `${wire.from} is wired to ${wire.to} already.`);
    wired.add(ends);
    known(wire.from, 'outputs', `${pointer}/from`);
    known(wire.to, 'inputs', `${pointer}/to`);
    if (wire.normalOf !== undefined && !jacks.has(wire.normalOf)) {
      report(`${pointer}/normalOf`, `There is no jack "${wire.normalOf}".`);
    }
  });
  const sections = new Set(instrument.sections.map((s) => s.id));
  instrument.jacks.forEach((jack, i) => {
    if (!sections.has(jack.section)) {
      report(`/jacks/${i}/section`, `There is no section "${jack.section}".`);
    }
    if (jack.port !== '')
      known(jack.port, jack.direction === 'in' ? 'inputs' : 'outputs', `/jacks/${i}/port`);
  });
}

function checkMatrix(
  { matrix, circuit, controls }: Instrument,
  specs: ReadonlyMap<string, ModuleSpec>,
  report: Report,
): void {
  if (!matrix) return;
  unique(matrix.sources, '/matrix/sources', report);
  unique(matrix.destinations, '/matrix/destinations', report);
  circuit.modules.forEach((m, i) => {
    if (/^matrix-\d+$/.test(m.id)) {
      report(`/circuit/modules/${i}/id`, 'Names like matrix-1 stand for the matrix rows.');
    }
  });
  for (const [list, side] of [
    ['sources', 'outputs'],
    ['destinations', 'inputs'],
  ] as const) {
    matrix[list].forEach((end, i) => {
      const [module = '', name = ''] = end.port.split('.');
      const pointer = `/matrix/${list}/${i}`;
      if (!Object.hasOwn(specs.get(module)?.[side] ?? {}, name)) {
        report(`${pointer}/port`, `There is no ${side.slice(0, -1)} "${end.port}".`);
      }
      if (end.control !== undefined && !controls.some((c) => c.id === end.control)) {
        report(`${pointer}/control`, `There is no control "${end.control}".`);
      }
    });
  }
  matrix.fixed.forEach((row, i) => {
    if (!matrix.sources.some((s) => s.id === row.source)) {
      report(`/matrix/fixed/${i}/source`, `There is no source "${row.source}".`);
    }
    if (!matrix.destinations.some((d) => d.id === row.destination)) {
      report(`/matrix/fixed/${i}/destination`, `There is no destination "${row.destination}".`);
    }
  });
}

function checkStates(instrument: Instrument, report: Report): void {
  const controls = new Map(instrument.controls.map((c) => [c.id, c]));
  for (const name of ['start', 'init'] as const) {
    for (const [id, value] of Object.entries(instrument[name].settings)) {
      const pointer = `/${name}/settings/${id}`;
      const control = controls.get(id);
      if (!control) report(pointer, `There is no control "${id}".`);
      else if (isSwitched(control)) {
        if (!control.positions.some((p) => p.id === value)) {
          report(pointer, `${control.name} has no position "${value}".`);
        }
      } else if (typeof value !== 'number') report(pointer, 'Expected a share of travel, 0 to 1.');
    }
  }
}

/** Sequencers name controls that are there, and keys from low to high. */
function checkSequencers(instrument: Instrument, report: Report): void {
  const controls = new Set(instrument.controls.map((c) => c.id));
  unique(instrument.sequencers, '/sequencers', report);
  instrument.sequencers.forEach((sequencer, i) => {
    const pointer = `/sequencers/${i}`;
    const known = (id: string | undefined, at: string): void => {
      if (id !== undefined && !controls.has(id))
        report(`${pointer}${at}`, `There is no control "${id}".`);
    };
    unique(sequencer.tracks, `${pointer}/tracks`, report);
    unique(sequencer.rows, `${pointer}/rows`, report);
    sequencer.tracks.forEach((track, t) => {
      if (track.from > track.to) report(`${pointer}/tracks/${t}`, 'Its keys run from high to low.');
    });
    sequencer.rows.forEach((row, r) => {
      row.controls.forEach((id, k) => known(id, `/rows/${r}/controls/${k}`));
      known(row.through, `/rows/${r}/through`);
    });
    for (const [key, id] of Object.entries(sequencer.panel)) known(id, `/panel/${key}`);
    if (Array.isArray(sequencer.can.ownValues)) {
      sequencer.can.ownValues.forEach((id, k) => known(id, `/can/ownValues/${k}`));
    }
  });
}
