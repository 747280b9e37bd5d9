import { inject, Injectable } from '@angular/core';
import {
  idFrom,
  type Instrument,
  instrumentOf,
  outlineOf,
  readOutline,
  type Skeleton,
  writeOutline,
} from '@hurrel/core';
import { answer, ApiError, API, type InstrumentSummary } from '../api/client';
import { newestDescription } from '../api/description';

/** Ids that are tried when one is taken. */
const TRIES = 20;

/** Instruments on the server. */
@Injectable({ providedIn: 'root' })
export class InstrumentsService {
  private readonly api = inject(API);

  async list(): Promise<InstrumentSummary[]> {
    const { items } = await answer<{ items: InstrumentSummary[] }>(this.api.instruments.$get());
    return items.sort((a, b) => `${a.maker} ${a.name}`.localeCompare(`${b.maker} ${b.name}`));
  }

  get(id: string): Promise<Instrument> {
    return newestDescription(this.api, id);
  }

  async putAway(id: string, away: boolean): Promise<void> {
    await answer(this.api.instruments[':id'].away.$put({ param: { id }, json: { away } }));
  }

  /** Refused as long as something stands on it. */
  async remove(id: string, version: number): Promise<void> {
    const header = { 'if-match': `"${version}"` };
    await answer(this.api.instruments[':id'].$delete({ param: { id }, header }));
  }

  async restore(id: string): Promise<void> {
    await answer(this.api.instruments[':id'].restore.$post({ param: { id } }));
  }

  async skeletons(): Promise<Skeleton[]> {
    return (await answer<{ items: Skeleton[] }>(this.api.skeletons.$get())).items;
  }

  /** A blank sheet with a name on it; its id is made of the words, with a number where it is taken. */
  begin(name: string, maker: string): Promise<Instrument> {
    const text = `${name}${maker === '' ? '' : ` by ${maker}`}\n\n`;
    return this.add(instrumentOf(readOutline(text).outline, text));
  }

  /** The same under another name, in words: to be changed. A cabinet has no words, and stays as it is. */
  copy(instrument: Instrument): Promise<Instrument> {
    const name = `${instrument.name.slice(0, 70)} copy`;
    const copy = { ...instrument, name, id: idFrom(`${instrument.maker} ${name}`) };
    return this.add({ ...copy, outline: writeOutline(outlineOf(copy)) });
  }

  /** Stores an instrument under its id, or the first with a number behind it that is free. */
  async add(instrument: Instrument): Promise<Instrument> {
    for (let n = 1; ; n++) {
      const id = n === 1 ? instrument.id : `${instrument.id.slice(0, 44)}-${n}`;
      try {
        const request = this.api.instruments.$post({ json: { ...instrument, id } });
        return await answer<Instrument>(request);
      } catch (error) {
        const taken = error instanceof ApiError && error.status === 409;
        if (!taken || n === TRIES) throw error;
      }
    }
  }
}
