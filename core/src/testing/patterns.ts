import fc from 'fast-check';
import type { PatternStep } from '../pattern/pattern';
import { withoutTail } from '../pattern/steps';

/** Steps of which a tie always holds a note on, as sequencers understand them. */
export const anySteps = ({
  ownValues = true,
  controls = ['a', 'b'],
  max = 32,
}: { ownValues?: boolean; controls?: string[]; max?: number } = {}): fc.Arbitrary<PatternStep[]> =>
  fc.array(anyStep(ownValues, controls), { maxLength: max }).map((steps) => {
    const kept: PatternStep[] = [];
    for (const step of steps) {
      const last = kept.at(-1);
      kept.push(step.tie && !last?.notes && !last?.tie ? {} : step);
    }
    return withoutTail(kept);
  });

const note = fc
  .record({
    notes: fc.uniqueArray(fc.integer({ min: 12, max: 110 }), { minLength: 1, maxLength: 4 }),
    velocity: fc.option(fc.integer({ min: 1, max: 127 }), { nil: undefined }),
    length: fc.option(
      fc.integer({ min: 1, max: 640 }).map((n) => n / 10),
      { nil: undefined },
    ),
    accent: fc.option(fc.constant(true as const), { nil: undefined }),
    slide: fc.option(fc.constant(true as const), { nil: undefined }),
    condition: fc.option(fc.constantFrom('fill', 'not-fill', '30%', '2/4', 'first', 'previous'), {
      nil: undefined,
    }),
    micro: fc.option(
      fc
        .integer({ min: -50, max: 50 })
        .filter((n) => n !== 0)
        .map((n) => n / 100),
      { nil: undefined },
    ),
  })
  .map((step) => {
    const present = Object.entries(step).filter(([, value]) => value !== undefined);
    return Object.fromEntries(present) as PatternStep;
  });

const anyStep = (ownValues: boolean, controls: string[]): fc.Arbitrary<PatternStep> =>
  fc.oneof(
    { weight: 3, arbitrary: ownValues ? withOwnValues(note, controls) : note },
    { weight: 1, arbitrary: fc.constant<PatternStep>({ tie: true }) },
    { weight: 3, arbitrary: fc.constant<PatternStep>({}) },
  );

const withOwnValues = (
  steps: fc.Arbitrary<PatternStep>,
  controls: string[],
): fc.Arbitrary<PatternStep> =>
  fc
    .tuple(
      steps,
      fc.dictionary(
        fc.constantFrom(...controls),
        fc.integer({ min: 0, max: 100 }).map((n) => n / 100),
        { maxKeys: 2 },
      ),
    )
    .map(([step, given]) =>
      Object.keys(given).length > 0 ? { ...step, ownValues: { ...given } } : step,
    );
