import { cableText, jackLabel } from '../../patch/cables';
import type { Audibility } from '../audibility';
import { edgesInto } from '../graph';
import type { Case, Finding } from './finding';
import { withoutCable } from './plugs';

/** Semitones below which a pitch counts as standing still. */
const STILL = 0.01;

/** Plugs that take the keys away from an oscillator's pitch and give nothing that moves: every key sounds the same. */
export function examinePinned(c: Case, reach: Audibility): Finding[] {
  const keys = new Set(c.notes.map((n) => n.note));
  if (keys.size < 2) return [];
  return c.graph.nodes.flatMap((node) => {
    if (node.params.footage === undefined || !reach.nodeHeard(node.id)) return [];
    const moves = (bounds: Case['bounds']): boolean => {
      const [lo, hi] = bounds.input(node.id, 'pitch');
      return 12 * (hi - lo) > STILL;
    };
    if (moves(c.bounds)) return [];
    const jack = c.instrument.jacks.find((j) => j.port === `${node.id}.pitch`);
    const cable = c.patch.cables.find((k) => !k.inactive && jack && k.to === jack.id);
    if (!jack || !cable || edgesInto(c.graph, node.id, 'pitch').length > 1) return [];
    if (!moves(withoutCable(c, cable).bounds)) return [];
    const text = cableText(c.instrument, cable);
    return [
      {
        id: `pitch-pinned:${node.id}`,
        severity: 'wrong',
        title: `Every key sounds the same on ${node.name}`,
        why: `The plug in ${jackLabel(c.instrument, jack.id)} takes the keys away from its pitch, and gives nothing that moves.`,
        controls: [],
        cables: [cable.id],
        mend: { text: `Pull ${text}`, settings: {}, pull: [cable.id] },
      } satisfies Finding,
    ];
  });
}
