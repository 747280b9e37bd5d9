import equal from 'fast-deep-equal';
import {
  type Choose,
  type Difference,
  entryDifferences,
  fieldDifferences,
  type Merge,
  mergeDocuments,
  type ToldField,
} from '../document';
import { controlLabel } from '../instrument/control-name';
import type { Control, Instrument, Module, Wire } from '../instrument/schema';
import { onlyWhatIsThere } from '../instrument/still-there';
import { instrumentOf } from '../outline/instrument';
import { jackLabel } from '../patch/cables';
import { sayBinding } from '../outline/diff';
import { blocksOf } from '../outline/lines';
import { readOutline } from '../outline/read';
import { resized } from '../outline/sheet-size';

interface Place {
  x: number;
  y: number;
  size?: number;
  width?: number;
  height?: number;
}

/** What of an instrument is changed by itself: two changes are merged piece by piece. */
interface Pieces {
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
  revisions: null,
  sequencers: null,
} as const;

const byId = <T extends { id: string }>(list: readonly T[]): Record<string, T> =>
  Object.fromEntries(list.map((one) => [one.id, one]));

function piecesOf(instrument: Instrument): Pieces {
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
    turns: Object.fromEntries(
      instrument.controls
        .filter((c) => c.bindings.length > 0 || c.unheard)
        .map(({ id, bindings, unheard }) => [id, { bindings, ...(unheard ? { unheard } : {}) }]),
    ),
    leads: Object.fromEntries(
      instrument.jacks.filter((j) => j.port !== '').map((j) => [j.id, j.port]),
    ),
    places: arranged ? placesOf(instrument) : {},
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

const placesOf = ({ sections, controls, jacks }: Instrument): Record<string, Place> =>
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
  const text = [pieces.title, ...Object.values(pieces.words)].filter((b) => b !== '').join('\n\n');
  const { width, height } = known.panel;
  const panel = { width, height, ...pieces.panel };
  const before = equal(panel, known.panel) ? known : resized(known, panel);
  const made = instrumentOf(readOutline(text).outline, text, before);
  const { matrix: _, ...rest } = made;
  return onlyWhatIsThere({
    ...rest,
    summary: pieces.summary,
    controls: made.controls.map((control) => {
      const { unheard: __, ...c } = control;
      return { ...c, ...(pieces.turns[c.id] ?? { bindings: [] }) } as Control;
    }),
    jacks: made.jacks.map((j) => ({ ...j, port: pieces.leads[j.id] ?? '' })),
    circuit: { modules: Object.values(pieces.modules), wires: Object.values(pieces.wires) },
    ...(pieces.matrix ? { matrix: pieces.matrix } : {}),
    revisions: Object.values(pieces.revisions),
    sequencers: Object.values(pieces.sequencers),
    memory: pieces.memory,
    start: pieces.start,
    init: pieces.init,
  });
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

const count = (many: number, word: string): string => `${many} ${word}${many === 1 ? '' : 's'}`;
const short = (words: string): string => (words.length > 160 ? `${words.slice(0, 159)}…` : words);

/**
 * Differences from one state of an instrument to another, each a piece that can be taken by itself: none is left out, also
 * where both read alike in short.
 */
export function pieceDifferences(before: Instrument, after: Instrument): Difference[] {
  const [was, is] = [piecesOf(before), piecesOf(after)];
  const label = (id: string): string => {
    const known = after.controls.some((c) => c.id === id) ? after : before;
    return controlLabel(known, id);
  };
  const jack = (id: string): string => {
    const known = after.jacks.some((j) => j.id === id) ? after : before;
    return jackLabel(known, id);
  };
  const names = { ...was.modules, ...is.modules };
  const moduleName = (id: string): string => names[id]?.name ?? id;
  return [
    ...fieldDifferences(FIELDS, was, is),
    ...entryDifferences(
      'words',
      was.words,
      is.words,
      (name) => `${name}, in words`,
      (text) => (text === undefined ? 'none' : short(text.split('\n').slice(1).join(', '))),
    ),
    ...entryDifferences('turns', was.turns, is.turns, label, (turns) =>
      turns?.unheard
        ? 'nothing that is heard'
        : turns
          ? turns.bindings.map((b) => sayBinding(b, moduleName(b.module))).join(', ')
          : 'nothing is said',
    ),
    ...entryDifferences('leads', was.leads, is.leads, jack, (port) => port ?? 'nowhere yet'),
    ...entryDifferences(
      'modules',
      was.modules,
      is.modules,
      (id) => `Module ${moduleName(id)}`,
      (m) =>
        m ? [m.kind, ...Object.entries(m.params).map(([k, v]) => `${k} ${v}`)].join(', ') : 'none',
    ),
    ...entryDifferences(
      'wires',
      was.wires,
      is.wires,
      (ends) => `Wire ${ends.replace(' ', ' to ')}`,
      (w) => (w ? (w.normalOf ? `until a plug in ${w.normalOf}` : 'there') : 'none'),
    ),
    ...entryDifferences(
      'revisions',
      was.revisions,
      is.revisions,
      (id) => `Revision ${id}`,
      (r) => (r ? `${r.name}, ${count(r.modules.length, 'module')} exchanged` : 'none'),
    ),
    ...entryDifferences(
      'sequencers',
      was.sequencers,
      is.sequencers,
      (id) => `Sequencer ${id}`,
      (s) => (s ? `${s.name}, ${count(s.steps, 'step')}, ${JSON.stringify(s.can)}` : 'none'),
    ),
    ...placeDifferences(was.places, is.places),
  ].map((d) => (d.before === d.after ? { ...d, after: `${d.after}, otherwise in detail` } : d));
}

function placeDifferences(before: Pieces['places'], after: Pieces['places']): Difference[] {
  if (equal(before, after)) return [];
  const things = new Set([...Object.keys(before), ...Object.keys(after)]);
  const moved = [...things].filter((t) => !equal(before[t], after[t])).length;
  const say = (places: Pieces['places'], words: string): string =>
    Object.keys(places).length === 0 ? 'laid out by itself' : words;
  return [
    {
      ...{ pointer: '/places', subject: 'Where things stand' },
      ...{ before: say(before, 'by hand'), after: say(after, `by hand, ${moved} elsewhere`) },
    },
  ];
}

const FIELDS: ToldField<Pieces>[] = [
  ['title', 'Name and maker', (p) => p.title],
  ['summary', 'What it is', (p) => p.summary],
  [
    'panel',
    'Sheet',
    ({ panel: { arranged, millimetres, photograph } }) =>
      [
        arranged ? 'arranged by hand' : 'laid out by itself',
        ...(millimetres ? [`${millimetres.width} by ${millimetres.height} mm`] : []),
        ...(photograph
          ? [`on a photograph ${photograph.id.slice(0, 6)}, ${JSON.stringify(photograph.corners)}`]
          : []),
      ].join(', '),
  ],
  [
    'matrix',
    'Matrix',
    ({ matrix }) =>
      matrix
        ? `${count(matrix.rows, 'row')} from ${matrix.sources.map((s) => s.name).join(', ')} to ${matrix.destinations.map((d) => `${d.name} ${d.full}`).join(', ')}, ${matrix.depth.most}${matrix.depth.unit} by ${matrix.depth.step}, ${matrix.route.join(' > ')}`
        : 'none',
  ],
  [
    'memory',
    'Memory',
    ({ memory }) =>
      memory.kind === 'none'
        ? 'none'
        : `${memory.banks} banks of ${memory.slots}, names of ${memory.nameLength}${memory.characters ? ` of ${memory.characters}` : ''}`,
  ],
  ['start', 'Start', (p) => `${count(Object.keys(p.start.settings).length, 'control')} set`],
  ['init', 'Patch to begin from', (p) => short(JSON.stringify(p.init.settings))],
];
