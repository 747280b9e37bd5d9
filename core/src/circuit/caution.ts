import type { Instrument } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import { compile } from './compile';

/** From here on a resonance, or a feedback in per cent, can jump in level. */
const RESONANCE = 0.75;
const FEEDBACK = 90;
const FM = 100;

/** What to do before a patch is built or played, when it can jump in level; empty when it cannot. */
export function levelCaution(instrument: Instrument, patch: Patch): string {
  const wild = compile(instrument, patch).nodes.filter((node) => {
    const { params } = node;
    return (
      ['resonance', 'resonance1', 'resonance2'].some((p) => Number(params[p] ?? 0) > RESONANCE) ||
      (node.kind === 'delay' && Number(params.feedback) > FEEDBACK) ||
      Number(params['fm-depth'] ?? 0) > FM
    );
  });
  if (wild.length === 0) return '';
  const names = wild.map((n) => n.name).join(', ');
  return `Level can jump: ${names} ${wild.length > 1 ? 'are' : 'is'} turned far up. Turn the monitors down first.`;
}
