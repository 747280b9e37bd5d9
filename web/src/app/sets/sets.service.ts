import { inject, Injectable } from '@angular/core';
import type { Evening } from '@hurrel/core';
import { answer, API } from '../api/client';
import { type Page, readAll } from '../api/pages';

/** A set with what the server knows of it. */
export interface StoredEvening {
  id: string;
  version: number;
  updatedAt: string;
  evening: Evening;
}

/** A sheet of something that a set plays, and where it is printed. */
export interface SetSheet {
  url: string;
  patch: string;
  variation: string | undefined;
  panel: string;
}

/**
 * The sheets of all that a set plays, each once: from every control at rest, in the readings of the unit that its panel is.
 *
 * @param units that are known; one that is gone is taken at its printed dials
 */
export function sheetsOf(
  { songs, panels }: Pick<Evening, 'songs' | 'panels'>,
  units: Readonly<Record<string, unknown>>,
): SetSheet[] {
  const sheets = songs
    .flatMap((s) => s.plays)
    .map(({ patch, variation, panel }) => {
      const unit = panels.find((p) => p.id === panel)?.unit;
      const query = new URLSearchParams({
        from: 'start',
        ...(variation ? { variation } : {}),
        ...(unit === undefined ? {} : { unit: unit in units ? unit : 'printed' }),
      });
      return { url: `/api/v1/patches/${patch}/sheet.pdf?${query}`, patch, variation, panel };
    });
  return sheets.filter((s, i) => sheets.findIndex((other) => other.url === s.url) === i);
}

/** Where the booklet of a set is printed. */
export const bookletOf = (set: string): string => `/api/v1/evenings/${set}/booklet.pdf`;

/** Sets on the server. */
@Injectable({ providedIn: 'root' })
export class SetsService {
  private readonly api = inject(API);

  all(): Promise<StoredEvening[]> {
    return readAll((page) =>
      answer<Page<StoredEvening>>(this.api.evenings.$get({ query: { page, size: '200' } })),
    );
  }

  add(evening: Evening): Promise<StoredEvening> {
    return answer<StoredEvening>(this.api.evenings.$post({ json: evening }));
  }

  async remove({ id, version }: { id: string; version: number }): Promise<void> {
    const header = { 'if-match': `"${version}"` };
    await answer(this.api.evenings[':id'].$delete({ param: { id }, header }));
  }

  /** Takes a removal back. */
  restore(id: string): Promise<StoredEvening> {
    return answer<StoredEvening>(this.api.evenings[':id'].restore.$post({ param: { id } }));
  }
}
