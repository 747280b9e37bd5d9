import { type Better, type Evening, type EveningPlan, formatDuration } from '@hurrel/core';

const nameIn = (all: readonly { id: string; name: string }[], id: string): string =>
  all.find((one) => one.id === id)?.name ?? id;
const lackingIn = ({ breaks }: EveningPlan): number => breaks.reduce((sum, b) => sum + b.over, 0);

/** How an evening stands: which breaks do not suffice, what is not known, and how much work there is. */
export function planSays(plan: EveningPlan, { songs }: Evening): string {
  const work = `${plan.movements} movements, ${formatDuration(plan.seconds)} of hands in all.`;
  const worst = plan.breaks[plan.worst];
  const gone = plan.gone.length;
  // What is not known is no proof that there is time enough.
  const unknown =
    gone === 0
      ? ''
      : `${gone} ${gone === 1 ? 'patch is' : 'patches are'} gone, and what ${gone === 1 ? 'it needs' : 'they need'} is not known. `;
  const longer = plan.breaks.filter((b, i) => b.over > 0 && songs[i]?.wished);
  const wished =
    longer.length === 0
      ? ''
      : `${longer.length} ${longer.length === 1 ? 'break is' : 'breaks are'} over target, by ${formatDuration(Math.max(...longer.map((b) => b.over)))} at most. `;
  if (!worst) return `${unknown}${wished}${saysEnough(unknown, wished)} ${work}`;
  const over = plan.breaks.filter((b, i) => b.over > 0 && !songs[i]?.wished).length;
  return `${unknown}${over} ${over === 1 ? 'break is' : 'breaks are'} too short: the worst by ${formatDuration(worst.over)}, before ${nameIn(songs, worst.song)}. ${wished}${work}`;
}

const saysEnough = (unknown: string, wished: string): string => {
  if (unknown) return 'The other breaks are long enough.';
  return wished ? 'Every other break is long enough.' : 'Every break is long enough.';
};

/** Which changeovers somebody else makes than usual, or helps with; empty where nobody has to. */
export function handedSays(
  { handed, handedSure }: EveningPlan,
  { people, panels, songs }: Evening,
): string {
  if (handed.length === 0) return '';
  const all = handed.map(
    ({ song, panel, person, beside }) =>
      `${nameIn(people, person)} ${beside ? 'helps at' : 'moves'} ${nameIn(panels, panel)} before ${nameIn(songs, song)}`,
  );
  return `Because time would be lacking, ${all.join('; ')}. ${handedSure ? 'No other way of sharing it out lacks less.' : 'Another way may lack less.'}`;
}

/** How the evening goes when what is in reserve is played, or is not, beside the plan that is shown. */
export function reserveSays(other: EveningPlan, { songs }: Evening, played: boolean): string {
  const names = songs.filter((s) => s.kind === 'reserve').map((s) => `“${s.name}”`);
  const what = `${played ? 'With' : 'Without'} ${names.join(' and ')}${played ? ' played too' : ''}`;
  const worst = other.breaks[other.worst];
  return worst
    ? `${what}, the worst break lacks ${formatDuration(worst.over)}, before ${nameIn(songs, worst.song)}.`
    : `${what}, every break suffices.`;
}

/** What was won by another order, or by sharing equal panels out. */
export function betterSays(before: EveningPlan, found: Better): string {
  const [lacked, lacks] = [lackingIn(before), lackingIn(found.plan)];
  const none = lacks >= lacked - 1e-6 && found.plan.seconds >= before.seconds - 1e-6;
  const sure = found.exact ? 'There is none better.' : sayBound(found);
  return none
    ? `Nothing better was found. ${sure}`
    : `Time that is lacking: ${formatDuration(lacked)} before, ${formatDuration(lacks)} now; hands: ${formatDuration(before.seconds)} before, ${formatDuration(found.plan.seconds)} now. ${sure}`;
}

/** How far what was found can be from the best. */
const sayBound = ({ bound }: Better): string =>
  bound
    ? `A better one may exist: with no setting that serves two songs this one takes ${formatDuration(bound.takes)} of hands, and none less than ${formatDuration(bound.least)}.`
    : 'A better one may exist.';
