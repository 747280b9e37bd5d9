import { inject } from '@angular/core';
import { answer, API } from '../api/client';

export type DocumentName = 'patch' | 'unit' | 'session' | 'evening' | 'instrument';

/** What is known of a version. */
export interface VersionItem {
  number: number;
  origin: string;
  createdAt: string;
  /** What somebody called it; empty: nothing. */
  name: string;
}

/** A document as it is answered: with its version, and under its kind's own name. */
export type Answered = { id: string; version: number; updatedAt: string } & Partial<
  Record<DocumentName, unknown>
>;

/** The versions of one document, over HTTP; every kind answers alike. In an injection context. */
export function versionsApi(kind: DocumentName, id: () => string) {
  const api = inject(API);
  // Their types differ in the document alone, which is read as what it is by whoever knows the kind.
  const one = {
    patch: api.patches[':id'],
    unit: api.units[':id'],
    session: api.sessions[':id'],
    evening: api.evenings[':id'],
    instrument: api.instruments[':id'],
  }[kind] as unknown as (typeof api.patches)[':id'];
  const of = (number: number) => ({ param: { id: id(), number: String(number) } });
  return {
    list: (page: number, size: number) =>
      answer<{ items: VersionItem[]; total: number }>(
        one.versions.$get({
          param: { id: id() },
          query: { page: String(page), size: String(size) },
        }),
      ),
    read: (number: number) => answer<Answered>(one.versions[':number'].$get(of(number))),
    goBack: (number: number, from: number) =>
      answer<Answered>(
        one.versions[':number'].restore.$post({
          ...of(number),
          header: { 'if-match': `"${from}"` },
        }),
      ),
    call: (number: number, name: string) =>
      answer<{ name: string }>(
        one.versions[':number'].name.$put({ ...of(number), json: { name } }),
      ),
  };
}
export type VersionsApi = ReturnType<typeof versionsApi>;
