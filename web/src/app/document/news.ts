import { DestroyRef, effect, inject, Injectable, signal } from '@angular/core';
import { filter, finalize, map, type Observable, Subject } from 'rxjs';

interface Newer {
  kind: string;
  id: string;
  version: number;
}

/** Kinds of which the server tells newer versions. */
const TOLD = new Set(['patch', 'instrument', 'unit', 'session', 'evening']);

/**
 * Newer versions of open documents, as other windows and devices save them. One line to the server for all that is open, and
 * only while the page is seen: browsers allow few.
 */
@Injectable({ providedIn: 'root' })
export class News {
  private readonly heard = new Subject<Newer>();
  private readonly open = signal<readonly string[]>([]);
  private readonly seen = signal(document.visibilityState === 'visible');
  /** What may have been missed while nobody listened: everybody looks. */
  private readonly again = new Subject<void>();

  constructor() {
    const look = (): void => this.seen.set(document.visibilityState === 'visible');
    document.addEventListener('visibilitychange', look);
    inject(DestroyRef).onDestroy(() => document.removeEventListener('visibilitychange', look));
    effect((clear) => {
      const of = [...new Set(this.open())];
      if (of.length === 0 || !this.seen() || typeof EventSource === 'undefined') return;
      const line = new EventSource(`/api/v1/news/stream?of=${of.sort().join(',')}`);
      line.addEventListener('open', () => this.again.next());
      line.addEventListener('news', ({ data }: MessageEvent<string>) =>
        this.heard.next(JSON.parse(data) as Newer),
      );
      clear(() => line.close());
    });
  }

  /** Tells that a document may have a newer version: its number, or 0 when that is not known. */
  of(kind: string, id: string): Observable<number> {
    const name = `${kind}:${id}`;
    if (TOLD.has(kind)) this.open.update((all) => [...all, name]);
    const versions = new Subject<number>();
    const listening = this.heard
      .pipe(
        filter((newer) => newer.kind === kind && newer.id === id),
        map(({ version }) => version),
      )
      .subscribe(versions);
    listening.add(this.again.subscribe(() => versions.next(0)));
    return versions.pipe(
      finalize(() => {
        listening.unsubscribe();
        this.open.update((all) => all.filter((_, i) => i !== all.indexOf(name)));
      }),
    );
  }
}
