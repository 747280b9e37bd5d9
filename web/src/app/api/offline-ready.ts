import { DestroyRef, effect, inject, Injectable, signal } from '@angular/core';
import { readSoFar } from './last-read';

/** What the service worker was built to keep, as its own list says. */
interface Manifest {
  hashTable: Record<string, string>;
  dataGroups: { patterns: string[] }[];
}

/** How long between two looks at what is kept, in ms. */
const LOOK_MS = 500;

/**
 * Whether this device could open again what it shows with no server: the whole application is kept, and so is all that was
 * read. What was read before the service worker ruled went past it, and is read once more.
 */
@Injectable({ providedIn: 'root' })
export class OfflineReady {
  /** Looked for in what is kept, never assumed. */
  readonly ready = signal(false);
  private readonly wanted = signal(0);

  constructor() {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async (): Promise<void> => {
      const kept = this.ready() || (await everythingKept().catch(() => false));
      this.ready.set(kept);
      const mayBe = 'serviceWorker' in navigator;
      if (!kept && mayBe && this.wanted() > 0) timer = setTimeout(() => void look(), LOOK_MS);
    };
    effect((onCleanup) => {
      if (this.wanted() === 0) return;
      void look();
      onCleanup(() => clearTimeout(timer));
    });
  }

  /** Looks as long as whoever calls it is there. */
  watch(): void {
    this.wanted.update((n) => n + 1);
    inject(DestroyRef).onDestroy(() => this.wanted.update((n) => n - 1));
  }
}

/** The service worker ruled when this page was loaded, and so gave all that it is made of. */
const ruledFromTheStart =
  'serviceWorker' in navigator && navigator.serviceWorker.controller !== null;

async function readManifest(): Promise<Manifest | null> {
  try {
    return (await (await fetch('/ngsw.json?ngsw-bypass')).json()) as Manifest;
  } catch {
    return null;
  }
}

async function everythingKept(): Promise<boolean> {
  if (!navigator.serviceWorker?.controller) return false;
  const manifest = await readManifest();
  // With no server: what is shown came from what is kept, if the page began so.
  if (!manifest) return ruledFromTheStart;
  const files = [...Object.keys(manifest.hashTable), '/index.html'];
  const missing = await Promise.all(files.map(async (url) => !(await caches.match(url))));
  if (missing.includes(true)) return false;
  const patterns = manifest.dataGroups.flatMap((g) => g.patterns.map((p) => new RegExp(`^${p}$`)));
  const reads = [...readSoFar].filter((url) => patterns.some((p) => p.test(url)));
  for (const url of reads) {
    if (await caches.match(url)) continue;
    const answer = await fetch(url);
    // What there is none of any more need not be kept.
    if (answer.ok && !(await caches.match(url))) return false;
  }
  return true;
}
