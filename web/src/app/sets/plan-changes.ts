import { effect, type Signal, signal, untracked } from '@angular/core';
import { type Evening, type EveningPlan, formatDuration } from '@hurrel/core';

/** What a change of a set changed in its plan, in words; empty where nothing did. */
export function sayPlanChange(
  before: EveningPlan,
  after: EveningPlan,
  nameOf: (song: string) => string,
): string {
  const said: string[] = [];
  const hands = after.seconds - before.seconds;
  if (Math.abs(hands) >= 0.5)
    said.push(`hands ${formatDuration(Math.abs(hands))} ${hands > 0 ? 'more' : 'less'}`);
  const over = new Map(before.breaks.map((b) => [b.song, b.over]));
  for (const one of after.breaks) {
    const was = over.get(one.song);
    if (was === undefined || Math.abs(one.over - was) < 0.5) continue;
    const song = nameOf(one.song);
    if (one.over === 0) said.push(`the break before ${song} is long enough now`);
    else
      said.push(
        `the break before ${song} lacks ${formatDuration(one.over)}, ${formatDuration(was)} before`,
      );
  }
  const more = said.length - 4;
  const told = said.slice(0, 4).join('; ');
  return told && `This change: ${told}${more > 0 ? `; and ${more} more breaks` : ''}.`;
}

/** The same for a page, from each plan to the next one of the same set. In an injection context. */
export function planChanges(
  plan: Signal<EveningPlan | null>,
  evening: Signal<Evening | null>,
): Signal<string> {
  const says = signal('');
  let last: EveningPlan | null = null;
  effect(() => {
    const now = plan();
    untracked(() => {
      const nameOf = (song: string): string =>
        evening()?.songs.find((s) => s.id === song)?.name ?? '';
      if (now && last) {
        const told = sayPlanChange(last, now, nameOf);
        // A change that changes nothing in the plan leaves the last one standing.
        if (told) says.set(told);
      }
      last = now;
    });
  });
  return says;
}
