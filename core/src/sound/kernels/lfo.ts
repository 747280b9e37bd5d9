import type { Kernel, KernelContext } from '../kernel';
import { numberOf } from '../kernel';

const PEAK = 5;

/**
 * Low frequency oscillator, running free from the start of the rendering. Its depth fades in linearly over `fade` seconds
 * after the gate has opened. `random` holds a new random level each cycle.
 */
export function lfo(context: KernelContext): Kernel {
  const gate = context.input('gate');
  const out = context.output('out');
  const shape = String(context.params.shape);
  const inc = numberOf(context, 'rate') / context.sampleRate;
  const fade = numberOf(context, 'fade') * context.sampleRate;
  const fading = fade >= 1 && context.connected('gate');
  let count = 0;
  let cycle = 0;
  let held = 2 * context.random() - 1;
  let open = false;
  let since = 0;

  const at = (p: number): number => {
    switch (shape) {
      case 'square':
        return p < 0.5 ? 1 : -1;
      case 'ramp-up':
        return 2 * p - 1;
      case 'ramp-down':
        return 1 - 2 * p;
      case 'sine':
        return Math.sin(2 * Math.PI * p);
      case 'random':
        return held;
      default:
        return p < 0.25 ? 4 * p : p < 0.75 ? 2 - 4 * p : 4 * p - 4;
    }
  };

  return {
    process(n) {
      for (let i = 0; i < n; i++, count++) {
        // From the count, not by adding up: no drift over hours.
        const turns = count * inc;
        const whole = Math.floor(turns);
        if (whole !== cycle) {
          cycle = whole;
          held = 2 * context.random() - 1;
        }
        const now = gate[i]! > 2.5;
        since = now && !open ? 0 : since + 1;
        open = now;
        const depth = fading ? Math.min(1, since / fade) : 1;
        out[i] = PEAK * depth * at(turns - whole);
      }
    },
  };
}
