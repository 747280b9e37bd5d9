import equal from 'fast-deep-equal';
import { type Difference, entryDifferences, fieldDifferences, type ToldField } from '../document';
import { controlLabel } from '../instrument/control-name';
import type { Instrument } from '../instrument/schema';
import { sayBinding } from '../outline/diff';
import { ROWS } from '../outline/lines';
import { jackLabel } from '../patch/cables';
import { type Pieces, piecesOf } from './pieces';

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
      (name) => (name === ROWS ? 'Rows of the cabinet' : `${name}, in words`),
      (text) => (text === undefined ? 'none' : short(sayLines(text))),
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
    ...entryDifferences(
      'types',
      was.types,
      is.types,
      (id) => `Behind ${typeName(before, after, id)}`,
      (piece) =>
        piece
          ? `${piece.circuit.modules.map((m) => m.name ?? m.id).join(', ') || 'nothing is said'}; ${count(Object.keys(piece.turns).length, 'control')} turn something`
          : 'none',
    ),
    ...placeDifferences(was.places, is.places),
  ].map((d) => (d.before === d.after ? { ...d, after: `${d.after}, otherwise in detail` } : d));
}

/** Lines of a section without its head; of a cabinet's rows all. */
const sayLines = (text: string): string =>
  (text.startsWith(ROWS) ? text.split('\n') : text.split('\n').slice(1)).join(', ');

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

const typeName = (before: Instrument, after: Instrument, id: string): string =>
  [after, before].flatMap((i) => i.rack?.types ?? []).find((t) => t.id === id)?.name ?? id;

const FIELDS: ToldField<Pieces>[] = [
  ['stands', 'Where modules stand in the cabinet', ({ stands }) => short(JSON.stringify(stands))],
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
        : `${memory.banks} banks of ${memory.slots}, names of ${memory.nameLength}${memory.characters ? ` of ${memory.characters}` : ''}${memory.programs ? `, programs counted ${memory.programs.counted === 'bank' ? 'in each bank' : 'through all banks'}, bank select ${memory.programs.select}` : ''}`,
  ],
  ['start', 'Start', (p) => `${count(Object.keys(p.start.settings).length, 'control')} set`],
  ['init', 'Patch to begin from', (p) => short(JSON.stringify(p.init.settings))],
];
