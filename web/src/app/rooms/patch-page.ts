import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { DocumentActs, SavedLine } from '../document/document-acts';
import { carryPatches } from '../carry/carry-patches';
import { CarryLine } from '../carry/carry-line';
import { openDocument } from '../document/open-document';
import { SensitivityService } from '../sound/sensitivity.service';
import { KeysButton } from '../keys/keys-button';
import { LightButton } from '../ui/light-button';
import { useShortcuts } from '../keys/shortcuts';
import { CompareService } from '../listen/compare.service';
import { TransportService } from '../transport/transport.service';
import { versionsApi } from '../history/versions-api';
import { ToastService } from '../ui/toasts';
import { PatchActions } from '../patch/patch.actions';
import { patchSides } from '../patch/patch.kind';
import { patchFeature } from '../patch/patch.reducer';

/** The frame around an open patch: what it is, its rooms, and whether it is saved. */
@Component({
  selector: 'hur-patch-page',
  imports: [
    CarryLine,
    DocumentActs,
    KeysButton,
    LightButton,
    RouterOutlet,
    RouterLink,
    RouterLinkActive,
    SavedLine,
  ],
  providers: [SensitivityService],
  templateUrl: './patch-page.html',
  styleUrl: './patch-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PatchPage {
  readonly id = input.required<string>();

  private readonly store = inject(Store);
  private readonly title = inject(Title);
  private readonly transport = inject(TransportService);
  private readonly router = inject(Router);
  private readonly compare = inject(CompareService);

  protected readonly state = this.store.selectSignal(patchFeature.selectPatchState);
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

  /** On another description of its instrument it is read anew. */
  private readonly carry = carryPatches(() =>
    this.store.dispatch(PatchActions.open({ id: this.id() })),
  );

  private readonly versions = versionsApi('patch', () => this.id());
  private readonly toasts = inject(ToastService);

  /** An older version in the place of one that the disk has damaged. */
  protected async takeBack(head: number, whole: number): Promise<void> {
    try {
      await this.versions.goBack(whole, head);
      this.store.dispatch(PatchActions.open({ id: this.id() }));
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  constructor() {
    useShortcuts('Sound', [
      {
        keys: 'Space',
        says: 'Play, or stop',
        // Where a panel is rebuilt, it says that a step is done.
        when: () => !this.router.url.includes('/rebuild'),
        act: () => this.transport.toggle(),
      },
      { keys: 'F6', says: 'Hear the other sound, and back', act: () => this.compare.swap() },
    ]);
    effect(() => {
      const name = this.state().present?.name;
      if (name) this.title.setTitle(`${name} · Hurrel`);
    });
  }

  protected carryOver(): Promise<void> {
    const { instrument, stored } = this.state();
    return instrument && stored
      ? this.carry(instrument.id, instrument.name, [stored])
      : Promise.resolve();
  }

  protected show(variation: string): void {
    this.store.dispatch(PatchActions.showVariation({ variation: variation || null }));
  }
}
