import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { type Instrument, type OpenWork, type RebuildPlan, stepName } from '@hurrel/core';
import { openDocument } from '../document/open-document';
import { useShortcuts } from '../keys/shortcuts';
import { CablingView } from '../rebuild/cabling-view';
import { HandMap } from '../rebuild/hand-map';
import { MovementView } from '../rebuild/movement-view';
import { EveningActions, eveningFeature, eveningSides } from '../sets/evening.document';
import { SetDesk } from '../sets/set-desk';
import { PanelsBefore } from '../sets/panels-before';
import { SetUnits } from '../sets/set-units';
import { PanelShows } from './panel-shows';
import { StageAstray } from './stage-astray';
import { StageBefore } from './stage-before';
import { LoadedByHand } from './loaded-by-hand';
import { makeAhead } from './make-ahead';
import { MadeAhead } from './made-ahead';
import { StageCheck } from './stage-check';
import { StageChecks } from './stage-checks';
import { StageDesk } from './stage-desk';
import { TurnedByHand } from './turned-by-hand';
import { StageHead } from './stage-head';
import { StageListen } from './stage-listen';
import { StagePlaces } from './stage-places';
import { StageReady } from './stage-ready';
import { StageSound } from './stage-sound';
import { StageStart } from './stage-start';
import { StageWhere } from './stage-where';
import { WalkLine } from '../walk/walk-line';

