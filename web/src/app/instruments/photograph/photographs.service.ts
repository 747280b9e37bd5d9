import { Injectable } from '@angular/core';
import type { Photograph } from '@hurrel/core';
import { answer, ApiError } from '../../api/client';
import { ask } from '../../workers/ask';
import type { StraightenWorker } from './straighten.job';
import { startWorker } from '../../workers/start';

/** Points of a straightened picture for each unit of its panel, and in all. */
const FINE = 1.5;
const MOST = 2_500_000;

/** Photographs of panels: sent, fetched, and seen from straight in front. */
@Injectable({ providedIn: 'root' })
export class PhotographsService {
  async send(file: File): Promise<{ id: string; width: number; height: number }> {
    const response = await fetch('/api/v1/photographs', {
      method: 'POST',
      headers: { 'content-type': file.type || 'image/jpeg' },
      body: file,
    }).catch(() => {
      throw new ApiError(0, 'The server does not answer: the photograph was not sent.');
    });
    return answer(Promise.resolve(response));
  }

  urlOf(id: string): string {
    return `/api/v1/photographs/${id}`;
  }

  /** The panel in a photograph, seen from in front, as large as its sheet needs. */
  async straight({ id, corners, width, height }: Photograph, stop: AbortSignal): Promise<Blob> {
    const response = await fetch(this.urlOf(id), { signal: stop });
    if (!response.ok) throw new ApiError(response.status, 'The photograph is not there any more.');
    const picture = await response.blob();
    const fine = Math.min(FINE, Math.sqrt(MOST / (width * height)));
    const worker = startWorker('straighten');
    return ask<StraightenWorker, Blob>(
      worker,
      (of) => of.straight(picture, corners, Math.round(width * fine), Math.round(height * fine)),
      stop,
    );
  }
}
