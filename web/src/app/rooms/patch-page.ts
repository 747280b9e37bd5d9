import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { DocumentActs, SavedLine } from '../document/document-acts';
import { openDocument } from '../document/open-document';
import { KeysService } from '../sound/keys.service';
import { LiveService } from '../sound/live.service';
import { PlayerService } from '../sound/player.service';
import { SensitivityService } from '../sound/sensitivity.service';
import { KeysButton } from '../keys/keys-button';
import { LightButton } from '../ui/light-button';
import { rememberVariation } from './remember-variation';
import { PatchActions } from '../patch/patch.actions';
import { patchSides } from '../patch/patch.kind';
import { patchFeature } from '../patch/patch.reducer';

/** The frame around an open patch: what it is, its rooms, and whether it is saved. */
@Component({
  selector: 'hur-patch-page',
  imports: [
    DocumentActs,
    KeysButton,
    LightButton,
    RouterOutlet,
    RouterLink,
    RouterLinkActive,
    SavedLine,
  ],
  providers: [PlayerService, KeysService, SensitivityService],
  templateUrl: './patch-page.html',
  styleUrl: './patch-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PatchPage {
  readonly id = input.required<string>();

  private readonly store = inject(Store);
  private readonly title = inject(Title);
  private readonly live = inject(LiveService);

  protected readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  private readonly shown = this.store.selectSignal(patchFeature.selectShown);
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
  protected readonly document = openDocument(
    'patch',
    () => this.id(),
    patchFeature.selectPatchState,
    PatchActions,
    patchSides,
  );

  constructor() {
    rememberVariation(this.id, this.state);
    effect(() => {
      this.id();
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
  }

  protected show(variation: string): void {
    this.store.dispatch(PatchActions.showVariation({ variation: variation || null }));
  }
}
