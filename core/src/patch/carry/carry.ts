import { controlLabel } from '../../instrument/control-name';
import { readsAs } from '../../instrument/meaning';
import { type Pair, pairControls, pairJacks } from '../../instrument/pairs';
import { panelOf } from '../../instrument/panel-of';
import type { Control, Instrument, Value } from '../../instrument/schema';
import { isSwitched } from '../../instrument/switched';
import { formatSetting, formatValue } from '../../reading/format';
import type { Setting } from '../../reading/setting';
import { jackLabel } from '../cables';
import type { Cable, Patch } from '../schema';
import { withoutFaults } from './drop';
import { type Beyond, BEYOND, carriedSetting, carriedValue } from './value';

/** One thing that becomes of a patch, in words; those that can be answered otherwise have choices. */
export interface Carried {
  /** `control:cutoff`, `position:wave.saw`, `reading:cutoff`: an answer goes by it, for any patch. */
  key: string;
  how: 'renamed' | 'moved' | 'rescaled' | 'asked' | 'lost';
  /** What it is about, in words of the panel as it was. */
  subject: string;
  before: string;
  after: string;
  choices: { id: string; name: string }[];
  /** The choice that was taken; empty: none, and it goes. */
  chosen: string;
}

/** Answers by key: an id of a choice, or `out`: it is not taken along. */
export type CarryAnswers = Readonly<Record<string, string>>;

/** Not taken along. */
const OUT = 'out';
const CHOICES: Record<Beyond, string> = {
  nearest: 'the nearest that it has',
  travel: 'where the hand stood',
  out: 'leave it unrecorded',
};

/**
 * A patch on the panel as it is described now. Readings stay readings: a control whose scale was drawn anew is set to what
 * was read. What maps by itself is told; what has to be asked is left out until it is answered; what has no place is lost.
 * @param edition the version of the instrument that the patch is on afterwards
 * @throws never: what cannot be mended is in `open`
 */
export function carryOver(
  was: Instrument,
  now: Instrument,
  patch: Patch,
  edition: number,
  answers: CarryAnswers = {},
): { patch: Patch; items: Carried[]; open: string[] } {
  const before = panelOf(was, patch);
  const after = panelOf(now, patch);
  const items: Carried[] = [];
  const plan = new Plan(before, after, answers, items);
  const recorded = new Set([
    ...Object.keys(patch.settings),
    ...patch.variations.flatMap((v) => Object.keys(v.settings)),
    ...patch.patterns.flatMap((p) =>
      p.tracks.flatMap((t) => t.steps.flatMap((s) => Object.keys(s.ownValues ?? {}))),
    ),
    ...Object.keys(patch.ends),
    ...Object.keys(patch.notes).flatMap((k) => (k.startsWith('control:') ? [k.slice(8)] : [])),
  ]);
  for (const pair of plan.pairs) if (recorded.has(pair.before)) plan.tell(pair);
  const settings = (all: Record<string, Setting>): Record<string, Setting> =>
    Object.fromEntries(Object.entries(all).flatMap(([id, s]) => plan.setting(id, s)));
  const byControl = <T>(all: Record<string, T>, prefix = ''): Record<string, T> =>
    Object.fromEntries(
      Object.entries(all).flatMap(([key, entry]): [string, T][] => {
        const id = key.slice(prefix.length);
        if (!key.startsWith(prefix) || !plan.knows(id)) return [[key, entry]];
        const to = plan.target(id);
        return to === undefined ? [] : [[prefix + to.id, entry]];
      }),
    );
  const jacks = pairJacks(before, after);
  const led = (end: string | undefined): string | undefined => (end && jacks.get(end)) ?? end;
  const cabled = (cables: readonly Cable[]): Cable[] =>
    cables.map((c) => ({
      ...c,
      ...(c.from === undefined ? {} : { from: led(c.from)! }),
      ...(c.to === undefined ? {} : { to: led(c.to)! }),
    }));
  const carried: Patch = {
    ...patch,
    edition,
    cables: cabled(patch.cables),
    ...(patch.outlet === undefined ? {} : { outlet: led(patch.outlet)! }),
    ...(patch.feed ? { feed: { ...patch.feed, jack: led(patch.feed.jack)! } } : {}),
    settings: settings(patch.settings),
    notes: byControl(patch.notes, 'control:'),
    ends: byControl(patch.ends),
    variations: patch.variations.map((v) => ({
      ...v,
      settings: settings(v.settings),
      plugged: cabled(v.plugged),
    })),
    patterns: patch.patterns.map((pattern) => ({
      ...pattern,
      tracks: pattern.tracks.map((track) => ({
        ...track,
        steps: track.steps.map((step) => ({
          ...step,
          ...(step.ownValues ? { ownValues: plan.values(step.ownValues) } : {}),
        })),
      })),
    })),
  };
  const { patch: whole, dropped, open } = withoutFaults(carried, now);
  for (const fault of dropped) {
    const cable = /^\/cables\/(\d+)/.exec(fault.pointer);
    const at = cable && patch.cables[Number(cable[1])];
    items.push({
      key: fault.pointer,
      how: 'lost',
      subject: at
        ? `Cable ${jackLabel(before, at.from)} to ${jackLabel(before, at.to)}`
        : fault.pointer.slice(1).split('/').join(' '),
      before: '',
      after: fault.message,
      choices: [],
      chosen: '',
    });
  }
  return { patch: whole, items, open: open.map((fault) => fault.message) };
}

