import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  type OnDestroy,
  untracked,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap';
import { Store } from '@ngrx/store';
import { format } from 'date-fns';
import { tinykeys } from 'tinykeys';
import { KeysService } from '../listen/keys.service';
import { LiveService } from '../sound/live.service';
import { PlayerService } from '../sound/player.service';
import { WeighService } from '../sound/weigh.service';
import { LightService } from '../ui/light';
import { PatchActions } from './patch.actions';
import { patchFeature } from './patch.reducer';

/** The frame around an open patch: what it is, its rooms, and whether it is saved. */
@Component({
  selector: 'hur-patch-page',
  imports: [RouterOutlet, RouterLink, RouterLinkActive],
  providers: [PlayerService, KeysService, WeighService],
  templateUrl: './patch-page.html',
  styleUrl: './patch-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PatchPage implements OnDestroy {
  readonly id = input.required<string>();

  private readonly store = inject(Store);
  private readonly modal = inject(NgbModal);
  private readonly title = inject(Title);
  private readonly live = inject(LiveService);
  protected readonly light = inject(LightService);

  protected readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  private readonly shown = this.store.selectSignal(patchFeature.selectShown);
  protected readonly canUndo = this.store.selectSignal(patchFeature.selectCanUndo);
  protected readonly canRedo = this.store.selectSignal(patchFeature.selectCanRedo);
  protected readonly rooms = [
    { path: 'chart', label: 'Chart' },
    { path: 'path', label: 'Path' },
    { path: 'listen', label: 'Listen' },
    { path: 'sequence', label: 'Sequence' },
    { path: 'rebuild', label: 'Rebuild' },
    { path: 'variations', label: 'Variations' },
    { path: 'history', label: 'History' },
    { path: 'details', label: 'Details' },
  ];
  protected readonly revision = computed(() => {
    const { instrument, present } = this.state();
    return instrument?.revisions.find((r) => r.id === present?.revision)?.name;
  });
  protected readonly saving = computed(() => {
    const { save, changes, stored } = this.state();
    switch (save.kind) {
      case 'saved':
        return stored
          ? `Saved ${format(new Date(stored.updatedAt), 'HH:mm')} · version ${stored.version}`
          : '';
      case 'waiting':
      case 'saving':
        return 'Saving';
      case 'offline':
        return `Offline · ${changes} ${changes === 1 ? 'change' : 'changes'} waiting`;
      case 'refused':
        return `Not saved: ${save.message}`;
      case 'conflict':
        return 'Changed elsewhere: decide what to keep';
    }
  });
  private readonly unbind: () => void;
  private asking = false;

  constructor() {
    effect(() => {
      this.store.dispatch(PatchActions.open({ id: this.id() }));
      // Another patch is heard whole and alone.
      untracked(() => {
        this.live.setAway(new Set());
        this.live.setAlone(null);
        this.live.compareNothing();
      });
    });
    effect(() => {
      const [instrument, shown] = [this.state().instrument, this.shown()];
      if (instrument && shown) untracked(() => this.live.follow(instrument, shown));
    });
    effect(() => {
      const name = this.state().present?.name;
      if (name) this.title.setTitle(`${name} · Hurrel`);
    });
    effect(() => {
      if (this.state().save.kind === 'conflict') void this.decide();
    });
    this.unbind = tinykeys(window, {
      '$mod+KeyZ': (event) => this.history(event, 'undo'),
      '$mod+Shift+KeyZ': (event) => this.history(event, 'redo'),
      '$mod+KeyY': (event) => this.history(event, 'redo'),
    });
  }

  ngOnDestroy(): void {
    this.unbind();
    this.store.dispatch(PatchActions.close());
  }

  protected show(variation: string): void {
    this.store.dispatch(PatchActions.showVariation({ variation: variation || null }));
  }

  protected undo(): void {
    this.store.dispatch(PatchActions.undo());
  }

  protected redo(): void {
    this.store.dispatch(PatchActions.redo());
  }

  protected retry(): void {
    this.store.dispatch(PatchActions.save());
  }

  /** Lets the person decide between two states of the patch, once for each conflict. */
  protected async decide(): Promise<void> {
    const { save, instrument, stored, present } = this.state();
    if (this.asking || save.kind !== 'conflict' || !instrument || !stored || !present) return;
    this.asking = true;
    const { ConflictDialog } = await import('./conflict-dialog');
    const dialog = this.modal.open(ConflictDialog, {
      size: 'lg',
      backdrop: 'static',
      ariaLabelledBy: 'conflict-title',
    });
    dialog.componentInstance.start(instrument, stored.patch, present, save.theirs.patch);
    dialog.result
      .then(
        (patch) =>
          this.store.dispatch(PatchActions.resolveConflict({ patch, theirs: save.theirs })),
        () => undefined,
      )
      .finally(() => (this.asking = false));
  }

  private history(event: KeyboardEvent, way: 'undo' | 'redo'): void {
    // A field being written undoes its own letters.
    if (event.target instanceof HTMLElement && event.target.matches('input, textarea')) return;
    event.preventDefault();
    if (way === 'undo') this.undo();
    else this.redo();
  }
}
