import equal from 'fast-deep-equal';
import { byId, type Choose, type Merge, mergeDocuments } from '../document';
import type { Jack } from '../instrument/jack';
import { checkPlaced } from '../instrument/placed';
import type { Control, Instrument, Module, Rack, Wire } from '../instrument/schema';
import { onlyWhatIsThere } from '../instrument/still-there';
import { instrumentOf } from '../outline/instrument';
import { blocksOf, ROWS } from '../outline/lines';
import { readOutline } from '../outline/read';
import { resized } from '../outline/sheet-size';

interface Place {
  x: number;
  y: number;
  size?: number;
  width?: number;
  height?: number;
}

/** What of a module of a cabinet its words do not say. */
interface ModulePiece {
  circuit: Instrument['circuit'];
  turns: Pieces['turns'];
  leads: Pieces['leads'];
  places: Pieces['places'];
  sequencer: Instrument['sequencers'][number] | null;
}

/** What of an instrument is changed by itself: two changes are merged piece by piece. */
export interface Pieces {
  /** What stands before the first section: name and maker. */
  title: string;
  /** Lines of each section, by its name. */
  words: Record<string, string>;
  summary: string;
  modules: Record<string, Module>;
  wires: Record<string, Wire>;
  /** What each control turns, or that it does nothing that is heard. */
  turns: Record<string, { bindings: Control['bindings']; unheard?: true }>;
  /** Where each jack leads. */
  leads: Record<string, string>;
  /** Where everything was put by hand: one piece, so that nothing comes to lie outside its section. */
  places: Record<string, Place>;
  /** What is behind each module of a cabinet. */
  types: Record<string, ModulePiece>;
  /** Where modules of a cabinet stand along their rows. */
  stands: Record<string, number>;
  panel: Pick<Instrument['panel'], 'arranged' | 'millimetres' | 'photograph'>;
  matrix: Instrument['matrix'] | null;
  revisions: Record<string, Instrument['revisions'][number]>;
  sequencers: Record<string, Instrument['sequencers'][number]>;
  memory: Instrument['memory'];
  start: Instrument['start'];
  init: Instrument['init'];
}

const KEYED = {
  words: null,
  modules: null,
  wires: null,
  turns: null,
  leads: null,
  types: null,
  revisions: null,
  sequencers: null,
} as const;

export function piecesOf(instrument: Instrument): Pieces {
  const { outline = '', panel, circuit } = instrument;
  const lines = outline.split(/\r?\n/);
  const blocks = blocksOf(outline);
  const { arranged, millimetres, photograph } = panel;
  return {
    title: lines
      .slice(0, blocks[0]?.from ?? lines.length)
      .join('\n')
      .trimEnd(),
    words: Object.fromEntries(
      blocks.map((b) => [b.name, lines.slice(b.from, b.to).join('\n').trimEnd()]),
    ),
    summary: instrument.summary,
    modules: byId(circuit.modules),
    wires: Object.fromEntries(circuit.wires.map((w) => [`${w.from} ${w.to}`, w])),
    turns: turnsOf(instrument.controls),
    leads: leadsOf(instrument.jacks),
    places: arranged ? placesOf(instrument) : {},
    types: Object.fromEntries(
      (instrument.rack?.types ?? []).map((type): [string, ModulePiece] => [
        type.id,
        {
          circuit: { modules: type.modules, wires: type.wires },
          turns: turnsOf(type.controls),
          leads: leadsOf(type.jacks),
          places: arranged ? placesOf({ ...type, sections: [] }) : {},
          sequencer: type.sequencer ?? null,
        },
      ]),
    ),
    stands: Object.fromEntries((instrument.rack?.placed ?? []).map((p) => [p.id, p.at])),
    panel: {
      ...(arranged ? { arranged } : {}),
      ...(millimetres ? { millimetres } : {}),
      ...(photograph ? { photograph } : {}),
    },
    matrix: instrument.matrix ?? null,
    revisions: byId(instrument.revisions),
    sequencers: byId(instrument.sequencers),
    memory: instrument.memory,
    start: instrument.start,
    init: instrument.init,
  };
}

const turnsOf = (controls: readonly Control[]): Pieces['turns'] =>
  Object.fromEntries(
    controls
      .filter((c) => c.bindings.length > 0 || c.unheard)
      .map(({ id, bindings, unheard }) => [id, { bindings, ...(unheard ? { unheard } : {}) }]),
  );

const leadsOf = (jacks: readonly Jack[]): Pieces['leads'] =>
  Object.fromEntries(jacks.filter((j) => j.port !== '').map((j) => [j.id, j.port]));

const placesOf = ({
  sections,
  controls,
  jacks,
}: Pick<Instrument, 'sections' | 'controls' | 'jacks'>): Record<string, Place> =>
  Object.fromEntries([
    ...sections.map(({ id, x, y, width, height }) => [`section:${id}`, { x, y, width, height }]),
    ...controls.map((c) => [`control:${c.id}`, c.place]),
    ...jacks.map((j) => [`jack:${j.id}`, j.place]),
  ]);

/**
 * An instrument of pieces: its words read anew on top of one that is known, everything else laid over it.
 * @param known the side whose places were taken: what the other has more finds room
 */
