import type { Routes } from '@angular/router';

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'library' },
  {
    path: 'library',
    title: 'Library · Hurrel',
    loadChildren: () => import('./library/library.routes').then((m) => m.libraryRoutes),
  },
  {
    path: 'patch/:id',
    loadChildren: () => import('./patch/patch.routes').then((m) => m.patchRoutes),
  },
  {
    path: '**',
    title: 'Not found · Hurrel',
    loadComponent: () => import('./ui/not-found').then((m) => m.NotFound),
  },
];
