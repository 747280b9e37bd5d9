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
    loadChildren: () => import('./rooms/rooms.routes').then((m) => m.roomRoutes),
  },
  {
    path: 'instruments',
    title: 'Instruments · Hurrel',
    loadComponent: () => import('./instruments/instruments-page').then((m) => m.InstrumentsPage),
  },
  {
    path: 'instrument/:id/history',
    data: { kind: 'instrument' },
    loadComponent: () => import('./history/document-history').then((m) => m.DocumentHistory),
  },
  {
    path: 'instrument/:id',
    title: 'Instrument · Hurrel',
    loadChildren: () => import('./instruments/instrument.routes').then((m) => m.instrumentRoutes),
  },
  {
    path: 'unit/:id/history',
    data: { kind: 'unit' },
    loadComponent: () => import('./history/document-history').then((m) => m.DocumentHistory),
  },
  {
    path: 'unit/:id',
    title: 'Unit · Hurrel',
    loadChildren: () => import('./units/unit.routes').then((m) => m.unitRoutes),
  },
  {
    path: 'sessions',
    title: 'Recordings · Hurrel',
    loadComponent: () => import('./sessions/sessions-page').then((m) => m.SessionsPage),
  },
  {
    path: 'session/:id/history',
    data: { kind: 'session' },
    loadComponent: () => import('./history/document-history').then((m) => m.DocumentHistory),
  },
  {
    path: 'session/:id',
    title: 'Recording · Hurrel',
    loadChildren: () => import('./sessions/session.routes').then((m) => m.sessionRoutes),
  },
  {
    path: 'sets',
    title: 'Sets · Hurrel',
    loadComponent: () => import('./sets/sets-page').then((m) => m.SetsPage),
  },
  {
    path: 'set/:id/history',
    data: { kind: 'evening' },
    loadComponent: () => import('./history/document-history').then((m) => m.DocumentHistory),
  },
  {
    path: 'set/:id/stage',
    title: 'On stage · Hurrel',
    loadChildren: () => import('./stage/stage.routes').then((m) => m.stageRoutes),
  },
  {
    path: 'set/:id',
    title: 'Set · Hurrel',
    loadChildren: () => import('./sets/set.routes').then((m) => m.setRoutes),
  },
  {
    path: 'enter',
    title: 'Passcode · Hurrel',
    loadComponent: () => import('./devices/enter-page').then((m) => m.EnterPage),
  },
  {
    path: 'devices',
    title: 'Devices · Hurrel',
    loadComponent: () => import('./devices/devices-page').then((m) => m.DevicesPage),
  },
  {
    path: 'files',
    title: 'Files · Hurrel',
    loadComponent: () => import('./files/files-page').then((m) => m.FilesPage),
  },
  {
    path: 'removed',
    title: 'Removed · Hurrel',
    loadComponent: () => import('./history/removed-page').then((m) => m.RemovedPage),
  },
  {
    path: '**',
    title: 'Not found · Hurrel',
    loadComponent: () => import('./ui/not-found').then((m) => m.NotFound),
  },
];
