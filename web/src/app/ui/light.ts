import { Injectable, signal } from '@angular/core';

export type Light = 'desk' | 'stage';
const KEY = 'hurrel.light';

/** Which light the interface is read in; remembered in this browser. */
@Injectable({ providedIn: 'root' })
export class LightService {
  readonly light = signal<Light>(localStorage.getItem(KEY) === 'stage' ? 'stage' : 'desk');

  constructor() {
    this.apply(this.light());
  }

  toggle(): void {
    const next: Light = this.light() === 'desk' ? 'stage' : 'desk';
    localStorage.setItem(KEY, next);
    this.light.set(next);
    this.apply(next);
  }

  private apply(light: Light): void {
    document.documentElement.dataset['light'] = light;
  }
}
