import type { Setting } from '../reading/setting';
import type { Control, Instrument, Section } from '../instrument/schema';
import { freeCableId } from './cables';
import type { Cable, Patch } from './schema';

/** A section and the one that becomes like it. */
export interface Twin {
  from: string;
  to: string;
}

/** What tells whether two controls do the same in their sections: name, kind, positions. */
const face = (c: Control): string =>
  [c.kind, c.name, 'positions' in c ? c.positions.map((p) => p.id).join() : ''].join('|');

const controlsOf = (instrument: Instrument, section: string): Control[] =>
  instrument.controls.filter((c) => c.section === section);

/** Sections with the same controls and jacks as a section, in the same order: its twins. */
export function twinsOf(instrument: Instrument, section: string): Section[] {
  const told = (id: string): string =>
    [
      ...controlsOf(instrument, id).map(face),
      ...instrument.jacks
        .filter((j) => j.section === id)
        .map((j) => `${j.signal}|${j.direction}|${j.name}`),
    ].join('\n');
  const own = told(section);
  if (own === '') return [];
  return instrument.sections.filter((s) => s.id !== section && told(s.id) === own);
}

/**
 * A patch with sections made like others: bank two, all as bank one. Cables between the sections that are copied are
 * repeated between their twins; what is plugged into the twins' side of such a cable gives way.
 */
export function copySections(instrument: Instrument, patch: Patch, twins: readonly Twin[]): Patch {
  const settings: Record<string, Setting> = { ...patch.settings };
  const jackTwin = new Map<string, string>();
  for (const { from, to } of twins) {
    const target = controlsOf(instrument, to);
    controlsOf(instrument, from).forEach((control, i) => {
      const setting = patch.settings[control.id];
      const id = target[i]!.id;
      if (setting) settings[id] = setting;
      else delete settings[id];
    });
    const there = instrument.jacks.filter((j) => j.section === to);
    instrument.jacks
      .filter((j) => j.section === from)
      .forEach((jack, i) => jackTwin.set(jack.id, there[i]!.id));
  }
  const cables: Cable[] = [...patch.cables];
  for (const cable of patch.cables) {
    const [from, to] = [jackTwin.get(cable.from ?? ''), jackTwin.get(cable.to ?? '')];
    const plug = cable.from === undefined || cable.to === undefined;
    if (plug ? !from && !to : !from || !to) continue;
    for (let i = cables.length - 1; i >= 0; i--) {
      const there = cables[i]!;
      if ((from && there.from === from) || (to && there.to === to)) cables.splice(i, 1);
    }
    cables.push({
      ...cable,
      id: freeCableId([...patch.cables, ...cables]),
      ...(from ? { from } : {}),
      ...(to ? { to } : {}),
    });
  }
  return { ...patch, settings, cables };
}
