import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

@Component({
  selector: 'hur-not-found',
  imports: [RouterLink],
  template: `<main>
    <h1>There is no page at this address</h1>
    <p><a routerLink="/library">Go to the library</a></p>
  </main>`,
  styles: `
    main {
      max-width: 40rem;
      margin: 12vh auto;
      padding: 0 24px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NotFound {}
