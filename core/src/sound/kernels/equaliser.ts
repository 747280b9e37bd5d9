import { fromDecibelsPortable, tanTurns } from '../../theory/portable';
import { kernelOf, type KernelContext, tiny } from '../kernel';
import { Stereo } from './stereo';

const BANDS = ['low', 'bell', 'high'] as const;
const CORNERS = { low: 'low-corner', bell: 'bell-centre', high: 'high-corner' } as const;

/** One band: gain of its step, damping, weights of what goes in, band and low; then two states for each side. */
function makeBand(context: KernelContext, band: (typeof BANDS)[number]) {
  const gain = context.number(band);
  const corner = context.number(CORNERS[band]);
  const sharpness = context.number('sharpness');
  const C = new Float64Array(5);
  const known = new Float64Array(3).fill(NaN);
  const update = (): void => {
    if (gain.value === known[0] && corner.value === known[1] && sharpness.value === known[2])
      return;
    known[0] = gain.value;
    known[1] = corner.value;
    known[2] = sharpness.value;
    const A = fromDecibelsPortable(gain.value / 2);
    const root = Math.sqrt(A);
    const g = tanTurns(Math.min(0.45, corner.value / context.sampleRate) / 2);
    if (band === 'bell') {
      const k = 1 / (sharpness.value * A);
      C.set([g, k, 1, k * (A * A - 1), 0]);
    } else if (band === 'low') C.set([g / root, Math.SQRT2, 1, Math.SQRT2 * (A - 1), A * A - 1]);
    else C.set([g * root, Math.SQRT2, A * A, Math.SQRT2 * (1 - A) * A, 1 - A * A]);
  };
  return { update, gain, C, S: new Float64Array(4) };
}
type Band = ReturnType<typeof makeBand>;

function pass({ C, S }: Band, side: 0 | 2, sound: Float64Array, from: number, to: number): void {
  const g = C[0]!;
  const k = C[1]!;
  const a1 = 1 / (1 + g * (g + k));
  const a2 = g * a1;
  const a3 = g * a2;
  let s1 = S[side]!;
  let s2 = S[side + 1]!;
  for (let i = from; i < to; i++) {
    const x = sound[i]!;
    const v3 = x - s2;
    const band = a1 * s1 + a2 * v3;
    const low = s2 + a2 * s1 + a3 * v3;
    s1 = 2 * band - s1;
    s2 = 2 * low - s2;
    sound[i] = C[2]! * x + C[3]! * band + C[4]! * low;
  }
  S[side] = tiny(s1);
  S[side + 1] = tiny(s2);
}

/** Low shelf, bell, high shelf. */
export const equaliser = kernelOf(
  (context) => {
    const bands = BANDS.map((band) => makeBand(context, band));
    return {
      state: Object.fromEntries(bands.map(({ S }, i) => [`S${i}`, S])),
      bands,
      stereo: new Stereo(context),
    };
  },
  ({ bands, stereo }, from, to) => {
    stereo.read(from, to);
    const { dryLeft, dryRight, wetLeft, wetRight } = stereo;
    for (let i = from; i < to; i++) {
      wetLeft[i] = dryLeft[i]!;
      wetRight[i] = dryRight[i]!;
    }
    for (const band of bands) {
      band.update();
      pass(band, 0, wetLeft, from, to);
      pass(band, 2, wetRight, from, to);
    }
    stereo.write(from, to);
  },
);
