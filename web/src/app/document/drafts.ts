import { inject, Injectable, signal } from '@angular/core';
import equal from 'fast-deep-equal';
import type { Draft } from './document';
import { OnDisk } from '../api/on-disk';
import { Tab } from './tab';

const PREFIX = 'hurrel.draft.';
/** Where the browser does not tell which tabs live: one that has kept nothing for so long is taken for gone. */
const GONE_MS = 60_000;

/** A document that has a draft on this device. */
export interface Waiting {
  kind: string;
  id: string;
  name: string;
}

/** What is kept: a draft, and when. */
interface Kept {
  version: number;
  document: unknown;
  at: number;
}

/**
 * Edits that the server has not acknowledged, kept on this device so that a closed tab loses nothing. Each tab has drafts of
 * its own: two tabs on one document never write over each other's. What a tab left behind is taken up by the next one that
 * opens the document.
 */
@Injectable({ providedIn: 'root' })
export class Drafts {
  private readonly tab = inject(Tab);
  private readonly disk = inject(OnDisk);
  /** Whether this browser would not keep the last draft. */
  readonly refused = signal(false);
  /** All that is kept here, of whatever kind and tab. */
  readonly waiting = signal<readonly Waiting[]>([]);

  /** Keeps a draft; false when this device's store is full or forbidden. */
  keep<D>(kind: string, id: string, draft: Draft<D>): boolean {
    const kept: Kept = { ...draft, at: Date.now() };
    try {
      this.disk.put(this.keyOf(kind, id), JSON.stringify(kept));
      this.refused.set(false);
    } catch {
      this.refused.set(true);
    }
    this.look();
    return !this.refused();
  }

  /** Forgets this tab's draft; with a document only when it is that which is kept. */
  drop(kind: string, id: string, document?: unknown): void {
    const key = this.keyOf(kind, id);
    if (document !== undefined && !equal(read(key)?.document, document)) return;
    this.disk.remove(key);
    // Once the server holds what this browser would not, nothing can be lost any more.
    this.refused.set(false);
    this.look();
  }

  /** Looks through what is kept. */
  look(): void {
    const found = new Map<string, Waiting>();
    for (const key of Object.keys(localStorage)) {
      const [, kind, id] = /^hurrel\.draft\.([a-z]+)\.(.+)\.[^.]+$/.exec(key) ?? [];
      if (kind === undefined || id === undefined) continue;
      const named = read(key)?.document as { name?: unknown } | undefined;
      const name = typeof named?.name === 'string' ? named.name : kind;
      found.set(`${kind}.${id}`, { kind, id, name });
    }
    const same = equal([...found.values()], this.waiting());
    if (!same) this.waiting.set([...found.values()]);
  }

  /** This tab's draft of a document, else one that a tab left behind, which becomes this tab's; undefined when there is none. */
  async find<D>(
    kind: string,
    id: string,
    parse: (source: unknown) => D,
  ): Promise<Draft<D> | undefined> {
    await this.disk.ready;
    const living = await this.tab.living();
    const own = this.keyOf(kind, id);
    const start = `${PREFIX}${kind}.${id}.`;
    const left = Object.keys(localStorage)
      .filter((key) => key.startsWith(start) && key !== own)
      .map((key) => ({ key, tab: key.slice(start.length), at: read(key)?.at ?? 0 }))
      .filter(({ tab, at }) => (living ? !living.has(tab) : Date.now() - at > GONE_MS))
      .sort((a, b) => b.at - a.at);
    for (const key of [own, ...left.map((l) => l.key)]) {
      const draft = readable(key, parse);
      if (!draft) continue;
      if (key !== own && this.keep(kind, id, draft)) this.disk.remove(key);
      return draft;
    }
    return undefined;
  }

  private keyOf(kind: string, id: string): string {
    return `${PREFIX}${kind}.${id}.${this.tab.id}`;
  }
}

function read(key: string): Kept | undefined {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? 'null') as Kept | null) ?? undefined;
  } catch {
    return undefined;
  }
}

/** A draft as its kind reads it. What cannot be read stays where it is: a newer Hurrel may know it. */
function readable<D>(key: string, parse: (source: unknown) => D): Draft<D> | undefined {
  const kept = read(key);
  if (!kept) return undefined;
  try {
    return { version: Number(kept.version), document: parse(kept.document) };
  } catch {
    return undefined;
  }
}
