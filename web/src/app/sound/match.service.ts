import { Injectable } from '@angular/core';
import type { MatchAnswer, MatchRequest } from './messages';

/** dB by which a sound may be made louder at most. */
const MOST = 24;

/** Makes two sounds equally loud, so that the louder one does not win by that alone. */
@Injectable({ providedIn: 'root' })
export class MatchService {
  /** Gain for the second sound, and by how many LU it differs. */
  async match(request: MatchRequest): Promise<{ gain: number; difference: number }> {
    const worker = new Worker(new URL('./match.worker', import.meta.url), { type: 'module' });
    try {
      const { first, second } = await new Promise<MatchAnswer>((done, failed) => {
        worker.onmessage = ({ data }: MessageEvent<MatchAnswer>) => done(data);
        worker.onerror = (event) => failed(new Error(event.message));
        worker.postMessage(request);
      });
      const difference = second - first;
      const db = Math.max(-MOST, Math.min(MOST, -difference));
      return { gain: 10 ** (db / 20), difference };
    } finally {
      worker.terminate();
    }
  }
}
