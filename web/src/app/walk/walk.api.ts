import { inject, InjectionToken } from '@angular/core';
import { type Marks, marksSchema, type Timed, type WalkBefore, type WalkKind } from '@hurrel/core';
import { answer, API } from '../api/client';

/** A going through a set, as the server knows it. */
export interface Walk {
  id: string;
  evening: string;
  kind: WalkKind;
  before: WalkBefore;
  createdAt: string;
  endedAt: string | null;
}

/** What one is told on an open line. */
export interface Hears {
  open(): void;
  news(marks: Marks): void;
  lost(): void;
}

/** Walks on the server. */
export interface WalkApi {
  of(evening: string): Promise<Walk[]>;
  begin(evening: string, kind: WalkKind, before: WalkBefore): Promise<Walk>;
  end(id: string): Promise<Walk>;
  read(id: string): Promise<{ walk: Walk; marks: Marks }>;
  /** @returns how the same things stand there now */
  send(id: string, marks: Marks): Promise<Marks>;
  timed(evening: string): Promise<Timed[]>;
  /** @returns hangs up */
  hear(id: string, hears: Hears): () => void;
}

/** Ms until a line that broke off is opened anew. */
const AGAIN_MS = 2000;

export const WALK_API = new InjectionToken<WalkApi>('walks', {
  providedIn: 'root',
  factory: () => {
    const api = inject(API);
    return {
      async of(id) {
        const walks = api.evenings[':id'].walks.$get({ param: { id } });
        return (await answer<{ items: Walk[] }>(walks)).items;
      },
      async begin(id, kind, before) {
        const json = { kind, before } as never;
        const begun = api.evenings[':id'].walks.$post({ param: { id }, json });
        return (await answer<{ walk: Walk }>(begun)).walk;
      },
      async end(id) {
        const ended = api.walks[':id'].end.$post({ param: { id } });
        return (await answer<{ walk: Walk }>(ended)).walk;
      },
      async read(id) {
        const read = await answer<{ walk: Walk; marks: unknown }>(
          api.walks[':id'].$get({ param: { id } }),
        );
        return { walk: read.walk, marks: marksSchema.parse(read.marks) };
      },
      async send(id, marks) {
        const sent = api.walks[':id'].marks.$post({ param: { id }, json: { marks } });
        return marksSchema.parse((await answer<{ marks: unknown }>(sent)).marks);
      },
      async timed(id) {
        const read = api.evenings[':id'].timed.$get({ param: { id } });
        return (await answer<{ items: Timed[] }>(read)).items;
      },
      hear: (id, hears) => listen(`/api/v1/walks/${encodeURIComponent(id)}/stream`, hears),
    };
  },
});

/** Ms without a sign of life after which a line is taken for dead; the server gives one every five seconds. */
const SILENT_MS = 12_000;

/** An open line that notices when nobody is at its other end: a network that is gone says nothing by itself. */
function listen(url: string, hears: Hears): () => void {
  let source: EventSource | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const lost = (ms: number): void => {
    source?.close();
    clearTimeout(timer);
    hears.lost();
    timer = setTimeout(open, ms);
  };
  const alive = (): void => {
    clearTimeout(timer);
    timer = setTimeout(() => lost(0), SILENT_MS);
  };
  const open = (): void => {
    source?.close();
    source = new EventSource(url);
    alive();
    source.addEventListener('open', () => (alive(), hears.open()));
    source.addEventListener('beat', alive);
    source.addEventListener('marks', (event) => {
      alive();
      const read = marksSchema.safeParse(JSON.parse((event as MessageEvent<string>).data));
      if (read.success) hears.news(read.data);
    });
    source.addEventListener('error', () => lost(AGAIN_MS));
  };
  const offline = (): void => lost(AGAIN_MS);
  addEventListener('offline', offline);
  addEventListener('online', open);
  open();
  return () => {
    removeEventListener('offline', offline);
    removeEventListener('online', open);
    clearTimeout(timer);
    source?.close();
  };
}
