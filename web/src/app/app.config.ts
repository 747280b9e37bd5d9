import {
  type ApplicationConfig,
  inject,
  provideAppInitializer,
  provideBrowserGlobalErrorListeners,
  isDevMode,
  provideZonelessChangeDetection,
} from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { provideServiceWorker } from '@angular/service-worker';
import { provideEffects } from '@ngrx/effects';
import { provideStore } from '@ngrx/store';
import { routes } from './app.routes';
import { OnDisk } from './api/on-disk';
import { provideDrawnAtOnce } from './ui/drawn-at-once';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideBrowserGlobalErrorListeners(),
    provideDrawnAtOnce(),
    // What waits for the server is back before anything asks for it.
    provideAppInitializer(() => inject(OnDisk).ready),
    provideRouter(routes, withComponentInputBinding()),
    // Keeps the application, and what was read last, for when there is no server.
    provideServiceWorker('ngsw-worker.js', {
      enabled: !isDevMode(),
      registrationStrategy: 'registerWhenStable:5000',
    }),
    provideStore(),
    provideEffects(),
  ],
};
