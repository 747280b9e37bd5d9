import type { Jack } from '../instrument/jack';
import type { Control, Instrument, Section } from '../instrument/schema';
import { INSTRUMENT_FORMAT_VERSION } from '../instrument/schema';
import { guessAmount, guessKind, guessSignal, guessStage, restsInMiddle } from './guess';
import { layOut, type LaidSection } from './layout';
import type { Outline, OutlineControl, OutlineJack } from './outline';
import { divisionOf, readNumber, travelAt } from './scale';

/** An id of a file, from words: small letters, digits and hyphens, 48 at most. */
export function idFrom(words: string): string {
  const plain = words
    .toLowerCase()
    .replace(/^\+/, 'plus ')
    .replace(/^[-−]/, 'minus ')
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 44)
    .replace(/-+$/, '');
  return plain === '' || plain === 'constructor' ? 'x' : plain;
}

/** The id, or with a number behind it the first that is free; it is taken then. */
function take(wanted: string, taken: Set<string>): string {
  let id = wanted;
  for (let n = 2; taken.has(id); n++) id = `${wanted}-${n}`;
  taken.add(id);
  return id;
}

/**
 * The instrument that an outline describes, laid out, with no circuit yet: it is recorded, compared, rebuilt and printed.
 * Ids are made of the words: the same words give the same ids.
 * @param id of the instrument; made of its name when it is left out
 */
export function instrumentOf(outline: Outline, text: string, id?: string): Instrument {
  const [sections, controls, jacks] = [new Set<string>(), new Set<string>(), new Set<string>()];
  const laid = outline.sections.map((s): LaidSection => {
    const section: Section = {
      id: take(idFrom(s.name), sections),
      name: s.name,
      stage: s.stage ?? guessStage(s.name),
      x: 0,
      y: 0,
      width: 64,
      height: 64,
    };
    const place = { x: 0, y: 0, size: 40 };
    const own = (name: string): string => idFrom(`${section.id} ${name}`);
    let above = '';
    return {
      section,
      controls: s.controls.map((c) => {
        const made = controlOf(c, take(own(c.name), controls), section.id, above, { ...place });
        if (!c.second) above = c.name;
        return made;
      }),
      jacks: s.jacks.map((j) =>
        jackOf(j, take(own(`${j.name} ${j.direction}`), jacks), section.id, { ...place }),
      ),
    };
  });
  const panel = layOut(laid);
  const name = outline.name || 'No name yet';
  return {
    format: 'hurrel-instrument',
    version: INSTRUMENT_FORMAT_VERSION,
    id: id ?? idFrom(`${outline.maker} ${name}`),
    maker: outline.maker || 'Own',
    name,
    summary: '',
    outline: text,
    panel: { width: Math.max(panel.width, 120), height: Math.max(panel.height, 80) },
    sections: laid.map((l) => l.section),
    controls: laid.flatMap((l) => l.controls),
    jacks: laid.flatMap((l) => l.jacks),
    circuit: { modules: [], wires: [] },
    revisions: [],
    sequencers: [],
    memory: { kind: 'none' },
    start: { note: '', settings: {} },
    init: { note: '', settings: {} },
  };
}

function controlOf(
  control: OutlineControl,
  id: string,
  section: string,
  above: string,
  place: Control['place'],
): Control {
  const { name, positions, marks, unit, second, route } = control;
  const kind = control.kind ?? guessKind(control);
  const base = {
    id,
    section,
    name,
    place,
    ...(second ? { where: `second function of ${above}`.slice(0, 80) } : {}),
    ...(route ? { route } : second ? { route: ['second function', above] } : {}),
    ...((control.amount ?? guessAmount(control)) ? { amount: true } : {}),
  };
  if (positions) {
    const taken = new Set<string>();
    const made = positions.map((p) => ({ id: take(idFrom(p), taken), name: p }));
    const rest = made[Math.max(0, positions.indexOf(control.rest ?? ''))]!.id;
    return { ...base, kind, positions: made, rest, bindings: [] } as Control;
  }
  return {
    ...base,
    kind,
    sweep: 300,
    ...(marks ? { scale: { marks, division: divisionOf(marks), unit: unit ?? '' } } : {}),
    rest: restOf(control),
    bindings: [],
  } as Control;
}

/** Where it rests: as said, else at nought when its scale goes to both sides, in the middle when it tunes, at its lower end. */
function restOf({ name, marks, rest }: OutlineControl): number {
  if (!marks) {
    if (rest !== undefined) return parseFloat(rest) / 100;
    return restsInMiddle(name) ? 0.5 : 0;
  }
  return travelAt(marks, rest === undefined ? 0 : readNumber(rest)) ?? 0;
}

function jackOf(jack: OutlineJack, id: string, section: string, place: Jack['place']): Jack {
  return {
    id,
    section,
    name: jack.name,
    place,
    signal: jack.signal ?? guessSignal(jack),
    direction: jack.direction,
    ...(jack.standard ? { standard: jack.standard } : {}),
    port: '',
  };
}
