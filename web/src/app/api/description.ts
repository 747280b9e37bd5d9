import { editionOf, type Instrument, type Patch } from '@hurrel/core';
import { answer, type ApiClient } from './client';

/** The description of an instrument that a patch stands on. */
export const descriptionFor = (
  api: ApiClient,
  patch: Pick<Patch, 'instrument' | 'edition'>,
): Promise<Instrument> =>
  answer<Instrument>(
    api.instruments[':id'].$get({
      param: { id: patch.instrument },
      query: { edition: String(editionOf(patch)) },
    }),
  );

/** The newest description of an instrument. */
export const newestDescription = (api: ApiClient, id: string): Promise<Instrument> =>
  answer<Instrument>(api.instruments[':id'].$get({ param: { id }, query: {} }));
