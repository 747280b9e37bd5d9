import { inject } from '@angular/core';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { ToastService } from '../ui/toasts';
import { type CarriedPatch, CarryService, type Read } from './carry.service';

/**
 * Asks, carries patches over, and offers to take it back. To be called where things can be injected.
 * @param after called when patches were carried, and again when that was taken back
 */
export function carryPatches(after: () => void) {
  const [modal, service, toasts] = [inject(NgbModal), inject(CarryService), inject(ToastService)];
  return async (instrument: string, name: string, patches: readonly Read[]): Promise<void> => {
    const { CarryDialog } = await import('./carry-dialog');
    const dialog = modal.open(CarryDialog, {
      size: 'lg',
      backdrop: 'static',
      ariaLabelledBy: 'carry-title',
    });
    (dialog.componentInstance as InstanceType<typeof CarryDialog>).start(instrument, name, patches);
    const carried = await (dialog.result as Promise<CarriedPatch[]>).catch(() => null);
    if (!carried) return;
    after();
    const undo = async (): Promise<void> => {
      try {
        await service.back(carried);
        toasts.show(carried.length === 1 ? 'It is as it was.' : 'They are as they were.');
      } catch (error) {
        toasts.show((error as Error).message);
      }
      after();
    };
    const what = carried.length === 1 ? carried[0]!.name : `${carried.length} patches`;
    toasts.show(`Carried over: ${what}.`, { label: 'Undo', run: () => void undo() });
  };
}
