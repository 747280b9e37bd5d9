import { isModuleKind, type ModuleKind, moduleSpec } from '../catalogue';
import type { Outboard, OutboardControl } from './outboard';
import type { Control, Instrument, Module, Section, Wire } from './schema';

const HEIGHT = 118;
const GAP = 12;
const COLUMN = 56;
const NARROWEST = 120;
/** What a section's number takes of its heading, and each letter of its name. */
const NUMBER = 48;
const LETTER = 7.5;

/** Ids of what leads to what is heard when something stands behind an instrument. */
const LAST = 'behind';

/** Whether a kind of module can stand for something that sound goes through. */
export const canStandBehind = (kind: string): kind is ModuleKind => {
  if (!isModuleKind(kind)) return false;
  const { family, inputs, outputs } = moduleSpec(kind);
  return (family === 'effect' || family === 'filter') && 'in' in inputs && 'out' in outputs;
};

/**
 * A panel with what stands behind it: each thing a section below the instrument, its controls and its sound in the circuit
 * behind the output, or behind the jack at which the sound is taken off.
 * @param outlet jack; absent for the instrument's own output
 */
export function withOutboard(
  face: Instrument,
  outboard: readonly Outboard[],
  outlet: string | undefined,
): Instrument {
  const sections: Section[] = [];
  const controls: Control[] = [];
  let [x, y] = [8, face.panel.height + GAP];
  for (const thing of outboard) {
    const { id, name } = thing;
    const width = Math.max(
      NARROWEST,
      16 + COLUMN * thing.controls.length,
      NUMBER + LETTER * name.length,
    );
    if (x > 8 && x + width > face.panel.width - 8) [x, y] = [8, y + HEIGHT + GAP];
    sections.push({ id, name, stage: 'effects', x, y, width, height: HEIGHT });
    thing.controls.forEach((control, i) => {
      const step = (width - 16) / thing.controls.length;
      controls.push(controlOf(thing, control, x + 8 + step * (i + 0.5), y + 62));
    });
    x += width + GAP;
  }
  const { modules, wires } = circuitBehind(face, outboard, outlet);
  return {
    ...face,
    panel: outboard.length === 0 ? face.panel : { ...face.panel, height: y + HEIGHT + 8 },
    sections: [...face.sections, ...sections],
    controls: [...face.controls, ...controls],
    circuit: {
      // What is heard is the first output there is.
      modules: [...modules, ...face.circuit.modules],
      wires: [...face.circuit.wires, ...wires],
    },
  };
}

function controlOf(thing: Outboard, control: OutboardControl, x: number, y: number): Control {
  const id = `${thing.id}-${control.id}`;
  const { name, positions, turns, taper, scale, rest } = control;
  const base = { id, section: thing.id, name };
  if (positions) {
    return {
      ...base,
      kind: positions.length === 2 ? 'toggle' : 'rotary',
      place: { x, y, size: positions.length === 2 ? 24 : 40 },
      positions: positions.map((p) => ({ id: p.id, name: p.name })),
      rest: positions.some((p) => p.id === rest) ? String(rest) : positions[0]!.id,
      bindings: turns.map((param) => ({
        module: thing.id,
        param,
        values: Object.fromEntries(
          positions.flatMap((p) => (p.value === undefined ? [] : [[p.id, p.value]])),
        ),
      })),
    };
  }
  const [from, to] = scale;
  const tenth = (to - from) / 10;
  return {
    ...base,
    kind: 'knob',
    sweep: 300,
    place: { x, y, size: 34 },
    scale: {
      marks: Array.from({ length: 11 }, (_, i) => ({
        at: i / 10,
        value: Math.round((from + i * tenth) * 1e6) / 1e6,
      })),
      division: Math.abs(tenth) || 1,
      unit: '',
    },
    rest: typeof rest === 'number' ? rest : 0,
    bindings: taper ? turns.map((param) => ({ module: thing.id, param, taper })) : [],
  };
}

interface Circuit {
  modules: Module[];
  wires: Wire[];
}

function circuitBehind(
  face: Instrument,
  outboard: readonly Outboard[],
  outlet: string | undefined,
): Circuit {
  const own = face.circuit.modules.find((m) => m.kind === 'output');
  const jack = face.jacks.find((j) => j.id === outlet && j.direction === 'out' && j.port !== '');
  const heard = outboard.filter(
    (t) => !t.off && t.module !== undefined && canStandBehind(t.module),
  );
  if (!own || (!jack && heard.length === 0)) return { modules: [], wires: [] };
  const wires: Wire[] = [];
  // Both sides, or one sound for both.
  let sides: [string, string] | null = jack ? null : [`${own.id}.left`, `${own.id}.right`];
  let one = jack ? jack.port : `${own.id}.out`;
  const modules = heard.map((thing): Module => {
    const kind = thing.module as ModuleKind;
    const { inputs, outputs } = moduleSpec(kind);
    const stereo = 'left' in inputs && 'left' in outputs;
    if (stereo && sides) {
      wires.push({ from: sides[0], to: `${thing.id}.left` });
      wires.push({ from: sides[1], to: `${thing.id}.right` });
    } else wires.push({ from: one, to: `${thing.id}.in` });
    sides = stereo ? [`${thing.id}.left`, `${thing.id}.right`] : null;
    one = `${thing.id}.out`;
    return { id: thing.id, kind, name: thing.name, params: thing.params };
  });
  if (sides) {
    wires.push({ from: sides[0], to: `${LAST}.left` }, { from: sides[1], to: `${LAST}.right` });
  } else wires.push({ from: one, to: `${LAST}.in` });
  const name = jack && heard.length === 0 ? `${jack.name} jack` : 'behind the instrument';
  return { modules: [{ id: LAST, kind: 'output', name, params: {} }, ...modules], wires };
}
