import type { Jack } from '../instrument/jack';
import type { Instrument } from '../instrument/schema';
import type { Cable, Patch } from './schema';

const jackIndexes = new WeakMap<Instrument, Map<string, Jack>>();

/** A jack by its id; an instrument's jacks are looked up once. */
export function jackOf(instrument: Instrument, id: string | undefined): Jack | undefined {
  if (id === undefined) return undefined;
  let index = jackIndexes.get(instrument);
  if (!index) {
    index = new Map(instrument.jacks.map((j) => [j.id, j]));
    jackIndexes.set(instrument, index);
  }
  return index.get(id);
}

const modules = new WeakMap<Jack, string>();

/** Module of the circuit that a jack belongs to. */
export function moduleOfJack(jack: Jack): string {
  let module = modules.get(jack);
  if (module === undefined) {
    module = jack.port.slice(0, jack.port.indexOf('.'));
    modules.set(jack, module);
  }
  return module;
}

const repeated = new WeakMap<Instrument, Set<string>>();

/** Names of jacks that there is more than one of. */
function repeatedNames(instrument: Instrument): Set<string> {
  const known = repeated.get(instrument);
  if (known) return known;
  const seen = new Set<string>();
  const twice = new Set<string>();
  for (const { name } of instrument.jacks) (seen.has(name) ? twice : seen).add(name);
  repeated.set(instrument, twice);
  return twice;
}

/** A jack in the panel's words: its name, with its section in front where the name alone would not tell. */
export function jackLabel(instrument: Instrument, id: string | undefined): string {
  const jack = jackOf(instrument, id);
  if (!jack) return id ?? 'free end';
  if (!repeatedNames(instrument).has(jack.name)) return jack.name;
  const section = instrument.sections.find((s) => s.id === jack.section);
  return `${section?.name ?? ''} ${jack.name}`.trim();
}

/** A cable in one line: `osc 1 saw → filter in`, `plug in filter track`. */
export function cableText(instrument: Instrument, cable: Cable): string {
  if (cable.from === undefined || cable.to === undefined) {
    return `plug in ${jackLabel(instrument, cable.from ?? cable.to)}`;
  }
  return `${jackLabel(instrument, cable.from)} → ${jackLabel(instrument, cable.to)}`;
}

/** Why two jacks cannot be joined, in words to act on; undefined when they can. */
export function cannotJoin(instrument: Instrument, a: string, b: string): string | undefined {
  const [one, other] = [jackOf(instrument, a), jackOf(instrument, b)];
  if (!one || !other) return `There is no jack "${one ? b : a}".`;
  if (one.id === other.id) return 'Both ends are in the same jack.';
  if (one.direction !== other.direction) return undefined;
  const both = one.direction === 'out' ? 'give a signal' : 'take a signal';
  return `${jackLabel(instrument, a)} and ${jackLabel(instrument, b)} both ${both}: choose one of each.`;
}

/** A cable between two jacks, whichever was named first; with one jack, a plug. Its id is new among `cables`. */
export function newCable(
  instrument: Instrument,
  cables: readonly Cable[],
  a: string,
  b?: string,
): Cable {
  const id = freeCableId(cables);
  const first = jackOf(instrument, a);
  if (b === undefined) return first?.direction === 'out' ? { id, from: a } : { id, to: a };
  return first?.direction === 'out' ? { id, from: a, to: b } : { id, from: b, to: a };
}

export function freeCableId(cables: readonly Cable[]): string {
  const taken = new Set(cables.map((c) => c.id));
  let n = cables.length + 1;
  while (taken.has(`c${n}`)) n++;
  return `c${n}`;
}

/** How well a jack answers to words: to its label, or to its section and its name, as both stand on the panel. */
function matchJack(instrument: Instrument, jack: Jack, typed: readonly string[]): number {
  const section = instrument.sections.find((s) => s.id === jack.section)?.name ?? '';
  return Math.max(
    match(jackLabel(instrument, jack.id), typed),
    match(`${section} ${jack.name}`.trim(), typed),
  );
}

/** Jacks whose label, or section and name, hold every word typed, best first: words that begin a word of the label count more. */
export function jacksNamed(
  instrument: Instrument,
  text: string,
  wanted: (jack: Jack) => boolean = () => true,
): Jack[] {
  const typed = text.toLowerCase().split(/\s+/).filter(Boolean);
  return instrument.jacks
    .filter(wanted)
    .map((jack, i) => ({ jack, i, score: matchJack(instrument, jack, typed) }))
    .filter((hit) => hit.score > 0)
    .sort((a, b) => b.score - a.score || a.i - b.i)
    .map((hit) => hit.jack);
}

function match(label: string, typed: readonly string[]): number {
  const said = label.toLowerCase().split(/\s+/);
  // A name that is written out whole is meant, whatever else holds its words.
  let score = said.join(' ') === typed.join(' ') ? 1000 : 1;
  // Each word of the label stands for one that is typed: a second 2 wants a second 2.
  const left = [...said];
  const take = (found: number): boolean => found >= 0 && left.splice(found, 1).length > 0;
  for (const word of typed) {
    if (take(left.indexOf(word))) score += 4;
    else if (take(left.findIndex((s) => s.startsWith(word)))) score += 2;
    else if (!left.join(' ').includes(word)) return 0;
  }
  // Of two that match alike, the one with less besides.
  return score - said.length / 100;
}

/**
 * Whether the first of the jacks that a name may mean is the one that is meant: the only one, one written out whole, or one
 * that begins where the others only contain. What is not clear is to be asked.
 */
export function isClear(instrument: Instrument, text: string, found: readonly Jack[]): boolean {
  const typed = text.toLowerCase().split(/\s+/).filter(Boolean);
  const [first, second] = found.map((j) => Math.round(matchJack(instrument, j, typed)));
  return first !== undefined && (second === undefined || first > second);
}

/** A patch with cables pulled out, and out of what its variations pull. */
export function withoutCables(patch: Patch, ids: readonly string[]): Patch {
  if (ids.length === 0) return patch;
  const gone = (id: string): boolean => ids.includes(id);
  return {
    ...patch,
    cables: patch.cables.filter((c) => !gone(c.id)),
    variations: patch.variations.map((v) =>
      v.pulled.some(gone) ? { ...v, pulled: v.pulled.filter((id) => !gone(id)) } : v,
    ),
  };
}

/**
 * The jack that a signal really comes from: what comes out of a multiple or an attenuator on the panel is what a cable puts
 * into it. `passes` tells which modules hand on whatever comes in.
 */
export function originJack(
  instrument: Instrument,
  cables: readonly Cable[],
  jack: Jack,
  passes: (module: string) => boolean,
  seen: ReadonlySet<string> = new Set(),
): Jack {
  const module = moduleOfJack(jack);
  if (jack.direction !== 'out' || seen.has(module) || !passes(module)) return jack;
  for (const cable of cables) {
    const to = jackOf(instrument, cable.to);
    const from = jackOf(instrument, cable.from);
    if (cable.inactive || !from || !to || moduleOfJack(to) !== module) continue;
    return originJack(instrument, cables, from, passes, new Set([...seen, module]));
  }
  return jack;
}
