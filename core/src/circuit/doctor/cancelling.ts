import { isQuiet } from '../../catalogue/interval';
import type { GraphNode } from '../graph';
import { edgesInto, nodeOf } from '../graph';
import type { Audibility } from '../audibility';
import type { Case, Finding } from './finding';
import { tuning } from './filter';
import { mendTo, valueFor } from './mend';

/** Cents within which two oscillators count as in tune. */
const IN_TUNE = 0.5;
/** Share of the other's level above which two nearly cancel: deeper than 20 dB. */
const EQUAL = 0.82;
/** Level beside the other at which the fundamental stays: 9.54 dB of dip. */
const BESIDE = 0.5;

/** Oscillators that are exactly in tune and equally loud in one mixer: what their phases leave is a matter of luck. */
export function examineCancelling(c: Case, reach: Audibility): Finding[] {
  return c.graph.nodes.flatMap((mixer) => {
    if (mixer.kind !== 'mixer' || !reach.heard(mixer.id, 'out')) return [];
    const channels = [1, 2, 3, 4].flatMap((n) => {
      const [edge, ...more] = edgesInto(c.graph, mixer.id, `in${n}`);
      const source = edge && more.length === 0 ? nodeOf(c.graph, edge.from.node) : undefined;
      const gain = Number(mixer.params[`gain${n}`]);
      return source?.kind === 'oscillator' && gain > 0 ? [{ source, gain, param: `gain${n}` }] : [];
    });
    return channels.flatMap((a, i) =>
      channels.slice(i + 1).flatMap((b) => {
        const [loud, soft] = a.gain >= b.gain ? [a, b] : [b, a];
        if (soft.gain / loud.gain < EQUAL || !cancels(c, a.source, b.source)) return [];
        const dip = 20 * Math.log10((loud.gain - soft.gain) / (loud.gain + soft.gain));
        const control = mixer.controls[soft.param];
        const value = valueFor(c.instrument, control, mixer.id, soft.param, loud.gain * BESIDE);
        const mend =
          control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
        const finding: Finding = {
          id: `cancelling:${a.source.id}+${b.source.id}`,
          severity: 'hint',
          title: `${loud.source.name} and ${soft.source.name} may cancel each other`,
          why: `They are in tune and nearly equally loud: as their phases fall, the fundamental dips ${Number.isFinite(dip) ? `by ${Math.round(-dip)} dB` : 'to nothing'}. With one at half the other's level it dips by 9.5 dB at most; or detune one.`,
          controls: [mixer.controls[soft.param], mixer.controls[loud.param]].filter(
            (id) => id !== undefined,
          ),
          ...(mend ? { mend } : {}),
        };
        return [finding];
      }),
    );
  });
}

/** In tune, nothing that tells them apart moves either, and of waves whose fundamentals are alike. */
function cancels(c: Case, a: GraphNode, b: GraphNode): boolean {
  const apart = (n: GraphNode): boolean =>
    n.params.wave === 'noise' ||
    Number(n.params.drift) > 0 ||
    n.params.sync !== 'off' ||
    Number(n.params['fm-depth']) > 0;
  if (apart(a) || apart(b)) return false;
  const pitch = (n: GraphNode): number => c.bounds.input(n.id, 'pitch')[0] * 12 + tuning(n);
  const own = (n: GraphNode): string =>
    edgesInto(c.graph, n.id, 'mod')
      .filter((e) => !isQuiet(c.bounds.output(e.from.node, e.from.port)))
      .map((e) => `${e.from.node}.${e.from.port}`)
      .sort()
      .join();
  return Math.abs(pitch(a) - pitch(b)) * 100 < IN_TUNE && own(a) === own(b);
}
