import { Injectable } from '@angular/core';
import type { MeasureAnswer, MeasureRequest } from './messages';

/** Measures in a worker; a new request takes the place of one that is still under way. */
@Injectable()
export class MeasureService {
  private worker: Worker | null = null;

  measure(request: MeasureRequest): Promise<MeasureAnswer> {
    this.worker?.terminate();
    const worker = new Worker(new URL('./measure.worker', import.meta.url), { type: 'module' });
    this.worker = worker;
    return new Promise((done, failed) => {
      worker.onmessage = ({ data }: MessageEvent<MeasureAnswer>) => {
        worker.terminate();
        done(data);
      };
      worker.onerror = (event) => failed(new Error(event.message));
      worker.postMessage(request);
    });
  }
}
