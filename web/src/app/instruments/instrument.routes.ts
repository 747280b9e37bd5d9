import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import { instrumentEffects, instrumentFeature } from './instrument.document';
import { InstrumentPage } from './instrument-page';

export const instrumentRoutes: Routes = [
  {
    path: '',
    component: InstrumentPage,
    providers: [provideState(instrumentFeature), provideEffects(instrumentEffects)],
  },
];
