import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { Store } from '@ngrx/store';
import { formatDistanceToNowStrict } from 'date-fns';
import type { PatchSummary } from '../api/client';
import { Welcome } from './welcome';
import { MainPages } from '../ui/main-pages';
import { LibraryService } from './library.service';
import { LibraryActions, type LibraryFilter, libraryFeature } from './library.store';

/** All patches, by song. */
@Component({
  selector: 'hur-library-page',
  imports: [RouterLink, NgbDropdownModule, MainPages, Welcome],
  templateUrl: './library-page.html',
  styleUrl: './library-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LibraryPage {
  private readonly store = inject(Store);
  private readonly modal = inject(NgbModal);
  private readonly router = inject(Router);
  protected readonly library = inject(LibraryService);

  protected readonly state = this.store.selectSignal(libraryFeature.selectLibraryState);
  protected readonly groups = this.store.selectSignal(libraryFeature.selectGroups);
  protected readonly songs = this.store.selectSignal(libraryFeature.selectSongs);
  protected readonly roles = this.store.selectSignal(libraryFeature.selectRoles);
  private readonly instruments = computed(() => this.state().instruments);
  protected readonly renaming = signal<string | null>(null);
  protected readonly shown = computed(() => this.groups().reduce((n, g) => n + g.items.length, 0));
  protected readonly filtered = computed(() =>
    Object.values(this.state().filter).some((v) => v !== ''),
  );

  private readonly field = viewChild<ElementRef<HTMLInputElement>>('field');

  constructor() {
    effect(() => this.field()?.nativeElement.select());
    this.store.dispatch(LibraryActions.load());
  }

  protected filter(filter: Partial<LibraryFilter>): void {
    this.store.dispatch(LibraryActions.filter({ filter }));
  }

  protected instrumentName(id: string): string {
    const found = this.state().instruments.find((i) => i.id === id);
    return found ? `${found.maker} ${found.name}` : id;
  }

  protected controls(id: string): number {
    return this.state().instruments.find((i) => i.id === id)?.controls ?? 0;
  }

  protected ago(date: string): string {
    return formatDistanceToNowStrict(new Date(date), { addSuffix: true });
  }

  protected async rename(patch: PatchSummary, name: string): Promise<void> {
    if (this.renaming() !== patch.id) return;
    this.renaming.set(null);
    await this.library.rename(patch, name);
  }

  protected async create(): Promise<void> {
    const { NewPatchDialog } = await import('./new-patch-dialog');
    const dialog = this.modal.open(NewPatchDialog, { ariaLabelledBy: 'new-patch-title' });
    dialog.componentInstance.start(this.instruments, this.songs);
    dialog.result.then(
      (id: string) => this.router.navigate(['/patch', id, 'chart']),
      () => undefined,
    );
  }
}
