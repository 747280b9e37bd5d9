import { inject, Injectable, signal } from '@angular/core';
import { joinMarks, type Marks, marksSchema } from '@hurrel/core';
import type { Walk } from './walk.api';
import { Tab } from '../document/tab';
import { OnDisk } from '../api/on-disk';

const PREFIX = 'hurrel.walk.';

/** A walk as it is kept on this device. */
export interface KeptWalk {
  walk: Walk;
  marks: Marks;
  /** What the server has not acknowledged. */
  waiting: Marks;
}

/** Walks on this device: what is ticked here stays, with no server and over a power cut. */
@Injectable({ providedIn: 'root' })
export class WalkStore {
  private readonly disk = inject(OnDisk);
  /** What this device is called in what it says; each of its tabs for itself. */
  readonly device = inject(Tab).id;
  /** Whether this browser would not keep the last that was said. */
  readonly refused = signal(false);
  /** What this tab kept last, as it was written: read again only where another tab wrote since. */
  private readonly last = new Map<string, { written: string; kept: KeptWalk }>();

  /** Brings what is known together with what is kept, from another tab too, and keeps it. */
  keep(kept: KeptWalk): void {
    const known = this.find(kept.walk.id);
    const marks = known ? joinMarks(known.marks, kept.marks) : kept.marks;
    const all = { ...kept, marks };
    const written = JSON.stringify(all);
    try {
      this.disk.put(PREFIX + kept.walk.id, written);
      this.last.set(kept.walk.id, { written, kept: all });
      this.refused.set(false);
    } catch {
      this.refused.set(true);
    }
  }

  find(id: string): KeptWalk | undefined {
    try {
      const written = localStorage.getItem(PREFIX + id);
      const last = this.last.get(id);
      if (last && last.written === written) return last.kept;
      const kept = JSON.parse(written ?? 'null') as KeptWalk | null;
      if (!kept) return undefined;
      const [marks, waiting] = [marksSchema.parse(kept.marks), marksSchema.parse(kept.waiting)];
      return { walk: kept.walk, marks, waiting };
    } catch {
      return undefined;
    }
  }

  /** Those of a set that were opened here, the latest first. */
  of(evening: string): Walk[] {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(PREFIX))
      .flatMap((key) => this.find(key.slice(PREFIX.length))?.walk ?? [])
      .filter((walk) => walk.evening === evening)
      .sort((a, b) => (a.createdAt < b.createdAt ? 1 : -1));
  }
}
