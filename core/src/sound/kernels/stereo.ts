import { type Kernel, type KernelContext, rail } from '../kernel';

/** What all effects share: `in` goes to both sides, and the wet sound is mixed with the dry one. */
export function stereoEffect(
  context: KernelContext,
  state: object,
  update: (from: number) => void,
  sample: (left: number, right: number, i: number, wet: Float64Array) => void,
): Kernel {
  const input = context.input('in');
  const inLeft = context.input('left');
  const inRight = context.input('right');
  const left = context.output('left', 0);
  const right = context.output('right', 0);
  const out = context.output('out', 0);
  const mix = context.number('mix');
  const wet = new Float64Array(2);
  return {
    state,
    process(from, to) {
      update(from);
      const { was, slope } = mix;
      for (let i = from; i < to; i++) {
        const l = input[i]! + inLeft[i]!;
        const r = input[i]! + inRight[i]!;
        sample(l, r, i, wet);
        const m = (was + slope * i) / 100;
        left[i] = rail((1 - m) * l + m * wet[0]!);
        right[i] = rail((1 - m) * r + m * wet[1]!);
        out[i] = (left[i]! + right[i]!) / 2;
      }
    },
  };
}
