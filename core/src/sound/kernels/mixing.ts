import type { Kernel, KernelContext } from '../kernel';
import { numberOf } from '../kernel';

/** White noise, uniform between -5 and 5 V. */
export function noise(context: KernelContext): Kernel {
  const out = context.output('out');
  return {
    process(n) {
      for (let i = 0; i < n; i++) out[i] = 10 * context.random() - 5;
    },
  };
}

/** a times b over 5 V. */
export function ring(context: KernelContext): Kernel {
  const a = context.input('a');
  const b = context.input('b');
  const out = context.output('out');
  return {
    process(n) {
      for (let i = 0; i < n; i++) out[i] = (a[i]! * b[i]!) / 5;
    },
  };
}

/** Four channels added. */
export function mixer(context: KernelContext): Kernel {
  const [a, b, c, d] = ['in1', 'in2', 'in3', 'in4'].map((p) => context.input(p)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const [ga, gb, gc, gd] = ['gain1', 'gain2', 'gain3', 'gain4'].map((p) =>
    numberOf(context, p),
  ) as [number, number, number, number];
  const out = context.output('out');
  return {
    process(n) {
      for (let i = 0; i < n; i++) out[i] = ga * a[i]! + gb * b[i]! + gc * c[i]! + gd * d[i]!;
    },
  };
}

/** in times gain. */
export function attenuator(context: KernelContext): Kernel {
  return scale(context, numberOf(context, 'gain'));
}

/** The output socket. */
export function output(context: KernelContext): Kernel {
  return scale(context, numberOf(context, 'level'));
}

function scale(context: KernelContext, gain: number): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  return {
    process(n) {
      for (let i = 0; i < n; i++) out[i] = gain * input[i]!;
    },
  };
}

/** in times cv over 5 V, never inverted nor more than once; velocity takes away up to its depth. */
export function amplifier(context: KernelContext): Kernel {
  const input = context.input('in');
  const cv = context.input('cv');
  const velocity = context.input('velocity');
  const depth = numberOf(context, 'velocity') / 100;
  const out = context.output('out');
  return {
    process(n) {
      for (let i = 0; i < n; i++) {
        const gain = Math.min(1, Math.max(0, cv[i]! / 5));
        out[i] = input[i]! * gain * (1 - depth + (depth * velocity[i]!) / 5);
      }
    },
  };
}

/** A wheel or pedal standing still. */
export function lever(context: KernelContext): Kernel {
  const volts = numberOf(context, 'position') / 20;
  const out = context.output('out');
  return {
    process(n) {
      out.fill(volts, 0, n);
    },
  };
}
