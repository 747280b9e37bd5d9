import { Injectable } from '@angular/core';
import { ask } from '../workers/ask';
import type { MeasureAnswer, MeasureRequest, MeasureWorker } from './messages';

/** Measures, each request in a worker of its own. */
@Injectable()
export class MeasureService {
  measure(request: MeasureRequest): Promise<MeasureAnswer> {
    const worker = new Worker(new URL('./measure.worker', import.meta.url), { type: 'module' });
    return ask<MeasureWorker, MeasureAnswer>(worker, (of) => of.measure(request));
  }
}
