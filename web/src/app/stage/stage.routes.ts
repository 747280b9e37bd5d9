import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import { eveningEffects, eveningFeature } from '../sets/evening.document';
import { StagePage } from './stage-page';

export const stageRoutes: Routes = [
  {
    path: '',
    component: StagePage,
    providers: [provideState(eveningFeature), provideEffects(eveningEffects)],
  },
];
