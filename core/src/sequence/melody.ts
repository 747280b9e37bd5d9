import type { PatternStep, Track } from '../pattern/pattern';
import { stepOf } from '../pattern/steps';

/** One step of a bass line: a note struck, the last one held on, or silence. */
export type MelodyStep =
  | { kind: 'note'; note: number; accent: boolean; slide: boolean }
  | { kind: 'tie' }
  | { kind: 'rest' };

/** A line as the steps of a track. */
export const melodyToSteps = (steps: readonly MelodyStep[]): PatternStep[] =>
  steps.map((step) => {
    if (step.kind === 'rest') return {};
    if (step.kind === 'tie') return { tie: true };
    return {
      notes: [step.note],
      ...(step.accent ? { accent: true as const } : {}),
      ...(step.slide ? { slide: true as const } : {}),
    };
  });

/** A track as a line, all its steps; of notes struck together the lowest. A tie behind a rest holds nothing on. */
export function trackToMelody(track: Track): MelodyStep[] {
  const line: MelodyStep[] = [];
  for (let i = 0; i < track.length; i++) {
    const { notes, tie, accent, slide } = stepOf(track, i);
    const before = line.at(-1);
    if (notes) {
      const note = Math.min(...notes);
      line.push({ kind: 'note', note, accent: accent === true, slide: slide === true });
    } else line.push({ kind: tie && before && before.kind !== 'rest' ? 'tie' : 'rest' });
  }
  return line;
}
