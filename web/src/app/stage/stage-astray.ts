import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { TurnedByHand } from './turned-by-hand';

/** What was turned while a song was played, as far as panels say it over MIDI, and stands wrong for the next. */
@Component({
  selector: 'hur-stage-astray',
  template: `
    @if (turned.all().length > 0) {
      <section role="status" aria-label="Turned by hand">
        @for (one of turned.all(); track one.key) {
          <p>
            <span class="quiet">{{ one.panel }}</span> {{ one.name }}
            <span class="quiet">was turned to {{ one.stands }}:</span>
            back to <strong class="mono">{{ one.shall }}</strong>
          </p>
        }
      </section>
    }
  `,
  styles: `
    section {
      margin: 0 0 14px;
      padding: 8px 16px;
      border-left: 4px solid var(--near);
    }
    p {
      margin: 2px 0;
      font-size: 24px;
    }
    strong {
      font-size: 34px;
    }
    .quiet {
      color: var(--ink-2);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageAstray {
  protected readonly turned = inject(TurnedByHand);
}
