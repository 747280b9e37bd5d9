import { inject, Injectable, signal } from '@angular/core';
import { answer, API, ApiError } from '../api/client';

export type Standing = 'new' | 'same' | 'conflict' | 'removed';
export type Decision = 'mine' | 'theirs' | 'both' | 'merged' | 'out';

/** One line of what a file brings. */
export interface Looked {
  key: string;
  kind: 'instrument' | 'unit' | 'patch' | 'session' | 'evening';
  id: string;
  name: string;
  standing: Standing;
  /** Its differences can be taken one by one. */
  mergeable: boolean;
  differences: { pointer: string; subject: string; before: string; after: string }[];
}

export interface Opened {
  token: string;
  /** It is a whole library: it can also be put in the place of what is here. */
  library: boolean;
  items: Looked[];
}

/** Time between two looks at how far the server has come. */
const POLL_MS = 300;

/** Files of documents: sent to be looked at, and taken in as was decided. */
@Injectable({ providedIn: 'root' })
export class ParcelsService {
  private readonly api = inject(API);
  /** A file that was dropped somewhere, until the page of files takes it. */
  readonly offered = signal<File | null>(null);

  /** @param sent share of the file that is under way, 0 to 1 */
  async look(file: File, sent: (share: number) => void, stop: AbortSignal): Promise<Opened> {
    // fetch tells nothing of what it has sent.
    const request = new XMLHttpRequest();
    return new Promise((done, fail) => {
      request.open('POST', '/api/v1/parcels');
      request.setRequestHeader('content-type', 'application/octet-stream');
      request.responseType = 'json';
      request.upload.onprogress = (e) => sent(e.total > 0 ? e.loaded / e.total : 1);
      request.onload = () => {
        const body = request.response as (Opened & { detail?: string }) | null;
        if (request.status === 200 && body) done(body);
        else
          fail(
            new ApiError(request.status, body?.detail ?? `The server answered ${request.status}.`),
          );
      };
      request.onerror = () => fail(new ApiError(0, 'The server does not answer.'));
      request.onabort = () => fail(new ApiError(0, 'Stopped: nothing was stored.'));
      stop.addEventListener('abort', () => request.abort());
      request.send(file);
    });
  }

  async takeIn(
    token: string,
    decisions: Record<string, Decision>,
    picks: Record<string, string[]>,
    progress: (done: number, total: number) => void,
  ): Promise<{ stored: number; shortened: string[] }> {
    const one = this.api.parcels[':token'];
    const timer = setInterval(() => {
      answer<{ done: number; total: number }>(one.$get({ param: { token } })).then(
        ({ done, total }) => progress(done, total),
        () => undefined,
      );
    }, POLL_MS);
    try {
      return await answer(one.$post({ param: { token }, json: { decisions, picks } }));
    } finally {
      clearInterval(timer);
    }
  }

  /** Puts the library that was sent in the place of what is here. @returns where the copy is that was made of it first */
  putInPlace(token: string): Promise<{ copy: string }> {
    return answer(this.api.parcels[':token'].library.$post({ param: { token } }));
  }

  async drop(token: string): Promise<void> {
    await answer(this.api.parcels[':token'].$delete({ param: { token } }));
  }
}
