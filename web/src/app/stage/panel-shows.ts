import { inject, Injectable, type OnDestroy } from '@angular/core';
import {
  heardApart,
  type Instrument,
  panelAtStart,
  planRebuild,
  type Shown,
  shownAfter,
  shownHeard,
  workKey,
} from '@hurrel/core';
import { answer, API } from '../api/client';
import { Outbox } from '../api/outbox';
import { LoadedByHand } from './loaded-by-hand';
import { StageDesk } from './stage-desk';
import { TurnedByHand } from './turned-by-hand';
import { WalkLine } from '../walk/walk-line';

/** Ms after a tick until what a panel shows is worked out and sent: the next movement is drawn before. */
const AFTER_MS = 150;
/** Steps that loading a sound does at once. */
const LOADED: ReadonlySet<string> = new Set(['movement', 'row', 'entry', 'listening', 'store']);

/** What the panels show after each tick of a walk is known to the rebuild of any patch too. */
@Injectable()
export class PanelShows implements OnDestroy {
  private readonly api = inject(API);
  private readonly stage = inject(StageDesk);
  private readonly line = inject(WalkLine);
  private readonly turned = inject(TurnedByHand);
  private readonly loaded = inject(LoadedByHand);
  /**
   * Of each panel the song for which something was ticked last. The ticks themselves are kept anyhow; what is said is worked out
   * when it is sent: what was heard while it waited is not overwritten.
   */
  private readonly unsent = new Outbox<{ song: string; panel: string }>(async (kept, of) => {
    const heard = this.heardOf(of);
    const shown = this.shownNow(of.song, of.panel);
    if (!shown) return;
    await answer(this.api.shown[':panel'].$put({ param: { panel: kept }, json: { shown } }));
    // What a hand turned while that was on its way would be older than it, and lost: it is said with it.
    if (!this.closed && this.heardOf(of) !== heard) this.moved(of.song, of.panel);
  });
  private closed = false;

  /** Something was ticked, or taken back, of what a song wants on a panel. */
  moved(song: string, panel: string): void {
    const kept = this.stage.keptAs(panel);
    // Of panels that are not told apart nothing is said: it would be believed of the other.
    if (kept) this.unsent.put(kept, { song, panel }, AFTER_MS);
  }

  /** What was heard of a panel's controls and holds, to be compared. */
  private heardOf({ song, panel }: { song: string; panel: string }): string {
    const goal = this.stage.goal(song, panel);
    return goal ? [...this.turned.since(panel, goal.face)].join(' ') : '';
  }

  private shownNow(song: string, panelId: string): Shown | undefined {
    const goal = this.stage.goal(song, panelId);
    if (!goal) return undefined;
    const before = this.stage.stood(song, panelId) ?? panelAtStart(goal.face);
    const plan = planRebuild(goal.face, before, goal.patch);
    const marks = this.line.marks();
    // What was ticked before something else was loaded over it is undone.
    const over = this.loaded.wrong(song, panelId);
    const ticked = (id: string): boolean => {
      const mark = marks[workKey(song, panelId, id)];
      return mark?.value === 'done' && mark.clock > (over?.clock ?? -1);
    };
    // A sound that was loaded brings all of itself but what no memory keeps.
    const loaded = ticked('load');
    const done = plan.steps
      .filter((s) => ticked(s.id) || (loaded && LOADED.has(s.kind)))
      .map((s) => s.id);
    const variation = goal.patch.variations.find((v) => v.id === goal.play.variation);
    const name = variation ? `${goal.patch.name}: ${variation.name}` : goal.patch.name;
    const to = { id: goal.play.patch, name, patch: goal.patch };
    const at = new Date().toISOString();
    const known = shownAfter(null, before, plan, to, done, at);
    const shown = over ? unsureBut(known, goal.face, done) : known;
    // What hands have turned since stands where it was heard, whatever the patch says.
    const { controls } = goal.face;
    const sent = this.turned.since(panelId, goal.face);
    const heard = heardApart(controls, goal.patch.settings, sent);
    return shownHeard(shown, heard, at);
  }

  ngOnDestroy(): void {
    this.closed = true;
    this.unsent.close();
  }
}

/** Nobody knows of any control but those that were set. */
const unsureBut = (shown: Shown, { controls }: Instrument, set: readonly string[]): Shown => ({
  ...shown,
  uncertain: controls.map((c) => c.id).filter((id) => !set.includes(id)),
});
