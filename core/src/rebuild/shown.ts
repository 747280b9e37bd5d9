import equal from 'fast-deep-equal';
import * as z from 'zod';
import { diagnose } from '../circuit/doctor';
import { id } from '../instrument/atoms';
import type { Heard } from '../instrument/heard';
import type { Instrument } from '../instrument/schema';
import { withRow } from '../patch/matrix';
import { type Cable, type Patch, patchSchema } from '../patch/schema';
import { arrivedAt } from './arrived';
import { panelWith, type RebuildPlan } from './plan';
import { isWork, type PanelBefore } from './step';

/** All of a patch that a panel shows. */
export const panelShownSchema = patchSchema.pick({
  settings: true,
  cables: true,
  matrix: true,
  rack: true,
  patterns: true,
  outboard: true,
  outlet: true,
  feed: true,
  revision: true,
  stored: true,
});

/** What a panel shows, as far as is known. */
export const shownSchema = z.strictObject({
  /** Patch that it was last turned into, or towards, and its name with that of the variation. */
  patch: z.string().max(64).optional(),
  name: z.string().max(200).default(''),
  /** All that led there was done; else the panel was left half way. */
  finished: z.boolean(),
  panel: panelShownSchema,
  /** Controls that may stand elsewhere than `panel` says. */
  uncertain: z.array(id).max(2000).default([]),
  /** When somebody last said so. */
  at: z.iso.datetime(),
  /** While it is left half way: what that rebuild began from, so that it can be gone on with. */
  way: z
    .strictObject({
      /** `start`, `init`, a patch ..., or `shown` for what stands here. */
      origin: z.string().max(120),
      shown: z
        .strictObject({
          name: z.string().max(200),
          panel: panelShownSchema,
          uncertain: z.array(id).max(2000),
          at: z.iso.datetime(),
        })
        .optional(),
    })
    .optional(),
});
export type Shown = z.infer<typeof shownSchema>;

/** What is known of a panel is kept under this: that of a unit, or of an instrument of which nobody has said which one it is. */
export const shownId = (instrument: string, unit: string | undefined): string =>
  unit ? `unit-${unit}` : `instrument-${instrument}`;

/** What a panel shows when some steps of a rebuild are done. */
export function shownAfter(
  was: Shown | null,
  before: PanelBefore,
  plan: RebuildPlan,
  { id: patchId, name, patch }: { id: string; name: string; patch: Patch },
  done: readonly string[],
  at: string,
  origin = 'shown',
): Shown {
  const ticked = new Set(done);
  const steps = plan.steps.filter((s) => ticked.has(s.id));
  const finished = plan.steps.every((s) => !isWork(s) || ticked.has(s.id));
  // What it was may be a whole patch: a panel shows neither its name nor its song.
  const panel = panelPart(panelWith(before, plan, patch, steps));
  const settled = new Set(steps.flatMap((s) => (s.kind === 'movement' ? [s.control] : [])));
  return shownSchema.parse({
    patch: patchId,
    name,
    finished,
    panel: { ...panel, patterns: panel.patterns ?? [], outboard: panel.outboard ?? [] },
    // What was looked at and set is certain again.
    uncertain: (was?.uncertain ?? []).filter((control) => !settled.has(control)),
    at,
    ...(finished ? {} : { way: wayFrom(was, origin) }),
  });
}

const wayFrom = (was: Shown | null, origin: string): Shown['way'] =>
  was && origin === 'shown'
    ? { origin, shown: { name: was.name, panel: was.panel, uncertain: was.uncertain, at: was.at } }
    : { origin };

/** Where a rebuild towards a patch that was left half way goes on: what it began from. */
export function wayBack(
  shown: Shown,
  patchId: string,
  name: string,
): { origin: string; began: Shown } | undefined {
  const { way } = shown;
  if (!way || shown.finished || shown.patch !== patchId || shown.name !== name) return undefined;
  const began = way.shown ? { ...shown, ...way.shown, finished: true } : shown;
  return { origin: way.origin, began };
}

/** A panel that stands as a patch says: somebody looked. */
export const shownAs = (
  { id: patchId, name, patch }: { id: string; name: string; patch: Patch },
  at: string,
): Shown => {
  return shownSchema.parse({ patch: patchId, name, finished: true, panel: panelPart(patch), at });
};

/**
 * A sound was loaded from a memory: the panel stands as it says, but for what no memory keeps: cables, modules, boards, and what
 * stands behind it.
 */
export function shownLoaded(
  was: Shown | null,
  { id: patchId, name, patch }: { id: string; name: string; patch: Patch },
  at: string,
): Shown {
  const { settings, matrix, patterns, stored } = panelPart(patch);
  const { cables, rack, outboard, outlet, feed, revision } = was ? panelPart(was.panel) : NOTHING;
  const panel = {
    settings,
    matrix,
    patterns,
    stored,
    cables,
    rack,
    outboard,
    outlet,
    feed,
    revision,
  };
  return shownSchema.parse({ patch: patchId, name, finished: true, panel: panelPart(panel), at });
}
const NOTHING: PanelBefore = { settings: {}, cables: [], matrix: [] };

