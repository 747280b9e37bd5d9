import { fromDecibelsPortable, tanTurns } from '../../theory/portable';
import { kernelOf, tiny } from '../kernel';

/** Damping of the high-pass, and of the two halves of a four-pole Butterworth low-pass. */
const DAMPINGS = { body: 1, first: 1.8477590650225735, second: 0.7653668647301796 };
const BELL_Q = 1.2;
const BELL_AT = 0.6;

/** A loudspeaker in its box before a microphone. */
export const speaker = kernelOf(
  (context) => ({
    /** Two states each of high-pass, bell and both low-passes. */
    state: { S: new Float64Array(8) },
    sampleRate: context.sampleRate,
    input: context.input('in'),
    out: context.output('out'),
    body: context.number('body'),
    edge: context.number('edge'),
    bite: context.number('bite'),
    known: new Float64Array(3).fill(NaN),
    /** Steps of high-pass, bell, low-pass; damping of the bell and weight of its band. */
    C: new Float64Array(5),
  }),
  ({ state: { S }, sampleRate, input, out, body, edge, bite, known, C }, from, to) => {
    if (body.value !== known[0] || edge.value !== known[1] || bite.value !== known[2]) {
      known[0] = body.value;
      known[1] = edge.value;
      known[2] = bite.value;
      const step = (hz: number): number => tanTurns(Math.min(0.45, hz / sampleRate) / 2);
      const A = fromDecibelsPortable(bite.value / 2);
      C[0] = step(body.value);
      C[1] = step(BELL_AT * edge.value);
      C[2] = step(edge.value);
      C[3] = 1 / (BELL_Q * A);
      C[4] = C[3] * (A * A - 1);
    }
    for (let i = from; i < to; i++) {
      let x = input[i]!;
      for (let stage = 0; stage < 4; stage++) {
        const g = C[stage < 2 ? stage : 2]!;
        const k =
          stage === 0
            ? DAMPINGS.body
            : stage === 1
              ? C[3]!
              : stage === 2
                ? DAMPINGS.first
                : DAMPINGS.second;
        const s1 = S[2 * stage]!;
        const s2 = S[2 * stage + 1]!;
        const high = (x - (k + g) * s1 - s2) / (1 + g * (k + g));
        const band = g * high + s1;
        const low = g * band + s2;
        S[2 * stage] = g * high + band;
        S[2 * stage + 1] = g * band + low;
        x = stage === 0 ? high : stage === 1 ? x + C[4]! * band : low;
      }
      out[i] = x > 20 ? 20 : x < -20 ? -20 : x;
    }
    for (let s = 0; s < 8; s++) S[s] = tiny(S[s]!);
  },
);
