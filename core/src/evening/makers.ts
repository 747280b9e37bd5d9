import { moverOf } from './mover';
import type { Evening, StagePanel } from './schema';
import { secondsOf } from './stored';
import type { Work } from './ways';

/** Who makes a changeover. */
export interface Makers {
  person: string;
  /** Somebody who makes some of it at the same time, and the movements that are theirs, by their ids. */
  beside?: { person: string; steps: ReadonlySet<string> };
}

/** Whoever else than its mover makes a changeover, or a part of it; nobody: undefined. */
export const helperOf = (
  evening: Evening,
  panel: StagePanel,
  { person, beside }: Makers,
): string | undefined =>
  beside?.person ?? (person === moverOf(evening, panel) ? undefined : person);

type Helper = StagePanel['also'][number];

/**
 * Who may make a changeover, whoever usually does first: others as a whole, and those for whom there is room beside a part of it.
 * @param stepsOf the movements of the changeover in somebody's times
 */
export function makersOf(
  evening: Evening,
  panel: StagePanel,
  stepsOf: (person: string) => readonly Work[],
): Makers[] {
  const usual = moverOf(evening, panel);
  const others = panel.also.filter((a) => a.by !== usual);
  const shared = others
    .filter((a) => a.beside)
    .flatMap((helper) => besideOf(stepsOf(usual), stepsOf(helper.by), helper) ?? []);
  return [
    { person: usual },
    ...others.map(({ by }) => ({ person: by })),
    ...shared.map((beside) => ({ person: usual, beside })),
  ];
}

/**
 * What somebody does beside the mover, so that the longer of the two takes as short as can be: the last sections along the
 * panel, whole ones, so that no two hands meet. Only what is turned or switched to a reading: cables and what a sequencer is
 * taught go together, and the ear listens to one.
 */
function besideOf(
  mover: readonly Work[],
  theirs: readonly Work[],
  { by, walk }: Helper,
): Makers['beside'] {
  // What is loaded comes all at once.
  if (mover.some((s) => s.kind === 'load')) return undefined;
  const turned = theirs.flatMap((s) =>
    s.kind === 'movement' && s.target === undefined ? [s] : [],
  );
  const sections = [...new Set(turned.map((s) => s.section))];
  let best: Makers['beside'];
  let least = secondsOf(mover);
  // All of what is turned may be theirs where the mover has something else to do.
  for (let from = 0; from < sections.length; from++) {
    const last = new Set(sections.slice(from));
    const taken = turned.filter((s) => last.has(s.section));
    const steps = new Set(taken.map((s) => s.id));
    const rest = mover.filter((s) => !steps.has(s.id));
    if (rest.length === 0) continue;
    const takes = Math.max(secondsOf(rest), walk + secondsOf(taken));
    if (takes >= least - 1e-9) continue;
    least = takes;
    best = { person: by, steps };
  }
  return best;
}
