import { type Family, isModuleKind, moduleSpec, type SignalKind } from '../catalogue';
import type { Instrument, Wire } from '../instrument/schema';
import { usesOf } from '../instrument/uses';

export interface RoomPort {
  name: string;
  signal: SignalKind;
  /** A wire, a row of the matrix or a jack is there. */
  used: boolean;
}
export interface RoomModule {
  id: string;
  name: string;
  kind: string;
  family: Family;
  inputs: RoomPort[];
  outputs: RoomPort[];
}
export interface RoomWire extends Wire {
  signal: SignalKind;
}
/** Something of a circuit that will not be heard as it stands, and what to do. */
export interface RoomNote {
  module: string;
  text: string;
}
export interface CircuitRoom {
  modules: RoomModule[];
  wires: RoomWire[];
  notes: RoomNote[];
}

/** A circuit as it is drawn to be edited: every module with all its ports, every wire, and what will not be heard. */
export function circuitRoom(instrument: Instrument): CircuitRoom {
  const { circuit } = instrument;
  const uses = usesOf(instrument);
  const modules = circuit.modules.flatMap((m): RoomModule[] => {
    if (!isModuleKind(m.kind)) return [];
    const { family, inputs, outputs } = moduleSpec(m.kind);
    const used = uses.get(m.id);
    const ports = (side: 'inputs' | 'outputs'): RoomPort[] =>
      Object.entries(side === 'inputs' ? inputs : outputs)
        // A reading in Hz is no voltage.
        .filter(([name]) => name !== 'hz')
        .map(([name, signal]) => ({ name, signal, used: used?.[side].has(name) ?? false }));
    return [
      {
        ...{ id: m.id, name: m.name ?? m.id, kind: m.kind, family },
        inputs: ports('inputs'),
        // What is heard leaves by the output; it has no way further.
        outputs: m.kind === 'output' ? [] : ports('outputs'),
      },
    ];
  });
  const signals = new Map(
    modules.flatMap((m) =>
      m.outputs.map((p) => [`${m.id}.${p.name}`, p.signal] as [string, SignalKind]),
    ),
  );
  const wires = circuit.wires.flatMap((w) => {
    const signal = signals.get(w.from);
    return signal === undefined ? [] : [{ ...w, signal }];
  });
  return { modules, wires, notes: notesOf(instrument, modules) };
}

/** What leads nowhere, and what waits for something that nothing brings. */
function notesOf(instrument: Instrument, modules: readonly RoomModule[]): RoomNote[] {
  const heard = reaching(instrument);
  return modules.flatMap((m): RoomNote[] => {
    const { silentWithout = [] } = moduleSpec(m.kind as Parameters<typeof moduleSpec>[0]);
    const notes: RoomNote[] = [];
    const waits = silentWithout.every((name) => !m.inputs.find((p) => p.name === name)?.used);
    if (silentWithout.length > 0 && waits)
      notes.push({
        module: m.id,
        text: `Nothing comes into ${silentWithout.join(' or ')} of ${m.name}: it gives nothing.`,
      });
    if (m.kind === 'output') {
      if (!m.inputs.some((p) => p.used))
        notes.push({ module: m.id, text: `Nothing leads to ${m.name}: nothing is heard.` });
    } else if (!heard.has(m.id))
      notes.push({ module: m.id, text: `${m.name} leads nowhere that is heard.` });
    return notes;
  });
}

/** Modules from which a way leads to the output: by wires, by the matrix, or out of a jack by a cable. */
function reaching({ circuit, jacks, matrix }: Instrument): Set<string> {
  const moduleOf = (port: string): string => port.slice(0, port.indexOf('.'));
  const into = new Map<string, string[]>();
  const add = (from: string, to: string): void => {
    into.set(to, [...(into.get(to) ?? []), from]);
  };
  for (const w of circuit.wires) add(moduleOf(w.from), moduleOf(w.to));
  const sources = (matrix?.sources ?? []).map((s) => moduleOf(s.port));
  for (const d of matrix?.destinations ?? [])
    for (const source of sources) add(source, moduleOf(d.port));
  const ends = [
    ...circuit.modules.filter((m) => m.kind === 'output').map((m) => m.id),
    ...jacks.filter((j) => j.direction === 'out' && j.port !== '').map((j) => moduleOf(j.port)),
  ];
  const heard = new Set<string>();
  while (ends.length > 0) {
    const id = ends.pop()!;
    if (heard.has(id)) continue;
    heard.add(id);
    ends.push(...(into.get(id) ?? []));
  }
  return heard;
}
