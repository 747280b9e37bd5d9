import { Piscina } from 'piscina';
import type { Instrument, Patch, TimedNote, WavFormat } from '@hurrel/core';
import { Problem } from '../problem';

export interface RenderJob {
  instrument: Instrument;
  patch: Patch;
  notes: TimedNote[];
  seconds: number;
  sampleRate: number;
  format: WavFormat;
  seed: number;
}

/** Renders beside the server's own thread, so that a long rendering holds nobody up. */
export interface Renderer {
  wav(job: RenderJob): Promise<Uint8Array>;
  close(): Promise<void>;
}

const WAITING = 64;

/** @param worker file URL of the built render worker */
export function createRenderer(worker: URL): Renderer {
  const pool = new Piscina({
    filename: worker.href,
    minThreads: 0,
    maxThreads: 1,
    maxQueue: WAITING,
  });
  return {
    async wav(job) {
      try {
        return (await pool.run(job)) as Uint8Array;
      } catch (error) {
        if (error instanceof Error && /queue/i.test(error.message)) {
          throw new Problem(
            429,
            'Busy',
            `${WAITING} renderings are waiting already: try again shortly.`,
          );
        }
        throw error;
      }
    },
    close: () => pool.destroy(),
  };
}
