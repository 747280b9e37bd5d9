import equal from 'fast-deep-equal';
import { type Difference, fieldDifferences, type ToldField } from '../document';
import type { Control, Instrument } from '../instrument/schema';
import { formatSetting } from '../reading/format';
import { inWorkingOrder } from '../instrument/order';
import { cableText } from './cables';
import { matrixRowText } from './matrix';
import { applyVariation } from './variation';
import { type Cable, editionOf, type Patch } from './schema';

/**
 * Differences from one patch to another, controls in working order first, then notes and the rest.
 * @param instrument panel of the one after
 * @param panelBefore panel of the one before: where its description was another, readings are compared as they are read
 */
export function diffPatches(
  instrument: Instrument,
  before: Patch,
  after: Patch,
  panelBefore = instrument,
): Difference[] {
  return [
    ...controlDifferences(panelBefore, instrument, before, after),
    ...cableDifferences(instrument, before, after),
    ...rowDifferences(instrument, before, after),
    ...noteDifferences(instrument, before, after),
    ...fieldDifferences(FIELDS, before, after).map((d) =>
      d.pointer === '/revision' ? namedRevisions(instrument, d) : d,
    ),
  ];
}

/** Revisions by the names that they have. */
const namedRevisions = ({ revisions }: Instrument, difference: Difference): Difference => {
  const named = (id: string): string => revisions.find((r) => r.id === id)?.name ?? id;
  return {
    ...difference,
    before: named(difference.before),
    after: named(difference.after),
  };
};

function controlDifferences(was: Instrument, is: Instrument, a: Patch, b: Patch): Difference[] {
  const sections = new Map([...was.sections, ...is.sections].map((s) => [s.id, s.name]));
  const old = new Map(was.controls.map((c) => [c.id, c]));
  const now = new Set(is.controls.map((c) => c.id));
  const gone = was.controls.filter((c) => !now.has(c.id) && a.settings[c.id]);
  const said = (control: Control | undefined, { settings }: Patch): string =>
    control ? formatSetting(control, settings[control.id]) : 'not on this panel';
  return [...inWorkingOrder(is), ...gone].flatMap((c): Difference[] => {
    const [from, to] = [old.get(c.id), now.has(c.id) ? c : undefined];
    const [before, after] = [said(from, a), said(to, b)];
    const stays = equal(from, to) ? equal(a.settings[c.id], b.settings[c.id]) : before === after;
    const unset = !a.settings[c.id] && !b.settings[c.id];
    if (stays || unset) return [];
    const subject = `${sections.get(c.section)} ${c.name}`;
    return [{ pointer: `/settings/${c.id}`, subject, before, after }];
  });
}

function cableDifferences(instrument: Instrument, a: Patch, b: Patch): Difference[] {
  const ids = new Set([...a.cables, ...b.cables].map((c) => c.id));
  const [was, is] = [a, b].map((p) => new Map(p.cables.map((c) => [c.id, c])));
  return [...ids]
    .filter((id) => !equal(was!.get(id), is!.get(id)))
    .map((id) => ({
      pointer: `/cables/${id}`,
      subject: 'Cable',
      before: said(instrument, was!.get(id)),
      after: said(instrument, is!.get(id)),
    }));
}

function said(instrument: Instrument, cable: Cable | undefined): string {
  if (!cable) return 'none';
  const more = [cable.colour, cable.length && `${cable.length} cm`, cable.inactive && 'not in use'];
  return [cableText(instrument, cable), ...more.filter(Boolean)].join(', ');
}

function rowDifferences({ matrix }: Instrument, a: Patch, b: Patch): Difference[] {
  if (!matrix) return [];
  const numbers = [...new Set([...a.matrix, ...b.matrix].map((r) => r.row))].sort((x, y) => x - y);
  return numbers.flatMap((row) => {
    const [was, is] = [a, b].map((p) => p.matrix.find((r) => r.row === row));
    if (equal(was, is)) return [];
    const text = (r: typeof was): string => (r ? matrixRowText(matrix, r) : 'empty');
    return [
      {
        pointer: `/matrix/${row}`,
        subject: `Matrix row ${row + 1}`,
        before: text(was),
        after: text(is),
      },
    ];
  });
}

