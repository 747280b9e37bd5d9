import { DestroyRef, effect, inject, Injectable, signal } from '@angular/core';
import { applyVariation, type Instrument, type Patch, type SoundFacts } from '@hurrel/core';
import { tellFacts } from '../listen/facts';
import { MeasureService } from '../sound/measure.service';

/** What is told of each sound beside the others. */
const TOLD = ['Loudness', 'Peak', 'Brightness', 'Attack', 'Release', 'Width'] as const;
const PAUSE = 400;

export interface MeasuredRow {
  name: string;
  /** Of the patch and each variation; nothing yet where it is still computed. */
  cells: (string | null)[];
}

/** Measures a patch and its variations one after the other, the same note of each. */
@Injectable()
export class Measured {
  private readonly measurer = inject(MeasureService);
  private readonly facts = signal<(SoundFacts | null)[]>([]);
  readonly error = signal('');
  /** Runs that are of an older state stop by themselves. */
  private run = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.run++);
  }

  /** Measures again whenever what is given changes. */
  follow(subject: () => { instrument: Instrument; patch: Patch } | null): void {
    effect((onCleanup) => {
      const now = subject();
      if (!now) return;
      const timer = setTimeout(() => void this.measure(now.instrument, now.patch), PAUSE);
      onCleanup(() => clearTimeout(timer));
    });
  }

  readonly rows = (): MeasuredRow[] => {
    const told = this.facts().map((f) =>
      f ? new Map(tellFacts(f).map((t) => [t.name, t.text])) : null,
    );
    return TOLD.map((name) => ({ name, cells: told.map((t) => t?.get(name) ?? null) }));
  };

  private async measure(instrument: Instrument, patch: Patch): Promise<void> {
    const run = ++this.run;
    const note = patch.phrase[0]?.note ?? 48;
    const states = [patch, ...patch.variations.map((v) => applyVariation(patch, v))];
    this.facts.set(states.map(() => null));
    this.error.set('');
    for (const [i, state] of states.entries()) {
      try {
        const { facts } = await this.measurer.measure({
          subject: { instrument, patch: state, note },
        });
        if (run !== this.run) return;
        this.facts.update((all) => all.map((f, k) => (k === i ? facts : f)));
      } catch (error) {
        if (run === this.run) this.error.set((error as Error).message);
        return;
      }
    }
  }
}
