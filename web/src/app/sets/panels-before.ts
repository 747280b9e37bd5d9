import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { certainOf, type PanelBefore, type Shown, shownOf } from '@hurrel/core';
import { answer, API } from '../api/client';
import { eveningFeature } from './evening.document';

/** Ms until what a panel shows is asked for again when the server was away. */
const AGAIN_MS = 3000;

/** What the panels of a set show before it, as far as anybody knows. */
@Injectable()
export class PanelsBefore {
  private readonly api = inject(API);
  private readonly evening = inject(Store).selectSignal(eveningFeature.selectPresent);
  /** By what is known of a panel is kept under; null where nothing is. */
  private readonly read = signal<Readonly<Record<string, PanelBefore | null>>>({});
  private readonly keys = computed(() => {
    const panels = this.evening()?.panels ?? [];
    return panels.flatMap(({ id }): [panel: string, kept: string][] => {
      const kept = shownOf({ panels }, id);
      return kept === undefined ? [] : [[id, kept]];
    });
  });
  private asking = false;
  private closed = false;

  /** By panel; undefined until all of them were read: nothing is planned from a guess. */
  readonly shown = computed((): Readonly<Record<string, PanelBefore>> | undefined => {
    const [keys, read] = [this.keys(), this.read()];
    if (keys.some(([, kept]) => read[kept] === undefined)) return undefined;
    return Object.fromEntries(
      keys.flatMap(([panel, kept]) => (read[kept] ? [[panel, read[kept]]] : [])),
    );
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.closed = true));
    effect(() => {
      this.keys();
      untracked(() => void this.ask());
    });
  }

  /** Reads one after the other what was not read, however the panels change meanwhile. */
  private async ask(): Promise<void> {
    if (this.asking) return;
    this.asking = true;
    for (;;) {
      const next = this.keys().find(([, kept]) => this.read()[kept] === undefined)?.[1];
      if (next === undefined || this.closed) break;
      try {
        const { shown } = await answer<{ shown: Shown | null }>(
          this.api.shown[':panel'].$get({ param: { panel: next } }),
        );
        const before = shown && certainOf(shown);
        this.read.update((all) => ({ ...all, [next]: before }));
      } catch {
        // A server that is away says nothing of how a panel stands.
        await new Promise((go) => setTimeout(go, AGAIN_MS));
      }
    }
    this.asking = false;
  }
}
