import { NgbToast } from '@ng-bootstrap/ng-bootstrap/toast';
import { ChangeDetectionStrategy, Component, inject, Injectable, signal } from '@angular/core';

export interface Toast {
  id: number;
  text: string;
  action?: { label: string; run: () => void };
}

/** How long a message stays. With an action on it, long enough to read and to decide. */
const STAY_MS = 6000;
const STAY_WITH_ACTION_MS = 15000;

@Injectable({ providedIn: 'root' })
export class ToastService {
  readonly toasts = signal<Toast[]>([]);
  private next = 1;

  show(text: string, action?: Toast['action']): void {
    const toast: Toast = { id: this.next++, text, ...(action ? { action } : {}) };
    this.toasts.update((all) => [...all.slice(-2), toast]);
  }

  drop(id: number): void {
    this.toasts.update((all) => all.filter((t) => t.id !== id));
  }
}

@Component({
  selector: 'hur-toasts',
  imports: [NgbToast],
  template: `
    <div class="stack" role="status" aria-live="polite">
      @for (toast of service.toasts(); track toast.id) {
        <ngb-toast
          [animation]="false"
          [delay]="toast.action ? long : short"
          (hidden)="service.drop(toast.id)"
        >
          <div class="toast-line">
            <span>{{ toast.text }}</span>
            @if (toast.action; as action) {
              <button class="btn btn-main" (click)="run(toast.id, action.run)">
                {{ action.label }}
              </button>
            }
            <button
              class="btn btn-plain"
              aria-label="Close message"
              (click)="service.drop(toast.id)"
            >
              <i class="bi bi-x-lg" aria-hidden="true"></i>
            </button>
          </div>
        </ngb-toast>
      }
    </div>
  `,
  styles: `
    .stack {
      position: fixed;
      bottom: 62px;
      left: 50%;
      z-index: 1090;
      display: grid;
      gap: 8px;
      max-width: min(640px, 92vw);
      transform: translateX(-50%);
    }
    .toast-line {
      display: flex;
      gap: 12px;
      align-items: center;
    }
    span {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Toasts {
  protected readonly service = inject(ToastService);
  protected readonly short = STAY_MS;
  protected readonly long = STAY_WITH_ACTION_MS;

  protected run(id: number, action: () => void): void {
    this.service.drop(id);
    action();
  }
}
