import { fallFactor } from '../../theory/envelope';
import { fromDecibelsPortable, log2 } from '../../theory/portable';
import { kernelOf } from '../kernel';
import { exp2Quick } from '../quick';
import { Derived } from './envelope';
import { Stereo } from './stereo';

/** Makes what is loud quieter. */
export const compressor = kernelOf(
  (context) => {
    const { sampleRate } = context;
    const factor = (s: number): number => fallFactor(s, sampleRate);
    return {
      /** Gain in octaves of level. */
      state: { S: new Float64Array(1) },
      stereo: new Stereo(context),
      side: context.connected('side') ? context.input('side') : null,
      threshold: context.number('threshold'),
      ratio: context.number('ratio'),
      attack: new Derived(context.number('attack'), factor),
      release: new Derived(context.number('release'), factor),
      makeup: new Derived(context.number('makeup'), fromDecibelsPortable),
    };
  },
  ({ state, stereo, side, threshold, ratio, attack, release, makeup }, from, to) => {
    stereo.read(from, to);
    const { S } = state;
    const { dryLeft, dryRight, wetLeft, wetRight } = stereo;
    const over = threshold.value;
    const edge = log2(over);
    const slope = 1 - 1 / ratio.value;
    const down = attack.update();
    const up = release.update();
    const made = makeup.update();
    let octaves = S[0]!;
    for (let i = from; i < to; i++) {
      let level: number;
      if (side) level = side[i]! < 0 ? -side[i]! : side[i]!;
      else {
        const l = dryLeft[i]! < 0 ? -dryLeft[i]! : dryLeft[i]!;
        const r = dryRight[i]! < 0 ? -dryRight[i]! : dryRight[i]!;
        level = l > r ? l : r;
      }
      const wanted = level > over ? slope * (edge - log2(level)) : 0;
      octaves = wanted + (octaves - wanted) * (wanted < octaves ? down : up);
      if (octaves > -1e-12) octaves = 0;
      const gain = made * (octaves === 0 ? 1 : exp2Quick(octaves));
      wetLeft[i] = gain * dryLeft[i]!;
      wetRight[i] = gain * dryRight[i]!;
    }
    S[0] = octaves;
    stereo.write(from, to);
  },
);
