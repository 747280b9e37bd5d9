import { inject, Injectable } from '@angular/core';
import type { Unit } from '@hurrel/core';
import { answer, API } from '../api/client';
import { type Page, readAll } from '../api/pages';

/** A unit with what the server knows of it. */
export interface StoredUnit {
  id: string;
  version: number;
  updatedAt: string;
  unit: Unit;
}

/** Units on the server: read, made, changed on top of what was read. */
@Injectable({ providedIn: 'root' })
export class UnitsService {
  private readonly api = inject(API);

  of(instrument?: string): Promise<StoredUnit[]> {
    const own = instrument === undefined ? {} : { instrument };
    return readAll((page) =>
      answer<Page<StoredUnit>>(this.api.units.$get({ query: { ...own, page, size: '200' } })),
    );
  }

  add(unit: Unit): Promise<StoredUnit> {
    return answer<StoredUnit>(this.api.units.$post({ json: unit }));
  }

  async remove({ id, version }: { id: string; version: number }): Promise<void> {
    const header = { 'if-match': `"${version}"` };
    await answer(this.api.units[':id'].$delete({ param: { id }, header }));
  }

  /** Takes a removal back. */
  restore(id: string): Promise<StoredUnit> {
    return answer<StoredUnit>(this.api.units[':id'].restore.$post({ param: { id } }));
  }
}