/** Whether something of it waits for an answer. */
export const isUnanswered = (item: Carried): boolean =>
  item.how === 'asked' && item.chosen === '' && item.choices.length > 0;

/** What becomes of each control, and what was said of it. */
class Plan {
  readonly pairs: Pair[];
  private readonly byId: ReadonlyMap<string, Pair>;
  private readonly old: ReadonlyMap<string, Control>;
  private readonly now: ReadonlyMap<string, Control>;
  private readonly told = new Set<string>();

  constructor(
    private readonly before: Instrument,
    private readonly after: Instrument,
    private readonly answers: CarryAnswers,
    private readonly items: Carried[],
  ) {
    this.pairs = pairControls(before, after);
    this.byId = new Map(this.pairs.map((p) => [p.before, p]));
    this.old = new Map(before.controls.map((c) => [c.id, c]));
    this.now = new Map(after.controls.map((c) => [c.id, c]));
  }

  knows(id: string): boolean {
    return this.byId.has(id);
  }

  /** The control that takes over what was recorded of one; undefined when nothing does. */
  target(id: string): Control | undefined {
    const pair = this.byId.get(id);
    if (!pair) return undefined;
    const answer = pair.how === 'same' ? undefined : this.answers[`control:${id}`];
    if (answer === OUT) return undefined;
    const to = answer !== undefined && pair.others.includes(answer) ? answer : pair.after;
    return to === undefined ? undefined : this.now.get(to);
  }

  /** Says what becomes of a control, when it is not simply the same. */
  tell(pair: Pair): void {
    const to = this.target(pair.before);
    const old = this.old.get(pair.before)!;
    const choices = [...new Set([...(pair.after ? [pair.after] : []), ...pair.others])];
    if (pair.how === 'same') {
      if (to && readsAs(to) !== readsAs(old) && !isSwitched(old)) {
        this.say({
          key: `scale:${old.id}`,
          how: 'rescaled',
          subject: controlLabel(this.before, old.id),
          before: ends(old),
          after: ends(to),
        });
      }
      return;
    }
    this.say({
      key: `control:${old.id}`,
      how: pair.how === 'asked' && choices.length === 0 ? 'lost' : pair.how,
      subject: controlLabel(this.before, old.id),
      before: controlLabel(this.before, old.id),
      after: to ? controlLabel(this.after, to.id) : 'left out',
      choices: [
        ...choices.map((id) => ({ id, name: controlLabel(this.after, id) })),
        ...(choices.length > 0 ? [{ id: OUT, name: 'leave it out' }] : []),
      ],
      chosen: this.answers[`control:${old.id}`] ?? pair.after ?? '',
    });
  }

  /** A setting where it belongs now; nothing, when it has no place. */
  setting(id: string, setting: Setting): [string, Setting][] {
    if (!this.knows(id)) return [[id, setting]];
    const to = this.target(id);
    if (!to) return [];
    const carried = carriedSetting(setting, (value) => this.value(id, to, value));
    this.tellBeyond(id, to, setting, carried);
    return carried ? [[to.id, carried]] : [];
  }

  values(own: Record<string, Value>): Record<string, Value> {
    return Object.fromEntries(
      Object.entries(own).flatMap(([id, value]): [string, Value][] => {
        if (!this.knows(id)) return [[id, value]];
        const to = this.target(id);
        const carried = to && this.value(id, to, value);
        return carried === undefined ? [] : [[to!.id, carried]];
      }),
    );
  }

  private value(id: string, to: Control, value: Value): Value | undefined {
    const old = this.old.get(id)!;
    if (!isSwitched(old) || !isSwitched(to)) return carriedValue(old, to, value, this.beyond(id));
    const same = carriedValue(old, to, value);
    if (same !== undefined) return same;
    const key = `position:${id}.${value}`;
    const answer = this.answers[key];
    const chosen = to.positions.find((p) => p.id === answer);
    this.say({
      key,
      how: 'asked',
      subject: controlLabel(this.before, id),
      before: formatValue(old, value),
      after: chosen?.name ?? 'left out',
      choices: [...to.positions, { id: OUT, name: CHOICES.out }],
      chosen: chosen?.id ?? (answer === OUT ? OUT : ''),
    });
    return chosen?.id;
  }

  private beyond(id: string): Beyond | undefined {
    return BEYOND.find((b) => b === this.answers[`reading:${id}`]);
  }

  /** Asks what becomes of a reading that the scale has not got. */
  private tellBeyond(id: string, to: Control, was: Setting, carried: Setting | undefined): void {
    const old = this.old.get(id)!;
    if (isSwitched(old) || carriedSetting(was, (value) => carriedValue(old, to, value))) return;
    this.say({
      key: `reading:${id}`,
      how: 'asked',
      subject: controlLabel(this.before, id),
      before: formatSetting(old, was),
      after: carried ? formatSetting(to, carried) : `not on its scale, ${ends(to)}`,
      choices: BEYOND.map((b) => ({ id: b, name: CHOICES[b] })),
      chosen: this.beyond(id) ?? '',
    });
  }

  private say(item: Omit<Carried, 'choices' | 'chosen'> & Partial<Carried>): void {
    if (this.told.has(item.key)) return;
    this.told.add(item.key);
    this.items.push({ choices: [], chosen: '', ...item });
  }
}

/** What a control reads at its ends. */
const ends = (control: Control): string =>
  isSwitched(control)
    ? control.positions.map((p) => p.name).join('/')
    : `${formatValue(control, 0)} to ${formatValue(control, 1)}`;
