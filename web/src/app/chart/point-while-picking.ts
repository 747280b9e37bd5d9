import { DestroyRef, effect, inject } from '@angular/core';
import { ChartDesk } from './chart-desk';
import { MatrixPicking } from './matrix-picking';

const PRESSES = ['pointerdown', 'pointerup', 'pointercancel'] as const;

/** While ends of a row are picked on the panel, controls are pointed at and none is turned. In an injection context. */
export function pointWhilePicking(): void {
  const [desk, matrix] = [inject(ChartDesk), inject(MatrixPicking)];
  let pressed = false;
  const press = (event: Event): void => void (pressed = event.type === 'pointerdown');
  for (const name of PRESSES) document.addEventListener(name, press);
  inject(DestroyRef).onDestroy(() => {
    for (const name of PRESSES) document.removeEventListener(name, press);
  });
  effect((cleanup) => {
    if (matrix.picking()) return desk.onlyPointing.set(true);
    // The drag that picked the last end goes on: it points too.
    const free = (): void => desk.onlyPointing.set(false);
    if (!pressed) return free();
    addEventListener('pointerup', free, { once: true });
    cleanup(() => removeEventListener('pointerup', free));
  });
}