/** On stage: one break and one movement at a time, for one person's hands; what others do is seen as they do it. */
@Component({
  selector: 'hur-stage-page',
  imports: [
    CablingView,
    HandMap,
    MovementView,
    RouterLink,
    StageAstray,
    StageCheck,
    StageHead,
    StageListen,
    StageReady,
    StageStart,
    StageWhere,
  ],
  providers: [
    PanelsBefore,
    SetUnits,
    SetDesk,
    WalkLine,
    StageDesk,
    PanelShows,
    StageBefore,
    StageChecks,
    StagePlaces,
    StageSound,
    MadeAhead,
    LoadedByHand,
    TurnedByHand,
  ],
  templateUrl: './stage-page.html',
  styleUrl: './stage-page.scss',
  // It is dark on stage, whatever the light of the desk.
  host: { 'data-light': 'stage' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StagePage {
  readonly id = input.required<string>();
  /** Walk that goes on; absent before one is chosen. */
  readonly walk = input<string>();
  /** Whose screen it is. */
  readonly who = input<string>();

  private readonly router = inject(Router);
  protected readonly desk = inject(SetDesk);
  protected readonly line = inject(WalkLine);
  protected readonly stage = inject(StageDesk);
  private readonly shows = inject(PanelShows);
  private readonly made = inject(MadeAhead);
  protected readonly turned = inject(TurnedByHand);
  private readonly loaded = inject(LoadedByHand);
  protected readonly before = inject(StageBefore);
  protected readonly checks = inject(StageChecks);
  protected readonly document = openDocument(
    'evening',
    () => this.id(),
    eveningFeature.selectEveningState,
    EveningActions,
    () => eveningSides,
  );
  /** What was asked for beside the movements. */
  protected readonly asking = signal<'where' | 'wrong' | null>(null);

  protected readonly goal = computed(() => {
    const now = this.stage.now();
    return now ? this.stage.goal(now.song, now.panel) : null;
  });
  /** What the panel that is moved now has sent and still holds. */
  protected readonly sent = computed((): ReadonlyMap<number, number> => {
    const [now, goal] = [this.stage.now(), this.goal()];
    return now && goal ? this.turned.since(now.panel, goal.face) : new Map();
  });
  /** The panel's own movements of this break, for the map. */
  protected readonly map = computed((): { plan: RebuildPlan; done: string[] } | null => {
    const now = this.stage.now();
    if (!now) return null;
    const here = this.stage.work().filter((w) => w.panel === now.panel);
    const plan = { steps: here.map((w) => w.step), seconds: 0, unknown: [], left: [] };
    return {
      plan,
      done: here.filter((w) => w.state === 'done').map((w) => w.step.id),
    };
  });
  protected readonly lastHere = computed(() => {
    const now = this.stage.now();
    return this.stage.done().find((w) => w.panel === now?.panel)?.step;
  });
  protected readonly panelWork = computed(() => {
    const panel = this.stage.now()?.panel ?? this.stage.done()[0]?.panel;
    return this.stage.work().filter((w) => w.panel === panel && !w.left);
  });
  constructor() {
    effect(() => {
      const walk = this.walk();
      untracked(() => {
        this.desk.freeze(walk ? null : undefined);
        if (walk) void this.line.open(walk);
      });
    });
    effect(() => this.stage.person.set(this.who() ?? ''));
    effect(() => {
      const id = this.id();
      // Also when a walk is left: it may have taught something.
      this.walk();
      untracked(() => void this.desk.readTimes(id));
    });
    // A sound that is loaded on the instrument itself is heard, and done.
    effect(() => {
      const now = this.stage.now();
      if (now && this.loaded.arrived(now)) untracked(() => this.tick());
    });
    makeAhead();
    // What is printed is read ahead, so that it is there with no network too.
    let ahead = '';
    effect(() => {
      const id = this.id();
      if (ahead === id || !this.desk.plan()) return;
      ahead = id;
      void this.before.readAhead(id);
    });
    effect(() => {
      this.stage.at();
      untracked(() => this.asking.set(null));
    });
    useShortcuts('On stage', [
      { keys: ['Space', 'Enter', 'PageDown'], says: 'Done, and on', act: () => this.on() },
      { keys: ['ArrowLeft', 'PageUp'], says: 'Back', act: () => this.back() },
      { keys: 'ArrowRight', says: 'Later', act: () => this.stage.later() },
      { keys: 'n', says: 'Next break', act: () => this.stage.go(this.stage.at() + 1) },
      { keys: 'w', says: 'It sounds wrong', act: () => this.ask('wrong') },
      { keys: 'l', says: 'Where am I', act: () => this.ask('where') },
    ]);
  }

  /** Goes into a walk, and to one of its breaks. */
  protected async enter({ walk, at }: { walk: string; at?: number }): Promise<void> {
    await this.router.navigate([], {
      queryParams: { walk },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
    if (at === undefined) return;
    await this.line.open(walk);
    this.stage.go(at);
  }

  protected personName(id: string): string {
    return this.desk.evening()?.people.find((p) => p.id === id)?.name ?? '';
  }

  protected name(face: Instrument, work: OpenWork): string {
    return stepName(face, work.step);
  }

  protected sectionName(face: Instrument, work: OpenWork): string {
    const { step } = work;
    return 'section' in step ? (face.sections.find((s) => s.id === step.section)?.name ?? '') : '';
  }

  /** The songs between which a control stays where it is set now; empty where it serves only one. */
  protected sharedBy({ song, panel, step }: OpenWork): string {
    if (step.kind !== 'movement') return '';
    const shared = this.stage.shared(song, panel).find((c) => c.control === step.control);
    return shared ? `${this.stage.songName(shared.from)} to ${this.stage.songName(shared.to)}` : '';
  }

  protected target({ step }: OpenWork): string {
    return step.kind === 'movement' || step.kind === 'row' ? step.to : '';
  }

  /** One key for all: the movement is done, or the break is. */
  protected on(): void {
    // While something is asked, nothing behind it is ticked.
    if (this.asking()) return this.asking.set(null);
    if (this.stage.now()) return this.tick();
    if (this.stage.at() < this.stage.songs().length - 1) this.stage.go(this.stage.at() + 1);
  }

  protected tick(): void {
    const now = this.stage.now();
    if (!now) return;
    this.made.moved();
    this.stage.tick(now);
    this.shows.moved(now.song, now.panel);
  }

  protected back(): void {
    const [last] = this.stage.done();
    this.stage.back();
    if (last) this.shows.moved(last.song, last.panel);
  }

  protected ask(what: 'where' | 'wrong'): void {
    this.asking.update((now) => (now === what ? null : what));
  }

  protected found(stand: ReadonlySet<string> | null): void {
    this.asking.set(null);
    const all = this.panelWork();
    const [first] = all;
    if (!stand || !first) return;
    this.stage.settle(all, stand);
    this.shows.moved(first.song, first.panel);
  }

  protected go(queryParams: { who: string | null }): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true });
  }
}
