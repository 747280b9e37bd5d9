import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { SequenceService } from './sequence.service';

/** Which steps of long tracks are shown at once. */
@Injectable()
export class StepPages {
  private readonly sequence = inject(SequenceService);
  private readonly pattern = this.sequence.pattern;
  /** Steps that are shown at once. */
  readonly count = signal(16);
  private readonly page = signal(0);
  readonly longest = computed(() =>
    Math.max(1, ...(this.pattern()?.tracks.map((t) => t.length) ?? [])),
  );
  readonly pages = computed(() =>
    Array.from({ length: Math.ceil(this.longest() / this.count()) }, (_, i) => i),
  );
  readonly from = computed(() => Math.min(this.page(), this.pages().length - 1) * this.count());

  constructor() {
    // What one stands on is in sight.
    effect(() => {
      const step = this.sequence.cursor().step;
      untracked(() => {
        if (step < this.from() || step >= this.from() + this.count())
          this.page.set(Math.floor(step / this.count()));
      });
    });
  }

  goPage(page: number): void {
    this.page.set(page);
    this.sequence.go(this.sequence.cursor().track, page * this.count());
  }

  show(count: number): void {
    this.count.set(count);
    this.page.set(Math.floor(this.sequence.cursor().step / count));
  }
}
