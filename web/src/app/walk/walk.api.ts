import { inject, InjectionToken } from '@angular/core';
import { type Marks, marksSchema, type Timed, type WalkBefore, type WalkKind } from '@hurrel/core';
import { answer, API } from '../api/client';
import { type Hears, openLine } from './open-line';

/** A going through a set, as the server knows it. */
export interface Walk {
  id: string;
  evening: string;
  kind: WalkKind;
  before: WalkBefore;
  createdAt: string;
  endedAt: string | null;
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
      hear: (id, hears) => openLine(`/api/v1/walks/${encodeURIComponent(id)}/stream`, hears),
    };
  },
});
