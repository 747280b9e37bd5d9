import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import { eveningEffects, eveningFeature } from './evening.document';
import { SetPage } from './set-page';

export const setRoutes: Routes = [
  {
    path: '',
    component: SetPage,
    providers: [provideState(eveningFeature), provideEffects(eveningEffects)],
  },
];
