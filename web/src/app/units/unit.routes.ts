import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import { shownEffects, shownFeature } from '../shown/shown.document';
import { unitEffects, unitFeature } from './unit.document';
import { UnitPage } from './unit-page';

export const unitRoutes: Routes = [
  {
    path: '',
    component: UnitPage,
    providers: [
      provideState(unitFeature),
      provideState(shownFeature),
      provideEffects(unitEffects, shownEffects),
    ],
  },
];
