import { Injectable } from '@angular/core';
import { answer, ApiError } from '../api/client';

/** Recordings that patches are fed with. */
@Injectable({ providedIn: 'root' })
export class SoundsService {
  /** Sends a WAV file. @returns the checksum under which it is kept */
  async send(file: Blob): Promise<{ id: string; seconds: number }> {
    const response = await fetch('/api/v1/sounds', {
      method: 'POST',
      headers: { 'content-type': 'audio/wav' },
      body: file,
    }).catch(() => {
      throw new ApiError(0, 'The server does not answer: the recording was not sent.');
    });
    return answer(Promise.resolve(response));
  }
}
