import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { type SequencerKind, sequencerKinds, withSequencer } from '@hurrel/core';
import { InstrumentDesk } from '../instrument-desk';
import { SequencerForm } from './sequencer-form';

/** The sequencers of an instrument, and one more of a kind. */
@Component({
  selector: 'hur-sequencers-form',
  imports: [SequencerForm],
  template: `
    <section aria-label="Sequencers">
      <h2>Sequencers</h2>
      @for (one of sequencers(); track one.id) {
        <hur-sequencer-form [sequencer]="one" />
      } @empty {
        <p class="quiet">None is said. Patterns are then played from outside.</p>
      }
      <ul class="kinds">
        @for (kind of kinds; track kind.kind) {
          <li>
            <button type="button" (click)="add(kind.kind)">
              <strong>{{ kind.name }}</strong>
              <span class="quiet">{{ kind.says }}</span>
            </button>
          </li>
        }
      </ul>
    </section>
  `,
  styleUrl: './form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SequencersForm {
  private readonly desk = inject(InstrumentDesk);
  protected readonly kinds = sequencerKinds;
  protected readonly sequencers = computed(() => this.desk.instrument()?.sequencers ?? []);

  protected add(kind: SequencerKind): void {
    this.desk.attempt((i) => withSequencer(i, kind).instrument);
  }
}
