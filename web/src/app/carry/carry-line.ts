import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { editionOf, type Patch } from '@hurrel/core';
import { answer, API } from '../api/client';

/** Says that a patch stands on an older description of its instrument, and offers to carry it over. */
@Component({
  selector: 'hur-carry-line',
  template: `
    @if (behind(); as newest) {
      <p role="note">
        <i class="bi bi-layers" aria-hidden="true"></i>
        <span>
          Recorded on version {{ edition() }} of {{ name() }}, and shown as it was. Version
          {{ newest }} reads or sounds otherwise.
        </span>
        <button type="button" class="btn" [disabled]="!saved()" (click)="asked.emit()">
          Review changes
        </button>
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      gap: 10px;
      align-items: center;
      margin: 0;
      padding: 4px 14px;
      border-bottom: 1px solid var(--rule);
      background: var(--odd-wash);
      font-size: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CarryLine {
  readonly patch = input.required<Patch>();
  /** Name of the instrument. */
  readonly name = input.required<string>();
  /** Whether all edits are stored: nothing else can be carried. */
  readonly saved = input.required<boolean>();
  /** What becomes of the patch is asked. */
  readonly asked = output();

  private readonly api = inject(API);
  private readonly instrument = computed(() => this.patch().instrument);
  protected readonly edition = computed(() => editionOf(this.patch()));
  /** The newest version, when the patch is behind it. */
  protected readonly behind = signal(0);

  constructor() {
    effect(() => {
      // Not with each edit: these two seldom change.
      const [id, edition] = [this.instrument(), this.edition()];
      untracked(() => void this.look(id, edition));
    });
  }

  private async look(id: string, edition: number): Promise<void> {
    try {
      const request = this.api.instruments[':id'].standing.$get({ param: { id } });
      const { version, since } = await answer<{ version: number; since: number }>(request);
      this.behind.set(edition < since ? version : 0);
    } catch {
      // It is told when the server is back; the patch is shown as it was in any case.
    }
  }
}
