import { diagnose } from '../circuit/doctor';
import { panelOf } from '../instrument/panel-of';
import type { Instrument } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import type { Setting } from '../reading/setting';
import { applyVariation } from '../patch/variation';
import { panelAtStart, panelWith, planRebuild, type RebuildPlan } from '../rebuild/plan';
import { isWork, type PanelBefore, type Step } from '../rebuild/step';
import type { HandTimes } from '../rebuild/time';
import { type PanelState, PanelStates } from './panel-state';
import type { SongPatch } from './schema';

/** A patch of the library with the instrument that it stands on. */
export interface Recorded {
  patch: Patch;
  instrument: Instrument;
}
/** The patches that a set speaks of; nothing for what is gone. */
export type Library = (patch: string) => Recorded | undefined;

/** A movement of a changeover. */
export type Work = Exclude<Step, { kind: 'listening' }>;

/** What stands on a panel in a song: a patch, and where it was narrowed so that another song can do with it too. */
export type Standing = Pick<SongPatch, 'patch' | 'variation'> & {
  narrowed?: Readonly<Record<string, Setting>>;
};

/** How patches read on the panels of a set: each is a unit, whose dials may differ. */
export interface Reading {
  /** Unit that a panel is; undefined where nobody has said. */
  unitOf(panel: string): string | undefined;
  read(panel: string, recorded: Recorded): Recorded;
}
const AS_PRINTED: Reading = { unitOf: () => undefined, read: (_, recorded) => recorded };

/** Ways from one state of a panel to another, each worked out once. */
export class Ways {
  private readonly plans = new Map<string, RebuildPlan>();
  private readonly unused = new Map<string, ReadonlySet<string>>();

  constructor(
    private readonly library: Library,
    /** What a panel shows before the evening; absent: the instrument's start. */
    private readonly before: (panel: string) => PanelBefore | undefined = () => undefined,
    /** Times of somebody, or of whoever usually moves a panel; absent: the stated defaults. */
    private readonly times: (panel: string, person?: string) => HandTimes | undefined = () =>
      undefined,
    private readonly reading: Reading = AS_PRINTED,
  ) {}

  /** What is to stand on a panel, as it reads there; undefined when it is gone. */
  recorded({ patch, variation, narrowed }: Standing, panel: string): Recorded | undefined {
    const varied = this.varied(patch, variation);
    const found = varied && this.read(varied, nameOf({ patch, variation }), panel);
    if (!found || !narrowed) return found;
    const settings = { ...found.patch.settings, ...narrowed };
    return { ...found, patch: { ...found.patch, settings } };
  }

  private readonly reads = new Map<string, Recorded>();
  private read(recorded: Recorded, name: string, panel: string): Recorded {
    const unit = this.reading.unitOf(panel);
    if (unit === undefined) return recorded;
    const known = this.reads.get(`${name} on ${unit}`) ?? this.reading.read(panel, recorded);
    this.reads.set(`${name} on ${unit}`, known);
    return known;
  }

  private varied(patch: string, variation: string | undefined): Recorded | undefined {
    const found = this.library(patch);
    if (!found || variation === undefined) return found;
    const varied = found.patch.variations.find((v) => v.id === variation);
    return varied && { ...found, patch: applyVariation(found.patch, varied) };
  }

  /**
   * The movements from a patch (from what a panel showed before the evening when `from` is null) to another, by themselves:
   * what came before them is not asked.
   * @param person who makes them; absent: whoever usually moves the panel
   */
  plan(
    panel: string,
    from: Standing | null,
    to: Standing,
    person?: string,
  ): RebuildPlan | undefined {
    const state = from && this.stateOf(from, panel);
    if (state === undefined) return undefined;
    return this.planFrom(panel, state, to, person);
  }

  /** The same from whatever a panel shows; null: what it showed before the evening. */
  planFrom(
    panel: string,
    from: PanelState | null,
    to: Standing,
    person?: string,
  ): RebuildPlan | undefined {
    const times = this.times(panel, person);
    const unit = this.reading.unitOf(panel) ?? '';
    const key = `${unit}: ${from ? from.key : `start of ${panel}`} > ${nameOf(to)}${times ? ` by ${JSON.stringify(times)}` : ''}`;
    const known = this.plans.get(key);
    if (known) return known;
    const goal = this.recorded(to, panel);
    if (!goal) return undefined;
    const face = panelOf(goal.instrument, goal.patch);
    const plan = planRebuild(face, this.standsAt(panel, from, face), goal.patch, times);
    this.plans.set(key, plan);
    return plan;
  }

  /** What a panel shows when it was turned into a patch by hand and nothing was before; undefined when the patch is gone. */
  stateOf(standing: Standing, panel: string): PanelState | undefined {
    const found = this.recorded(standing, panel);
    return found && this.states.of(found.patch);
  }

  /**
   * What a panel shows when a patch was set on it: what the patch does not care about, or what stood well enough, stays.
   * @param loaded from its memory, which sets every control that it keeps: of those the patch says nothing of nothing is known
   */
  after(
    panel: string,
    from: PanelState | null,
    to: Standing,
    loaded = false,
  ): PanelState | undefined {
    const plan = this.planFrom(panel, from, to);
    const goal = this.recorded(to, panel);
    if (!plan || !goal) return undefined;
    const key = `${panel}: ${from?.key ?? 'start'} > ${nameOf(to)}${loaded ? ' loaded' : ''}`;
    const known = this.afters.get(key);
    if (known) return known;
    const face = panelOf(goal.instrument, goal.patch);
    const shown = panelWith(this.standsAt(panel, from, face), plan, goal.patch, plan.steps);
    const state = this.states.of(
      loaded ? { ...shown, settings: goal.patch.settings, matrix: goal.patch.matrix } : shown,
    );
    this.afters.set(key, state);
    return state;
  }

  /** Where a control of a panel stands before the evening, as a share of its travel; undefined when nobody knows. */
  standsBefore(panel: string, face: Instrument, control: string): Setting | undefined {
    return this.standsAt(panel, null, face).settings[control];
  }

  private readonly states = new PanelStates();
  private readonly afters = new Map<string, PanelState>();

  private standsAt(panel: string, from: PanelState | null, face: Instrument): PanelBefore {
    return from?.panel ?? this.before(panel) ?? panelAtStart(face);
  }

  /** Estimated seconds; nothing where a patch is gone. */
  seconds(panel: string, from: Standing | null, to: Standing): number {
    if (from && nameOf(from) === nameOf(to)) return 0;
    return this.plan(panel, from, to)?.seconds ?? 0;
  }

  /** Controls that change nothing in a patch: they may be moved while it is played. */
  changesNothing(of: Standing, panel: string): ReadonlySet<string> {
    const key = `${this.reading.unitOf(panel) ?? ''}: ${nameOf(of)}`;
    const known = this.unused.get(key);
    if (known) return known;
    const found = this.recorded(of, panel);
    const idle = found
      ? diagnose(panelOf(found.instrument, found.patch), found.patch).flatMap((f) =>
          f.severity === 'idle' ? f.controls : [],
        )
      : [];
    const set = new Set(idle);
    this.unused.set(key, set);
    return set;
  }
}

/** A patch in one of its variations, as a key. */
export const nameOf = ({ patch, variation, narrowed }: Standing): string =>
  (variation === undefined ? patch : `${patch}/${variation}`) +
  (narrowed ? ` with ${JSON.stringify(narrowed)}` : '');

export const workOf = (plan: RebuildPlan): Work[] => plan.steps.filter(isWork);
