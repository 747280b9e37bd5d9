import { Injectable } from '@angular/core';
import type { MeasureAnswer, MeasureRequest } from './messages';

/** Measures, each request in a worker of its own. */
@Injectable()
export class MeasureService {
  async measure(request: MeasureRequest): Promise<MeasureAnswer> {
    const worker = new Worker(new URL('./measure.worker', import.meta.url), { type: 'module' });
    try {
      return await new Promise<MeasureAnswer>((done, failed) => {
        worker.onmessage = ({ data }: MessageEvent<MeasureAnswer>) => done(data);
        worker.onerror = (event) => failed(new Error(event.message));
        worker.postMessage(request);
      });
    } finally {
      worker.terminate();
    }
  }
}
