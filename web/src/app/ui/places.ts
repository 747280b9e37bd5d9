import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { LightService } from './light';

/** What stands above every page that is not a patch's: the places of the application, and the light. */
@Component({
  selector: 'hur-places',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <a class="brand" routerLink="/library"
        ><img src="mark.svg" alt="" width="26" height="26" /> Hurrel</a
      >
      <nav aria-label="Places">
        @for (place of places; track place.path) {
          <a
            [routerLink]="place.path"
            [class.here]="here() === place.path"
            [attr.aria-current]="here() === place.path ? 'true' : null"
            >{{ place.label }}</a
          >
        }
      </nav>
      <ng-content />
      <button
        type="button"
        class="btn btn-plain"
        [title]="other()"
        [attr.aria-label]="other()"
        (click)="light.toggle()"
      >
        <i
          class="bi"
          [class.bi-moon-stars]="light.light() === 'desk'"
          [class.bi-sun]="light.light() === 'stage'"
          aria-hidden="true"
        ></i>
      </button>
    </header>
  `,
  styleUrl: './places.scss',
})
export class Places {
  /** The place that the page belongs to. */
  readonly here = input.required<'/library' | '/instruments' | '/sessions'>();

  protected readonly light = inject(LightService);
  protected readonly places = [
    { path: '/library', label: 'Patches' },
    { path: '/instruments', label: 'Instruments' },
    { path: '/sessions', label: 'Sessions' },
  ];

  protected other(): string {
    return this.light.light() === 'desk' ? 'Stage light' : 'Desk light';
  }
}
