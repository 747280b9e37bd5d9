import { Injectable, signal } from '@angular/core';

/** A document that a page of this tab has open. */
export interface OpenOne {
  kind: string;
  id: () => string | null;
  /** What it is now, with all edits; null while it is being read. */
  present: () => unknown;
  /** Whether there is something that the server does not hold. */
  dirty: () => boolean;
}

/** What is open in this tab. */
@Injectable({ providedIn: 'root' })
export class OpenDocuments {
  private readonly list = signal<readonly OpenOne[]>([]);
  readonly all = this.list.asReadonly();

  add(one: OpenOne): () => void {
    this.list.update((all) => [...all, one]);
    return () => this.list.update((all) => all.filter((o) => o !== one));
  }

  has(kind: string, id: string): boolean {
    return this.list().some((o) => o.kind === kind && o.id() === id);
  }
}
