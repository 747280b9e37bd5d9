import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { DocumentActs, SavedLine } from '../document/document-acts';
import { openDocument } from '../document/open-document';
import { removeDocument } from '../document/remove-document';
import { MainPages } from '../ui/main-pages';
import { UnitCalibration } from './unit-calibration';
import { UnitDesk } from './unit-desk';
import { UnitMemory } from './unit-memory';
import { UnitShows } from './unit-shows';
import { ShownPanel } from '../shown/shown-panel';
import { UnitActions, unitFeature, unitSides } from './unit.document';
import { UnitsService } from './units.service';

/** One unit: what its dials really come to, and what is in its memory. */
@Component({
  selector: 'hur-unit-page',
  imports: [DocumentActs, MainPages, RouterLink, SavedLine, UnitCalibration, UnitMemory, UnitShows],
  providers: [UnitDesk, ShownPanel],
  templateUrl: './unit-page.html',
  styleUrl: '../instruments/instruments.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UnitPage {
  readonly id = input.required<string>();

  protected readonly desk = inject(UnitDesk);
  protected readonly document = openDocument(
    'unit',
    () => this.id(),
    unitFeature.selectUnitState,
    UnitActions,
    unitSides,
  );
  protected readonly remove = removeDocument(this.document.state, {
    service: inject(UnitsService),
    list: '/instruments',
    page: '/unit',
  });

  protected rename(field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name !== '') this.desk.change({ name });
    else field.value = this.desk.unit()?.name ?? '';
  }
}
