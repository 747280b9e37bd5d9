import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Patch } from '@hurrel/core';
import { answer, API, type PatchSummary, type StoredPatch } from '../api/client';
import { ToastService } from '../ui/toasts';
import { LibraryActions } from './library.store';

export type NewPatch =
  | {
      from: 'start' | 'init' | 'nothing';
      instrument: string;
      name: string;
      song: string;
      role: Patch['role'];
    }
  | { from: 'patch'; patchId: string; name: string; song: string };

/** What can be done to the patches of the library. Each change is on the server before the list shows it. */
@Injectable({ providedIn: 'root' })
export class LibraryService {
  private readonly api = inject(API);
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);

  async create(wanted: NewPatch): Promise<StoredPatch> {
    return answer<StoredPatch>(this.api.patches.$post({ json: wanted }));
  }

  async copy(patch: PatchSummary): Promise<void> {
    await this.attempt(async () => {
      const name = `${patch.name} copy`.slice(0, 80);
      await this.create({ from: 'patch', patchId: patch.id, name, song: patch.song });
      this.toasts.show(`“${name}” is in the library.`);
    });
  }

  async rename(patch: PatchSummary, name: string): Promise<void> {
    if (name.trim() === '' || name.trim() === patch.name) return this.reload();
    await this.attempt(async () => {
      const stored = await answer<StoredPatch>(
        this.api.patches[':id'].$get({ param: { id: patch.id } }),
      );
      await answer(
        this.api.patches[':id'].$put({
          param: { id: patch.id },
          header: { 'if-match': `"${stored.version}"` },
          json: { ...stored.patch, name: name.trim() },
        }),
      );
    });
  }

  async remove(patch: PatchSummary): Promise<void> {
    await this.attempt(async () => {
      await answer(
        this.api.patches[':id'].$delete({
          param: { id: patch.id },
          header: { 'if-match': `"${patch.version}"` },
        }),
      );
      this.toasts.show(`“${patch.name}” was deleted.`, {
        label: 'Undo',
        run: () => void this.restore(patch),
      });
    });
  }

  private async restore(patch: PatchSummary): Promise<void> {
    await this.attempt(async () => {
      await answer(this.api.patches[':id'].restore.$post({ param: { id: patch.id } }));
    });
  }

  private async attempt(change: () => Promise<void>): Promise<void> {
    try {
      await change();
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
    this.reload();
  }

  private reload(): void {
    this.store.dispatch(LibraryActions.load());
  }
}
