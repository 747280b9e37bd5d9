import type { Setting } from '../reading/setting';
import { freeModuleId } from '../instrument/arrange';
import type { Opening } from '../instrument/openings';
import { panelOf } from '../instrument/panel-of';
import type { Placed } from '../instrument/rack';
import type { Instrument } from '../instrument/schema';
import { withoutCables } from './cables';
import type { Patch } from './schema';

const placedIn = (instrument: Instrument, patch: Patch): Placed[] => [
  ...(patch.rack ?? instrument.rack?.placed ?? []),
];

/** Where a module goes, and what gives way for it. */
type Place = Pick<Opening, 'row' | 'at'> & Partial<Opening>;

/** What stands in the cabinet once some have given way. */
const givenWay = (placed: readonly Placed[], { aside }: Pick<Opening, 'aside'>): Placed[] =>
  placed.map((p) => aside.find((a) => a.id === p.id) ?? p);

/** A patch with a module of its cabinet put elsewhere, others giving way: nothing that was recorded of them changes. */
export const moveModule = (
  instrument: Instrument,
  patch: Patch,
  id: string,
  { row, at, aside = [] }: Place,
): Patch => ({
  ...patch,
  rack: givenWay(placedIn(instrument, patch), { aside }).map((p) =>
    p.id === id ? { ...p, row, at } : p,
  ),
});

/** A patch with one more module in its cabinet, nothing recorded of it yet; others give way where they must. */
export function addModule(
  instrument: Instrument,
  patch: Patch,
  type: string,
  { row, at, aside = [] }: Place,
): Patch {
  const placed = placedIn(instrument, patch);
  const one = { id: freeModuleId(placed, type), type, row, at };
  return { ...patch, rack: [...givenWay(placed, { aside }), one] };
}

/** A patch with a module taken out, and with it what was recorded of it: settings, notes, cables, stops to listen. */
export function takeModule(instrument: Instrument, patch: Patch, id: string): Patch {
  const rack = placedIn(instrument, patch).filter((p) => p.id !== id);
  return forget(instrument, patch, { ...patch, rack });
}

/**
 * A patch with a module exchanged for one of another type in the same place. What both have under the same id (controls
 * and jacks) keeps its settings and cables; the rest goes.
 */
export function exchangeModule(
  instrument: Instrument,
  patch: Patch,
  id: string,
  type: string,
): Patch {
  const placed = placedIn(instrument, patch);
  const next = freeModuleId(placed, type);
  const rename = (name: string): string =>
    name.startsWith(`${id}-`) ? `${next}${name.slice(id.length)}` : name;
  const renamed: Patch = {
    ...patch,
    rack: placed.map((p) => (p.id === id ? { ...p, id: next, type } : p)),
    settings: mapKeys(patch.settings, rename),
    ...(patch.outlet === undefined ? {} : { outlet: rename(patch.outlet) }),
    ...(patch.feed ? { feed: { ...patch.feed, jack: rename(patch.feed.jack) } } : {}),
    cables: patch.cables.map((c) => ({
      ...c,
      ...(c.from === undefined ? {} : { from: rename(c.from) }),
      ...(c.to === undefined ? {} : { to: rename(c.to) }),
    })),
    variations: patch.variations.map((v) => ({
      ...v,
      settings: mapKeys(v.settings, rename),
    })),
  };
  return forget(instrument, renamed, renamed);
}

const mapKeys = (
  settings: Record<string, Setting>,
  rename: (key: string) => string,
): Record<string, Setting> =>
  Object.fromEntries(Object.entries(settings).map(([key, value]) => [rename(key), value]));

/** Drops everything that names controls, jacks and sections which the new arrangement does not have. */
export function forget(instrument: Instrument, before: Patch, after: Patch): Patch {
  const face = panelOf(instrument, after);
  const controls = new Set(face.controls.map((c) => c.id));
  const jacks = new Set(face.jacks.map((j) => j.id));
  const sections = new Set(face.sections.map((s) => s.id));
  const kept = <T>(entries: Record<string, T>, has: (key: string) => boolean): Record<string, T> =>
    Object.fromEntries(Object.entries(entries).filter(([key]) => has(key)));
  const plugged = (c: { from?: string | undefined; to?: string | undefined }): boolean =>
    [c.from, c.to].every((jack) => jack === undefined || jacks.has(jack));
  const gone = before.cables.filter((c) => !plugged(c)).map((c) => c.id);
  const { outlet, feed, ...left } = withoutCables(after, gone);
  return {
    ...left,
    ...(outlet !== undefined && jacks.has(outlet) ? { outlet } : {}),
    ...(feed && jacks.has(feed.jack) ? { feed } : {}),
    settings: kept(left.settings, (id) => controls.has(id)),
    ends: kept(left.ends, (id) => controls.has(id) || !id.includes('-')),
    notes: kept(left.notes, (key) => {
      const [kind, id = ''] = key.split(':');
      return kind === 'control' ? controls.has(id) : sections.has(id);
    }),
    checkpoints: left.checkpoints.filter((c) => sections.has(c.after)),
    variations: left.variations.map((v) => ({
      ...v,
      settings: kept(v.settings, (id) => controls.has(id)),
      plugged: v.plugged.filter(plugged),
    })),
  };
}
