import { Injectable } from '@angular/core';
import { ask } from '../workers/ask';
import type { MatchRequest, MatchWorker } from './messages';
import { startWorker } from '../workers/start';

type Loudness = Awaited<ReturnType<MatchWorker['loudness']>>;

/** dB by which a sound may be made louder at most. */
const MOST = 24;

/** Makes two sounds equally loud, so that the louder one does not win by that alone. */
@Injectable({ providedIn: 'root' })
export class MatchService {
  /** Gain for the second sound, and by how many LU it differs. */
  async match(request: MatchRequest): Promise<{ gain: number; difference: number }> {
    const worker = startWorker('match');
    const { first, second } = await ask<MatchWorker, Loudness>(worker, (of) =>
      of.loudness(request),
    );
    const difference = second - first;
    const db = Math.max(-MOST, Math.min(MOST, -difference));
    return { gain: 10 ** (db / 20), difference };
  }
}
