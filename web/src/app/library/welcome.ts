import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { RouterLink } from '@angular/router';

const KEY = 'hurrel.welcomed';

/** What Hurrel is for, and where to begin: until it is put away, which is kept on this device. */
@Component({
  selector: 'hur-welcome',
  imports: [RouterLink],
  template: `
    @if (shown()) {
      <section aria-label="What Hurrel is for">
        <p class="for">
          Record every knob and cable of a hardware synthesizer. Hear the patch, find out why it's
          silent, and set it up again step by step.
        </p>
        <p class="ways">
          <span>Open a patch below and press <kbd>space</kbd> to hear it.</span>
          <a routerLink="/instruments">Bring your own instrument</a>
          <a routerLink="/sets">Plan an evening on stage</a>
        </p>
        <button type="button" class="btn btn-plain" (click)="putAway()">Dismiss</button>
      </section>
    }
  `,
  styles: `
    section {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 4px 24px;
      margin: 10px 0 2px;
      padding: 12px 16px;
      border-left: 4px solid var(--accent);
      background: var(--paper);
    }
    p {
      margin: 0;
    }
    .for {
      max-width: 62em;
      font-size: 17px;
    }
    .ways {
      display: flex;
      flex-wrap: wrap;
      grid-column: 1;
      gap: 4px 22px;
    }
    .btn {
      grid-row: 1 / 3;
      grid-column: 2;
      align-self: start;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Welcome {
  protected readonly shown = signal(!isPutAway());

  protected putAway(): void {
    this.shown.set(false);
    try {
      localStorage.setItem(KEY, 'yes');
    } catch {
      // A device that keeps nothing shows it again on the next visit.
    }
  }
}

function isPutAway(): boolean {
  try {
    return localStorage.getItem(KEY) !== null;
  } catch {
    return false;
  }
}
