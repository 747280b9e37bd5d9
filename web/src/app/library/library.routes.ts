import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import { LibraryPage } from './library-page';
import { libraryFeature, loadLibrary } from './library.store';

export const libraryRoutes: Routes = [
  {
    path: '',
    component: LibraryPage,
    providers: [provideState(libraryFeature), provideEffects({ loadLibrary })],
  },
];
