import { inject, Injectable } from '@angular/core';
import type { Unit } from '@hurrel/core';
import { answer, API } from '../api/client';

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

  async of(instrument?: string): Promise<StoredUnit[]> {
    const query = instrument === undefined ? {} : { instrument };
    const { items } = await answer<{ items: StoredUnit[] }>(this.api.units.$get({ query }));
    return items;
  }

  get(id: string): Promise<StoredUnit> {
    return answer<StoredUnit>(this.api.units[':id'].$get({ param: { id } }));
  }

  add(unit: Unit): Promise<StoredUnit> {
    return answer<StoredUnit>(this.api.units.$post({ json: unit }));
  }

  save({ id, version }: StoredUnit, unit: Unit): Promise<StoredUnit> {
    return answer<StoredUnit>(
      this.api.units[':id'].$put({
        param: { id },
        header: { 'if-match': `"${version}"` },
        json: unit,
      }),
    );
  }

  async remove({ id, version }: StoredUnit): Promise<void> {
    const request = this.api.units[':id'].$delete({
      param: { id },
      header: { 'if-match': `"${version}"` },
    });
    const response = await request;
    if (!response.ok) await answer(Promise.resolve(response));
  }
}
