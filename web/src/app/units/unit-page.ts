import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { DocumentActs, SavedLine } from '../document/document-acts';
import { openDocument } from '../document/open-document';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';
import { UnitCalibration } from './unit-calibration';
import { UnitDesk } from './unit-desk';
import { UnitMemory } from './unit-memory';
import { UnitActions, unitFeature, unitSides } from './unit.document';
import { UnitsService } from './units.service';

/** One unit: what its dials really come to, and what is in its memory. */
@Component({
  selector: 'hur-unit-page',
  imports: [DocumentActs, MainPages, RouterLink, SavedLine, UnitCalibration, UnitMemory],
  providers: [UnitDesk],
  templateUrl: './unit-page.html',
  styleUrl: '../instruments/instruments.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UnitPage {
  readonly id = input.required<string>();

  private readonly units = inject(UnitsService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  protected readonly desk = inject(UnitDesk);
  protected readonly document = openDocument(
    'unit',
    () => this.id(),
    unitFeature.selectUnitState,
    UnitActions,
    unitSides,
  );

  protected rename(field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name !== '') this.desk.change({ name });
    else field.value = this.desk.unit()?.name ?? '';
  }

  protected async remove(): Promise<void> {
    const { stored } = this.document.state();
    if (!stored) return;
    try {
      await this.units.remove(stored);
      await this.router.navigate(['/instruments']);
      this.toasts.show(`"${stored.document.name}" is removed.`, {
        label: 'Undo',
        run: () => void this.again(stored.id),
      });
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async again(id: string): Promise<void> {
    try {
      await this.units.restore(id);
      await this.router.navigate(['/unit', id]);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }
}
