import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Store } from '@ngrx/store';
import { formatDistanceToNowStrict } from 'date-fns';
import { Subject } from 'rxjs';
import {
  type Heard,
  type Instrument,
  type Patch,
  type PanelBefore,
  type RebuildPlan,
  type Shown,
  shownAfter,
  shownAs,
  shownHeard,
  shownLoaded,
  shownMoved,
  shownTurned,
  wayBack,
} from '@hurrel/core';
import { PanelsHeard } from '../midi/panels-heard';
import { ShownActions, shownFeature } from './shown.document';

/** A patch that a panel is turned into. */
interface Goal {
  id: string;
  name: string;
  patch: Patch;
}

type Moved = Pick<Patch, 'settings' | 'cables' | 'matrix'>;

/** A panel, and the patch that it is to be turned into, by its id and its name with that of the variation. */
interface Wanted {
  panel: string;
  patch: string;
  name: string;
}

/** What the panel shows before which one stands: known when a rebuild begins, and kept with each of its ticks. */
@Injectable()
export class ShownPanel {
  private readonly store = inject(Store);
  private readonly state = this.store.selectSignal(shownFeature.selectShownState);
  private readonly wanted = signal<Wanted | null>(null);
  private readonly known = signal<{ of: string; shown: Shown | null; origin: string } | null>(null);
  /** Which panel it is; empty before that is known. */
  readonly panel = computed(() => this.wanted()?.panel ?? '');
  /** What it showed when this rebuild was begun; null when nothing was known; undefined while that is being asked. */
  readonly began = computed(() => {
    const [wanted, known] = [this.wanted(), this.known()];
    return wanted && known?.of === keyOf(wanted) ? known.shown : undefined;
  });
  /** What a rebuild that was left half way began from; else what it shows, when that is known. */
  readonly origin = computed(() =>
    this.began() === undefined ? '' : (this.known()?.origin ?? ''),
  );
  /** What it shows now. */
  readonly now = computed(() => {
    const { id, present } = this.state();
    return id === this.wanted()?.panel ? (present?.shown ?? null) : null;
  });

  /** What it shows, and since when nobody has said otherwise. */
  readonly says = computed(() => {
    const shown = this.now();
    if (!shown) return '';
    const since = new Date(shown.at);
    const when =
      Date.now() - since.getTime() < 20_000 ? 'a moment' : formatDistanceToNowStrict(since);
    return shown.finished
      ? `This panel shows ${shown.name}, for ${when}.`
      : `This panel was left half way to ${shown.name}, ${when} ago.`;
  });

  constructor() {
    effect(() => {
      const panel = this.wanted()?.panel;
      if (panel) untracked(() => this.store.dispatch(ShownActions.open({ id: panel })));
    });
    effect(() => {
      const [wanted, { id, present, error }] = [this.wanted(), this.state()];
      if (!wanted || id !== wanted.panel || (!present && !error)) return;
      untracked(() => {
        // Ticks change what it shows; what a rebuild began from stays.
        if (this.known()?.of !== keyOf(wanted)) this.begin(wanted, present?.shown ?? null);
      });
    });
    inject(DestroyRef).onDestroy(() => this.store.dispatch(ShownActions.close()));
    inject(PanelsHeard)
      .loaded.pipe(takeUntilDestroyed())
      .subscribe(({ panel, shown }) => {
        if (!shown || panel !== this.panel()) return;
        // The server knows it: it is not said again.
        const stored = { id: panel, version: 0, updatedAt: '', document: { shown } };
        this.store.dispatch(ShownActions.replaced({ stored }));
        this.hold(shown);
        this.chosen.next(shown);
      });
  }

  /** A place of the panel's memory was chosen on it, and what it shows now is known. */
  readonly chosen = new Subject<Shown>();

  /** Stands before a panel, to turn it into something. */
  stand(panel: string, patch: string, name: string): void {
    const before = this.wanted();
    if (before?.panel !== panel || before.patch !== patch || before.name !== name)
      this.wanted.set({ panel, patch, name });
  }

  /** Some steps are done, and what was heard stands where it was: that is what it shows. */
  moved(
    before: PanelBefore,
    plan: RebuildPlan,
    goal: Goal,
    done: readonly string[],
    origin: string,
    heard: readonly Heard[],
  ): void {
    const shown = shownAfter(this.began() ?? null, before, plan, goal, done, now(), origin);
    this.say(shownHeard(shown, heard, now()));
  }

  /** Somebody looked: it stands like a patch. */
  standsAs(goal: Goal): void {
    this.say(shownAs(goal, now()));
    this.hold(this.now());
  }

  /** A sound was loaded from the panel's memory. */
  loads(goal: Goal): void {
    this.say(shownLoaded(this.now(), goal, now()));
    this.hold(this.now());
  }

  /** Hands did on the panel what was done to the patch. */
  alongWith(was: Moved, is: Moved): void {
    const shown = this.now();
    if (shown) this.say(shownMoved(shown, was, is, now()));
  }

  /** A control was heard to be moved by hand. */
  movedTo(heard: Heard): void {
    const shown = this.now();
    if (shown) this.say(shownHeard(shown, [heard], now()));
  }

  /** Somebody has turned things, nobody knows which. */
  turned(instrument: Instrument): void {
    const shown = this.now();
    if (!shown) return;
    this.say(shownTurned(shown, instrument, now()));
    this.hold(this.now());
  }

  private say(shown: Shown): void {
    this.store.dispatch(ShownActions.edit({ next: { shown } }));
  }

  private begin(wanted: Wanted, shown: Shown | null): void {
    const way = shown && wayBack(shown, wanted.patch, wanted.name);
    if (way) this.known.set({ of: keyOf(wanted), shown: way.began, origin: way.origin });
    else this.hold(shown);
  }

  private hold(shown: Shown | null): void {
    const wanted = this.wanted();
    if (wanted) this.known.set({ of: keyOf(wanted), shown, origin: shown ? 'shown' : '' });
  }
}

const keyOf = ({ panel, patch, name }: Wanted): string => `${panel} ${patch} ${name}`;
const now = (): string => new Date().toISOString();
