import { isModuleKind } from '../catalogue';
import { passesOn } from './graph';
import type { Instrument } from '../instrument/schema';

/** Whether a module of the circuit hands on whatever comes in. */
export function passesModule(instrument: Instrument, id: string): boolean {
  let passing = passingModules.get(instrument);
  if (!passing) {
    const { modules } = instrument.circuit;
    passing = new Set(
      modules.flatMap((m) => (isModuleKind(m.kind) && passesOn(m.kind) ? [m.id] : [])),
    );
    passingModules.set(instrument, passing);
  }
  return passing.has(id);
}

const passingModules = new WeakMap<Instrument, Set<string>>();
