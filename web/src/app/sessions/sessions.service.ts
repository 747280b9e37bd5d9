import { inject, Injectable } from '@angular/core';
import { decodeWav, type Session, type Take } from '@hurrel/core';
import { answer, API, ApiError } from '../api/client';
import { type Page, readAll } from '../api/pages';

/** A session with what the server knows of it. */
export interface StoredSession {
  id: string;
  version: number;
  updatedAt: string;
  session: Session;
}

export interface StoredTake {
  id: string;
  name: string;
  seconds: number;
  /** Bytes. */
  size: number;
}

/** Sessions on the server, and their takes. */
@Injectable({ providedIn: 'root' })
export class SessionsService {
  private readonly api = inject(API);

  all(): Promise<StoredSession[]> {
    return readAll((page) =>
      answer<Page<StoredSession>>(this.api.sessions.$get({ query: { page, size: '200' } })),
    );
  }

  add(session: Session): Promise<StoredSession> {
    return answer<StoredSession>(this.api.sessions.$post({ json: session }));
  }

  async remove({ id, version }: { id: string; version: number }): Promise<void> {
    const header = { 'if-match': `"${version}"` };
    await answer(this.api.sessions[':id'].$delete({ param: { id }, header }));
  }

  /** Takes a removal back. */
  restore(id: string): Promise<StoredSession> {
    return answer<StoredSession>(this.api.sessions[':id'].restore.$post({ param: { id } }));
  }

  async takes(id: string): Promise<StoredTake[]> {
    const { items } = await answer<{ items: StoredTake[] }>(
      this.api.sessions[':id'].takes.$get({ param: { id } }),
    );
    return items;
  }

  addTake(id: string, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<StoredTake> {
    const query = new URLSearchParams({ name: name.slice(0, 80) || 'take' });
    return answer<StoredTake>(
      fetch(`/api/v1/sessions/${id}/takes?${query}`, {
        method: 'POST',
        headers: { 'content-type': 'audio/wav' },
        body: bytes,
      }),
    );
  }

  /** Removes a take for good. */
  async removeTake(id: string, take: string): Promise<void> {
    await answer(this.api.sessions[':id'].takes[':take'].$delete({ param: { id, take } }));
  }

  /** The sound of a take. */
  async take(id: string, take: string): Promise<Take> {
    const response = await fetch(`/api/v1/sessions/${id}/takes/${take}`);
    if (!response.ok) throw new ApiError(response.status, 'The take could not be read.');
    const { channels, sampleRate } = decodeWav(new Uint8Array(await response.arrayBuffer()));
    const [left, right = left] = channels;
    return { sides: [left!, right!], sampleRate };
  }
}
