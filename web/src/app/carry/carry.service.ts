import { inject, Injectable } from '@angular/core';
import type { Carried, CarryAnswers } from '@hurrel/core';
import { answer, API } from '../api/client';

/** A patch in the version that was read. */
export interface Read {
  id: string;
  version: number;
}

/** A patch that stands on an older description of its instrument. */
export interface Behind extends Read {
  name: string;
  song: string;
  edition: number;
}

/** What becomes of a patch. */
export interface CarriedPatch extends Read {
  name: string;
  items: Carried[];
  open: string[];
}

/** Patches that are sent at a time: the bar moves, and others are answered in between. */
const LOT = 50;

/** Told after each lot; true: go no further. */
export type Progress = (done: number) => boolean;

/** Carries patches over to the newest description of their instrument, and back. */
@Injectable({ providedIn: 'root' })
export class CarryService {
  private readonly api = inject(API);

  async behind(instrument: string): Promise<Behind[]> {
    const request = this.api.instruments[':id'].behind.$get({ param: { id: instrument } });
    return (await answer<{ items: Behind[] }>(request)).items;
  }

  /** What would become of them; nothing is stored. */
  look(instrument: string, patches: readonly Read[], answers: CarryAnswers, progress: Progress) {
    return inLots(patches, progress, (lot) => this.send(instrument, lot, answers, true));
  }

  carry(instrument: string, patches: readonly Read[], answers: CarryAnswers, progress: Progress) {
    return inLots(patches, progress, (lot) => this.send(instrument, lot, answers, false));
  }

  back(patches: readonly Read[]): Promise<Read[]> {
    return inLots(
      patches,
      () => false,
      async (lot) => {
        const json = { patches: lot.map(({ id, version }) => ({ id, version })) };
        const request = this.api.patches.carried.back.$post({ json });
        return (await answer<{ items: Read[] }>(request)).items;
      },
    );
  }

  private async send(
    instrument: string,
    lot: readonly Read[],
    answers: CarryAnswers,
    look: boolean,
  ): Promise<CarriedPatch[]> {
    const patches = lot.map(({ id, version }) => ({ id, version }));
    const request = this.api.instruments[':id'].carry.$post({
      param: { id: instrument },
      json: { patches, answers: { ...answers }, look },
    });
    return (await answer<{ items: CarriedPatch[] }>(request)).items;
  }
}

async function inLots<T, R>(
  all: readonly T[],
  progress: Progress,
  send: (lot: readonly T[]) => Promise<R[]>,
): Promise<R[]> {
  const done: R[] = [];
  for (let at = 0; at < all.length; at += LOT) {
    if (progress(at)) return done;
    done.push(...(await send(all.slice(at, at + LOT))));
  }
  progress(all.length);
  return done;
}