/** Something was loaded of which nobody knows what it is: every control may stand elsewhere. @param name what it goes by */
export function shownUnknown(
  shown: Shown,
  instrument: Instrument,
  name: string,
  at: string,
): Shown {
  const { panel, uncertain } = shownTurned(shown, instrument, at);
  return { name, finished: true, panel, uncertain, at };
}

/** What of a patch a panel shows. */
function panelPart(of: PanelBefore): PanelBefore {
  const { settings, cables, matrix, rack, patterns, outboard, outlet, feed, revision, stored } = of;
  const panel = {
    settings,
    cables,
    matrix,
    rack,
    patterns,
    outboard,
    outlet,
    feed,
    revision,
    stored,
  };
  return Object.fromEntries(
    Object.entries(panel).filter(([, v]) => v !== undefined),
  ) as unknown as PanelBefore;
}

/** What of a patch a hand moves on a panel. */
type Moved = Pick<Patch, 'settings' | 'cables' | 'matrix'>;

/**
 * Hands did on the panel what was done to the patch: what of it is another stands as it is now, and that is certain.
 * @param was the patch before  @param is the patch after
 */
export function shownMoved(shown: Shown, was: Moved, is: Moved, at: string): Shown {
  const panel = { ...shown.panel, settings: { ...shown.panel.settings } };
  const turned = new Set<string>();
  for (const control of new Set([...Object.keys(was.settings), ...Object.keys(is.settings)])) {
    const setting = is.settings[control];
    if (equal(setting, was.settings[control])) continue;
    turned.add(control);
    if (setting) panel.settings[control] = setting;
    else delete panel.settings[control];
  }
  const gone = (cable: Cable): boolean => !is.cables.some((c) => equal(c, cable));
  const come = is.cables.filter((cable) => !was.cables.some((c) => equal(c, cable)));
  const pulled = new Set(was.cables.filter(gone).map((c) => c.id));
  panel.cables = [...panel.cables.filter((c) => !pulled.has(c.id)), ...come];
  const rows = new Set([...was.matrix, ...is.matrix].map((r) => r.row));
  for (const row of rows) {
    const [then, now] = [was, is].map((p) => p.matrix.find((r) => r.row === row));
    if (!equal(then, now)) panel.matrix = withRow(panel.matrix, now ?? row);
  }
  return { ...shown, panel, uncertain: shown.uncertain.filter((c) => !turned.has(c)), at };
}

/** Controls were heard where a hand has moved them to: they stand there, and that is certain. */
export function shownHeard(shown: Shown, heard: readonly Heard[], at: string): Shown {
  const rest = { cables: [], matrix: [] };
  const settings = Object.fromEntries(
    heard.map(({ control, value }) => [control.id, { kind: 'set' as const, value }]),
  );
  return shownMoved(shown, { settings: {}, ...rest }, { settings, ...rest }, at);
}

/**
 * The same of what was heard at some time and is told now. Where something was said of the panel since, of whatever control,
 * a control that is believed to stand elsewhere may have been moved back: nobody knows, and it is uncertain.
 * @param heard each with when it was heard, as ISO 8601 in UTC
 * @param since when something was last said of the panel, by the same clock
 */
export function shownHeardThen(
  shown: Shown,
  heard: readonly (Heard & { at: string })[],
  since: string,
): Shown {
  const news = heard.filter((h) => h.at >= since);
  const late = heard.flatMap(({ control, value, at }) => {
    const known = shown.panel.settings[control.id];
    const stands = known !== undefined && arrivedAt(control, known, value);
    return at < since && !stands ? [control.id] : [];
  });
  const at = news.reduce((last, h) => (h.at > last ? h.at : last), shown.at);
  const now = shownHeard(shown, news, at);
  return { ...now, uncertain: [...new Set([...now.uncertain, ...late])] };
}

/** Somebody has turned things, and nobody knows which: every control may stand elsewhere. */
export const shownTurned = (shown: Shown, instrument: Instrument, at: string): Shown => ({
  ...shown,
  uncertain: instrument.controls.map((c) => c.id),
  at,
});

/** A panel as far as it is certain: of a control that may stand elsewhere nothing is known. */
export const certainOf = ({ panel, uncertain }: Shown): PanelBefore => ({
  ...panel,
  settings: Object.fromEntries(
    Object.entries(panel.settings).filter(([control]) => !uncertain.includes(control)),
  ),
});

/**
 * The panel that a rebuild begins from. Of what is uncertain only what the patch is made of has to be looked at: a control
 * that changes nothing in it, or does not matter there, is left as it is believed to stand.
 */
export function beforeShown(shown: Shown, instrument: Instrument, patch: Patch): PanelBefore {
  if (shown.uncertain.length === 0) return shown.panel;
  const idle = new Set(
    diagnose(instrument, patch).flatMap((f) => (f.severity === 'idle' ? f.controls : [])),
  );
  const settings = { ...shown.panel.settings };
  for (const control of shown.uncertain) if (!idle.has(control)) delete settings[control];
  return { ...shown.panel, settings };
}
