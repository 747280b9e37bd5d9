import { inject, type Signal } from '@angular/core';
import { Router } from '@angular/router';
import { ToastService } from '../ui/toasts';

interface Removable {
  id: string;
  version: number;
  document: { name: string };
}

/** Where a kind of document is removed and brought back; its list, and the page of one. */
interface Place {
  service: { remove(stored: Removable): Promise<void>; restore(id: string): Promise<unknown> };
  list: string;
  page: string;
}

/**
 * Removes the document of a page: goes to the list of its kind, and offers to bring it back. To be called where things can
 * be injected; what it gives is called to remove.
 */
export function removeDocument(
  state: Signal<{ stored: Removable | null }>,
  { service, list, page }: Place,
): () => Promise<void> {
  const [router, toasts] = [inject(Router), inject(ToastService)];
  const told = async (act: () => Promise<void>): Promise<void> => {
    try {
      await act();
    } catch (error) {
      toasts.show((error as Error).message);
    }
  };
  const again = (id: string): Promise<void> =>
    told(async () => {
      await service.restore(id);
      await router.navigate([page, id]);
    });
  return async () => {
    const { stored } = state();
    if (!stored) return;
    await told(async () => {
      await service.remove(stored);
      await router.navigate([list]);
      toasts.show(`"${stored.document.name}" is removed.`, {
        label: 'Undo',
        run: () => void again(stored.id),
      });
    });
  };
}
