import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { LoadedByHand } from './loaded-by-hand';
import { StageDesk } from './stage-desk';
import { TurnedByHand } from './turned-by-hand';

/** What was turned or loaded while a song was played, as far as panels say it over MIDI, and stands wrong for the next. */
@Component({
  selector: 'hur-stage-astray',
  imports: [RouterLink],
  template: `
    @for (one of loaded.over(); track one.panel) {
      <section role="status" [attr.aria-label]="one.name + ' was loaded over'">
        <p>
          <span class="quiet">{{ one.name }}</span> {{ one.place }}
          @if (one.shall) {
            <span class="quiet">was loaded:</span>
            back to <strong class="mono">{{ one.shall }}</strong>
          } @else {
            <span class="quiet">was loaded over what stood there</span>
          }
          @if (one.undone.length > 0) {
            <button type="button" class="act small" (click)="stage.again(one.undone)">
              Do it once more
            </button>
          } @else if (!one.shall) {
            <a
              class="act small"
              [routerLink]="['/patch', one.play.patch, 'rebuild']"
              [queryParams]="{ variation: one.play.variation, unit: one.unit }"
              >To its rebuild</a
            >
            <button type="button" class="act small" (click)="loaded.standsAgain(one.panel)">
              Fixed
            </button>
          }
        </p>
      </section>
    }
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
  styleUrl: './stage-parts.scss',
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
    .act {
      display: inline-flex;
      align-items: center;
      margin-left: 14px;
    }
    .quiet {
      color: var(--ink-2);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageAstray {
  protected readonly turned = inject(TurnedByHand);
  protected readonly loaded = inject(LoadedByHand);
  protected readonly stage = inject(StageDesk);
}