function noteDifferences(instrument: Instrument, a: Patch, b: Patch): Difference[] {
  const sections = new Map(instrument.sections.map((s) => [s.id, s.name]));
  const names = new Map<string, string>();
  for (const s of instrument.sections) names.set(`section:${s.id}`, s.name);
  for (const c of instrument.controls) {
    names.set(`control:${c.id}`, `${sections.get(c.section)} ${c.name}`);
  }
  return [...new Set([...Object.keys(a.notes), ...Object.keys(b.notes)])]
    .filter((key) => a.notes[key] !== b.notes[key])
    .map((key) => ({
      pointer: `/notes/${key}`,
      subject: `Note on ${names.get(key) ?? key}`,
      before: a.notes[key] ?? '',
      after: b.notes[key] ?? '',
    }));
}

/** What stands behind an instrument, in a line. */
const sayOutboard = ({ outboard }: Patch): string =>
  outboard.map((t) => `${t.name}${t.off ? ' (off)' : ''}`).join(', then ') || 'nothing';

/** What is fed in, in a line. */
const sayFeed = ({ feed }: Patch): string =>
  feed
    ? [
        `${feed.name} into ${feed.jack}`,
        feed.start === 'key' ? 'started by keys' : 'running',
        feed.round ? 'round and round' : 'once',
        `at ${feed.level}`,
      ].join(', ')
    : 'nothing';

const FIELDS: ToldField<Patch>[] = [
  ['name', 'Name', (p) => p.name],
  ['edition', 'Version of the instrument', (p) => String(editionOf(p))],
  ['revision', 'Revision', (p) => p.revision ?? ''],
  ['unit', 'Unit', (p) => p.unit ?? ''],
  ['song', 'Song', (p) => p.song],
  ['role', 'Role', (p) => p.role],
  ['tempo', 'Tempo', (p) => `${p.tempo} bpm`],
  ['about', 'About', (p) => p.about],
  ['rack', 'Cabinet', (p) => (p.rack ? `${p.rack.length} modules` : 'as it is')],
  [
    'stored',
    'Stored in',
    ({ stored: s }) => (s ? `bank ${s.bank}, place ${s.slot}, ${s.name}` : 'no place'),
  ],
  ['outlet', 'Taken off at', (p) => p.outlet ?? 'the output'],
  ['feed', 'Fed in', sayFeed],
  ['outboard', 'Behind the instrument', sayOutboard],
  ['variations', 'Variations', (p) => p.variations.map((v) => v.name).join(', ') || 'none'],
  ['ends', 'Ends of wheel and pedal', (p) => `${Object.keys(p.ends).length} told`],
  ['meant', 'Findings meant so', (p) => `${Object.keys(p.meant).length}`],
  ['patterns', 'Patterns', (p) => p.patterns.map((q) => q.name).join(', ') || 'none'],
  ['phrase', 'Phrase', (p) => `${p.phrase.length} notes`],
  ['checkpoints', 'Checkpoints', (p) => `${p.checkpoints.length} checkpoints`],
];

/** One line of a table of variations: a subject, what the patch has, and what each variation has. */
export interface VariationRow {
  pointer: string;
  subject: string;
  base: string;
  /** Of each variation in order; null where it does not depart from the patch. */
  cells: (string | null)[];
}

/** Everything in which any variation departs from its patch, side by side. */
export function variationTable(instrument: Instrument, patch: Patch): VariationRow[] {
  const columns = patch.variations.map((v) =>
    diffPatches(instrument, patch, applyVariation(patch, v)),
  );
  const first = new Map(columns.flat().map((d) => [d.pointer, d]));
  // Working order: as the differences of a panel in which all of them are moved would come.
  const order = [...first.keys()].sort(
    (a, b) => rankOf(instrument, a) - rankOf(instrument, b) || a.localeCompare(b),
  );
  return order.map((pointer) => {
    const { subject, before } = first.get(pointer)!;
    const cells = columns.map((c) => c.find((d) => d.pointer === pointer)?.after ?? null);
    return { pointer, subject, base: before, cells };
  });
}

function rankOf(instrument: Instrument, pointer: string): number {
  const id = /^\/settings\/(.+)$/.exec(pointer)?.[1];
  return id === undefined ? Infinity : inWorkingOrder(instrument).findIndex((c) => c.id === id);
}
