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
    setTimeout(() => this.drop(toast.id), action ? STAY_WITH_ACTION_MS : STAY_MS);
  }

  drop(id: number): void {
    this.toasts.update((all) => all.filter((t) => t.id !== id));
  }
}

@Component({
  selector: 'hur-toasts',
  template: `
    <div class="stack" role="status" aria-live="polite">
      @for (toast of service.toasts(); track toast.id) {
        <div class="toast-line">
          <span>{{ toast.text }}</span>
          @if (toast.action; as action) {
            <button class="btn btn-main" (click)="run(toast.id, action.run)">
              {{ action.label }}
            </button>
          }
          <button class="btn btn-plain" aria-label="Close message" (click)="service.drop(toast.id)">
            <i class="bi bi-x-lg" aria-hidden="true"></i>
          </button>
        </div>
      }
    </div>
  `,
  styles: `
    .stack {
      position: fixed;
      bottom: 18px;
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
      padding: 8px 8px 8px 16px;
      border: 1px solid var(--ink-3);
      border-radius: 4px;
      background: var(--paper);
      box-shadow: 0 8px 30px rgb(0 0 0 / 22%);
    }
    span {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Toasts {
  protected readonly service = inject(ToastService);

  protected run(id: number, action: () => void): void {
    this.service.drop(id);
    action();
  }
}
