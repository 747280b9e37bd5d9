import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import { shownEffects, shownFeature } from '../shown/shown.document';
import { ticksEffects, ticksFeature } from '../rebuild/ticks.document';
import { patchEffects } from '../patch/patch.effects';
import { patchFeature } from '../patch/patch.reducer';
import { PatchPage } from './patch-page';

export const roomRoutes: Routes = [
  {
    path: '',
    component: PatchPage,
    providers: [
      provideState(patchFeature),
      provideState(ticksFeature),
      provideState(shownFeature),
      provideEffects(patchEffects, ticksEffects, shownEffects),
    ],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'chart' },
      {
        path: 'chart',
        loadComponent: () => import('../chart/chart-page').then((m) => m.ChartPage),
      },
      {
        path: 'path',
        loadComponent: () => import('../path/path-page').then((m) => m.PathPage),
      },
      {
        path: 'listen',
        loadComponent: () => import('../listen/listen-page').then((m) => m.ListenPage),
      },
      {
        path: 'sequence',
        loadComponent: () => import('../sequence/sequence-page').then((m) => m.SequencePage),
      },
      {
        path: 'details',
        loadComponent: () => import('../details/details-page').then((m) => m.DetailsPage),
      },
      {
        path: 'variations',
        loadComponent: () => import('../variations/variations-page').then((m) => m.VariationsPage),
      },
      {
        path: 'history',
        loadComponent: () => import('../history/history-page').then((m) => m.HistoryPage),
      },
      {
        path: 'rebuild',
        loadComponent: () => import('../rebuild/rebuild-page').then((m) => m.RebuildPage),
      },
    ],
  },
];
