import { DOCUMENT } from '@angular/common';
import {
  ApplicationRef,
  DestroyRef,
  type EnvironmentProviders,
  inject,
  provideEnvironmentInitializer,
} from '@angular/core';

/**
 * What was typed into a field is drawn as it was taken before anything else can be typed. Without zones a page is drawn in a
 * later task: on a busy machine whoever typed on in between had the answer written over what they typed.
 */
export const provideDrawnAtOnce = (): EnvironmentProviders =>
  provideEnvironmentInitializer(() => {
    const app = inject(ApplicationRef);
    const page = inject(DOCUMENT);
    // After everybody who listens, and never in the middle of drawing: a field that is taken away says that it changed.
    const draw = (): void => queueMicrotask(() => app.tick());
    const over = new AbortController();
    page.addEventListener('change', draw, over);
    page.addEventListener('submit', draw, over);
    page.addEventListener('keydown', (event) => event.key === 'Enter' && draw(), over);
    inject(DestroyRef).onDestroy(() => over.abort());
  });
