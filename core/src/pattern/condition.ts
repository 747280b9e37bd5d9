/**
 * When a step sounds: `fill` and `not-fill`; `first` and `not-first` round of the pattern; `previous` and `not-previous`:
 * whether the track's last condition was true; `30%` a chance; `2/4` the second of every four rounds.
 */
export type Condition = string;

/** Kinds of condition, as a box may know them. */
export const conditionKinds = ['fill', 'first', 'previous', 'chance', 'rounds'] as const;
export type ConditionKind = (typeof conditionKinds)[number];

export const conditionKind = (condition: Condition): ConditionKind => {
  if (condition.endsWith('%')) return 'chance';
  if (condition.includes('/')) return 'rounds';
  return condition.replace('not-', '') as ConditionKind;
};

/** A condition taken apart once, so that nothing is read while playing. */
export interface ReadCondition {
  kind: ConditionKind;
  not: boolean;
  /** Chance 0..1, or the round that sounds, from 0. */
  a: number;
  /** Rounds that are counted. */
  b: number;
}

export function readCondition(condition: Condition): ReadCondition {
  const kind = conditionKind(condition);
  const [a = '0', b = '1'] = condition.replace('%', '').split('/');
  return {
    kind,
    not: condition.startsWith('not-'),
    a: kind === 'chance' ? Number(a) / 100 : kind === 'rounds' ? Number(a) - 1 : 0,
    b: kind === 'rounds' ? Number(b) : 1,
  };
}

/**
 * Whether a condition holds.
 * @param round of the track, from 0
 * @param fill whether fill is held
 * @param previous whether the track's last condition was true
 * @param drawn a number 0..1 for this place
 */
export function holds(
  { kind, not, a, b }: ReadCondition,
  round: number,
  fill: boolean,
  previous: boolean,
  drawn: number,
): boolean {
  switch (kind) {
    case 'fill':
      return fill !== not;
    case 'first':
      return (round === 0) !== not;
    case 'previous':
      return previous !== not;
    case 'chance':
      return drawn < a;
    case 'rounds':
      return round % b === a;
  }
}

/** A condition in words. */
export function conditionWords(condition: Condition): string {
  const { kind, not, a, b } = readCondition(condition);
  switch (kind) {
    case 'fill':
      return not ? 'never in fill' : 'only in fill';
    case 'first':
      return not ? 'not in the first round' : 'only in the first round';
    case 'previous':
      return not ? 'when the last condition was not true' : 'when the last condition was true';
    case 'chance':
      return `${Math.round(a * 100)} % of the time`;
    case 'rounds':
      return `round ${a + 1} of ${b}`;
  }
}
