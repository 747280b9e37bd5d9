import { Injectable } from '@angular/core';
import type { MeasuredValue } from '@hurrel/core';
import { ask } from '../workers/ask';
import type { MeasureAnswer, MeasureRequest, MeasureWorker, ValueRequest } from './messages';
import { startWorker } from '../workers/start';

/** Measures, each request in a worker of its own. */
@Injectable()
export class MeasureService {
  measure(request: MeasureRequest): Promise<MeasureAnswer> {
    const worker = startWorker('measure');
    return ask<MeasureWorker, MeasureAnswer>(worker, (of) => of.measure(request));
  }

  /** Reads one value off a recording. */
  value(request: ValueRequest): Promise<MeasuredValue> {
    const worker = startWorker('measure');
    return ask<MeasureWorker, MeasuredValue>(worker, (of) => of.value(request));
  }
}
