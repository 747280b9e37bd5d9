import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { ToastService } from '../ui/toasts';
import { ParcelsService } from './parcels.service';

/** Files of documents may be dropped on any page: they are looked at on the page of files. */
@Component({
  selector: 'hur-file-drop',
  template: `
    @if (over()) {
      <div class="over" role="status">
        <p><i class="bi bi-box-arrow-in-down" aria-hidden="true"></i> Drop to preview</p>
      </div>
    }
  `,
  host: {
    '(window:dragover)': 'drag($event)',
    '(window:dragleave)': 'leave($event)',
    '(window:drop)': 'drop($event)',
  },
  styles: `
    .over {
      position: fixed;
      inset: 0;
      z-index: 1080;
      display: grid;
      place-items: center;
      background: var(--accent-wash);
      opacity: 0.94;
      pointer-events: none;
    }
    p {
      padding: 22px 30px;
      border: 3px dashed var(--accent);
      background: var(--paper);
      font-size: 22px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FileDrop {
  private readonly parcels = inject(ParcelsService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  protected readonly over = signal(false);

  protected drag(event: DragEvent): void {
    // A page that takes files itself has said so already.
    if (event.defaultPrevented || !event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.over.set(true);
  }

  protected leave(event: DragEvent): void {
    if (event.relatedTarget === null) this.over.set(false);
  }

  protected drop(event: DragEvent): void {
    this.over.set(false);
    const file = event.dataTransfer?.files[0];
    if (event.defaultPrevented || !file) return;
    event.preventDefault();
    if (!/\.(zip|json)$/i.test(file.name)) {
      const known = /\.(wav|mid|midi)$/i.test(file.name)
        ? 'A recording is dropped on its pass in Recordings, a MIDI file is opened in Sequence.'
        : 'Hurrel takes its own zip and json files here.';
      return this.toasts.show(`${file.name} was not taken. ${known}`);
    }
    this.parcels.offered.set(file);
    void this.router.navigate(['/files']);
  }
}