function ofPieces(pieces: Pieces, known: Instrument): Instrument {
  // Rows name modules that stand above them.
  const { [ROWS]: rows = '', ...sections } = pieces.words;
  const text = [pieces.title, ...Object.values(sections), rows]
    .filter((b) => b !== '')
    .join('\n\n');
  const { width, height } = known.panel;
  const panel = { width, height, ...pieces.panel };
  const before = equal(panel, known.panel) ? known : resized(known, panel);
  const made = instrumentOf(readOutline(text).outline, text, before);
  const { matrix: _, ...rest } = made;
  return onlyWhatIsThere({
    ...rest,
    summary: pieces.summary,
    ...laidOver(made, pieces),
    ...(made.rack ? { rack: rackOf(made.rack, pieces) } : {}),
    circuit: { modules: Object.values(pieces.modules), wires: Object.values(pieces.wires) },
    ...(pieces.matrix ? { matrix: pieces.matrix } : {}),
    revisions: Object.values(pieces.revisions),
    sequencers: Object.values(pieces.sequencers),
    memory: pieces.memory,
    start: pieces.start,
    init: pieces.init,
  });
}

/** Controls and jacks with what they turn and where they lead. */
const laidOver = (
  { controls, jacks }: Pick<Instrument, 'controls' | 'jacks'>,
  { turns, leads }: Pick<Pieces, 'turns' | 'leads'>,
): Pick<Instrument, 'controls' | 'jacks'> => ({
  controls: controls.map((control) => {
    const { unheard: _, ...c } = control;
    return { ...c, ...(turns[c.id] ?? { bindings: [] }) } as Control;
  }),
  jacks: jacks.map((j) => ({ ...j, port: leads[j.id] ?? '' })),
});

/** A cabinet with what is behind its modules, and where they stand if those are the ones that stand there. */
function rackOf(rack: Rack, pieces: Pieces): Rack {
  const { types, stands } = pieces;
  const placed = rack.placed.map((p) => ({ ...p, at: stands[p.id] ?? p.at }));
  const next = {
    ...rack,
    types: rack.types.map((type): Rack['types'][number] => {
      const piece = types[type.id];
      if (!piece) return type;
      const { circuit, places, sequencer } = piece;
      const over = laidOver(type, piece);
      const at = <T extends { id: string; place: Control['place'] }>(kind: string, one: T): T => {
        const place = places[`${kind}:${one.id}`];
        return place ? { ...one, place: { ...one.place, ...place } } : one;
      };
      const { sequencer: _, ...rest } = type;
      return {
        ...rest,
        ...(sequencer ? { sequencer } : {}),
        controls: over.controls.map((c) => at('control', c)),
        jacks: over.jacks.map((j) => at('jack', j)),
        modules: circuit.modules,
        wires: circuit.wires,
      };
    }),
  };
  return checkPlaced(placed, next).length === 0 ? { ...next, placed } : next;
}

/**
 * Pieces that are each fine and do not go together: two controls for one parameter, two outputs. One of them stays, mine unless
 * theirs is chosen, and both are told as decided.
 */
function withoutClashes(
  pieces: Pieces,
  ours: Pieces,
  choose: Choose = () => 'mine',
): { pieces: Pieces; clashes: string[] } {
  const clashes: string[] = [];
  const stays = (field: 'turns' | 'modules', ids: readonly string[]): string => {
    const pointer = (id: string): string => `/${field}/${id}`;
    clashes.push(...ids.map(pointer));
    const [first = ''] = ids;
    const chosen = ids.find((id) => !ours[field][id] && choose(pointer(id)) === 'theirs');
    return chosen ?? ids.find((id) => ours[field][id]) ?? first;
  };
  const claims = new Map<string, string[]>();
  for (const [control, { bindings }] of Object.entries(pieces.turns))
    for (const { module, param } of bindings) {
      const key = `${module}.${param}`;
      claims.set(key, [...(claims.get(key) ?? []), control]);
    }
  const owner = new Map(
    [...claims].map(([key, all]) => [key, all.length > 1 ? stays('turns', all) : all[0]!]),
  );
  const turns = Object.entries(pieces.turns).map(([control, said]) => {
    const bindings = (said.bindings as Control['bindings'][number][]).filter(
      (b) => owner.get(`${b.module}.${b.param}`) === control,
    );
    return [control, { ...said, bindings }] as [string, Pieces['turns'][string]];
  });
  const outputs = Object.values(pieces.modules)
    .filter((m) => m.kind === 'output')
    .map((m) => m.id);
  const output = outputs.length > 1 ? stays('modules', outputs) : outputs[0];
  const modules = Object.entries(pieces.modules).filter(
    ([id, m]) => m.kind !== 'output' || id === output,
  );
  return {
    pieces: { ...pieces, turns: Object.fromEntries(turns), modules: Object.fromEntries(modules) },
    clashes,
  };
}

/**
 * Merges two changes of one described instrument, piece by piece: the words of each section, each module and wire, what each
 * control turns, each place, sequencers, memory and the rest. What both changed is decided by `choose`.
 */
export function mergeInstruments(
  base: Instrument | null,
  mine: Instrument,
  theirs: Instrument,
  choose?: Choose,
): Merge<Instrument> {
  const [ours, others] = [piecesOf(mine), piecesOf(theirs)];
  const { merged, conflicts } = mergeDocuments<Pieces>(
    KEYED,
    base && piecesOf(base),
    ours,
    others,
    choose,
  );
  const known = equal(merged.places, ours.places) ? mine : theirs;
  const { pieces, clashes } = withoutClashes(merged, ours, choose);
  return {
    merged: { ...ofPieces(pieces, known), id: mine.id },
    conflicts: [...conflicts, ...clashes.filter((c) => !conflicts.includes(c))],
  };
}
