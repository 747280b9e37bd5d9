import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { KeysButton } from '../keys/keys-button';
import { LightButton } from './light-button';

/** What stands above every page that is not a patch's: the places of the application, and the light. */
@Component({
  selector: 'hur-main-pages',
  imports: [KeysButton, LightButton, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <a class="brand" routerLink="/library"
        ><img src="mark.svg" alt="" width="26" height="26" /> Hurrel</a
      >
      <nav aria-label="Main pages">
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
      <hur-keys-button />
      <hur-light-button />
    </header>
  `,
  styleUrl: './places.scss',
})
export class MainPages {
  /** The place that the page belongs to. */
  readonly here = input.required<'/library' | '/instruments' | '/sessions' | '/sets' | '/files'>();

  protected readonly places = [
    { path: '/library', label: 'Patches' },
    { path: '/instruments', label: 'Instruments' },
    { path: '/sessions', label: 'Recordings' },
    { path: '/sets', label: 'Sets' },
    { path: '/files', label: 'Files' },
  ];
}
