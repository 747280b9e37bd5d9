import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import {
  exchangeable,
  isModuleKind,
  withExchange,
  withoutRevision,
  withRevision,
  withRevisionSaid,
} from '@hurrel/core';
import { kindText } from '../room/kinds';
import { InstrumentDesk } from '../instrument-desk';

/** Revisions of an instrument: the same panel over other modules. */
@Component({
  selector: 'hur-revisions-form',
  templateUrl: './revisions-form.html',
  styleUrl: './form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RevisionsForm {
  private readonly desk = inject(InstrumentDesk);
  protected readonly revisions = computed(() => this.desk.instrument()?.revisions ?? []);
  /** Modules in whose place others may stand. */
  protected readonly modules = computed(() => {
    const instrument = this.desk.instrument();
    if (!instrument) return [];
    return instrument.circuit.modules
      .map((m) => ({
        ...{ id: m.id, name: m.name ?? m.id, kind: kindText(m.kind) },
        kinds: exchangeable(instrument, m.id),
      }))
      .filter((m) => m.kinds.length > 0);
  });
  protected readonly kindText = kindText;

  protected standsFor(revision: string, module: string): string {
    const found = this.revisions().find((r) => r.id === revision);
    return found?.modules.find((m) => m.id === module)?.kind ?? '';
  }

  protected add(field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name === '') return;
    this.desk.attempt((i) => {
      field.value = '';
      return withRevision(i, name);
    });
  }

  protected say(id: string, said: { name?: string; note?: string }): void {
    if (said.name !== '') this.desk.edit((i) => withRevisionSaid(i, id, said));
  }

  protected exchange(revision: string, module: string, kind: string): void {
    this.desk.edit((i) => withExchange(i, revision, module, isModuleKind(kind) ? kind : null));
  }

  protected remove(id: string): void {
    this.desk.edit((i) => withoutRevision(i, id));
  }
}
