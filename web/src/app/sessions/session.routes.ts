import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import { sessionEffects, sessionFeature } from './session.document';
import { SessionPage } from './session-page';

export const sessionRoutes: Routes = [
  {
    path: '',
    component: SessionPage,
    providers: [provideState(sessionFeature), provideEffects(sessionEffects)],
  },
];
