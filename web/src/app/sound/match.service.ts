import { Injectable } from '@angular/core';
import { ask } from '../workers/ask';
import type { MatchRequest, MatchWorker } from './messages';
import { startWorker } from '../workers/start';

type Loudness = Awaited<ReturnType<MatchWorker['loudness']>>;

/** dB by which a sound may be made louder at most. */
const MOST = 24;
/** LU from which a difference is told. */
const HEARD = 1;

export interface Matched {
  gain: number;
  difference: number;
  /** The key at which they differ most once they are made equal, and by how many LU the second is louder; null: none. */
  remains: { note: number; difference: number } | null;
}

/** Makes two sounds equally loud, so that the louder one does not win by that alone. */
@Injectable({ providedIn: 'root' })
export class MatchService {
  /**
   * Gain that makes the second sound as loud as the first while the phrase is played, by how many LU it differs by nature, and
   * what remains where a single key is struck.
   */
  async match(request: MatchRequest): Promise<Matched> {
    const worker = startWorker('match');
    const { first, second, keys } = await ask<MatchWorker, Loudness>(worker, (of) =>
      of.loudness(request),
    );
    const difference = second - first;
    const db = Math.max(-MOST, Math.min(MOST, -difference));
    const left = keys.map((key) => ({ ...key, difference: key.difference + db }));
    const most = left.toSorted((a, b) => Math.abs(b.difference) - Math.abs(a.difference))[0];
    const remains = most && Math.abs(most.difference) >= HEARD ? most : null;
    return { gain: 10 ** (db / 20), difference, remains };
  }
}
