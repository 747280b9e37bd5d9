import { type Marks, marksSchema } from '@hurrel/core';

/** What one is told on an open line. */
export interface Hears {
  open(): void;
  news(marks: Marks): void;
  lost(): void;
}

/** Ms until a line that broke off is opened anew. */
const AGAIN_MS = 2000;
/** Ms without a sign of life after which a line is taken for dead; the server gives one every five seconds. */
const SILENT_MS = 12_000;

/**
 * An open line that notices when nobody is at its other end: a network that is gone says nothing by itself. A page that nobody
 * sees hangs up, as a browser keeps only six lines to one server, and opens it again when it is seen.
 *
 * @returns hangs up
 */
export function openLine(url: string, hears: Hears): () => void {
  let source: EventSource | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const lost = (): void => {
    source?.close();
    source = undefined;
    clearTimeout(timer);
    hears.lost();
  };
  const again = (ms: number): void => {
    lost();
    if (!document.hidden) timer = setTimeout(open, ms);
  };
  const alive = (): void => {
    clearTimeout(timer);
    timer = setTimeout(() => again(0), SILENT_MS);
  };
  const open = (): void => {
    source?.close();
    if (document.hidden) return;
    source = new EventSource(url);
    alive();
    source.addEventListener('open', () => (alive(), hears.open()));
    source.addEventListener('beat', alive);
    source.addEventListener('marks', (event) => {
      alive();
      const read = marksSchema.safeParse(JSON.parse((event as MessageEvent<string>).data));
      if (read.success) hears.news(read.data);
    });
    source.addEventListener('error', () => again(AGAIN_MS));
  };
  const offline = (): void => again(AGAIN_MS);
  const seen = (): void => (document.hidden ? lost() : open());
  addEventListener('offline', offline);
  addEventListener('online', open);
  document.addEventListener('visibilitychange', seen);
  open();
  return () => {
    removeEventListener('offline', offline);
    removeEventListener('online', open);
    document.removeEventListener('visibilitychange', seen);
    clearTimeout(timer);
    source?.close();
  };
}
