import { isWork, type PanelBefore } from '../rebuild/step';
import { panelOf } from '../instrument/panel-of';
import type { Instrument } from '../instrument/schema';
import { applyVariation } from '../patch/variation';
import type { Patch, Variation } from '../patch/schema';
import { panelAtStart, planRebuild, type RebuildPlan } from '../rebuild/plan';
import { cheapestOrder } from './order';
import type { Pass, Session } from './schema';

/** A pass with what it stands on. */
export interface PassSubject {
  pass: Pass;
  instrument: Instrument;
  patch: Patch;
}

/** A pass that is still to be recorded, and what to change to get there. */
export interface PassToRecord {
  pass: string;
  /** Pass whose panel one comes from; absent for the instrument's start. */
  from?: string;
  movements: number;
  /** Estimate. */
  seconds: number;
  plan: RebuildPlan;
}

type Played = Pick<PassSubject, 'pass' | 'patch'>;

/** The variation that a pass plays in its first part. */
function variationOf({ pass, patch }: Played, session: Session): Variation | undefined {
  const first = session.parts.find((p) => pass.plays[p.id] !== undefined);
  return patch.variations.find((v) => v.id === pass.plays[first?.id ?? '']);
}

/** The patch as a pass plays it in its first part. */
export function patchOfPass(played: Played, session: Session): Patch {
  const variation = variationOf(played, session);
  return variation ? applyVariation(played.patch, variation) : played.patch;
}

/** What a pass is called where its panel is built: by its variation too, which is another panel. */
export function passLabel(played: Played, session: Session): string {
  const variation = variationOf(played, session);
  return variation ? `${played.pass.name}, ${variation.name}` : played.pass.name;
}

/**
 * The passes without a take, instrument by instrument, in the order that costs the least time between them, from the
 * panel's start on. The first order is the shortest there is for up to twelve passes of an instrument.
 */
export function recordingOrder(session: Session, subjects: readonly PassSubject[]): PassToRecord[] {
  const open = subjects.filter((s) => s.pass.take === undefined);
  const instruments = [...new Set(open.map((s) => s.instrument.id))];
  return instruments.flatMap((id) => {
    const own = open.filter((s) => s.instrument.id === id);
    const panels = own.map((s): PanelBefore => patchOfPass(s, session));
    const start = panelAtStart(panelOf(own[0]!.instrument));
    const way = (before: PanelBefore, j: number): RebuildPlan => {
      const to = own[j]!;
      const patch = patchOfPass(to, session);
      return planRebuild(panelOf(to.instrument, patch), before, patch);
    };
    const first = own.map((_, j) => way(start, j));
    const between = own.map((_, i) => own.map((_, j) => (i === j ? null : way(panels[i]!, j))));
    const { order } = cheapestOrder(
      first.map((p) => p.seconds),
      between.map((row) => row.map((p) => p?.seconds ?? 0)),
    );
    return order.map((j, k): PassToRecord => {
      const before = order[k - 1];
      const plan = before === undefined ? first[j]! : between[before]![j]!;
      return {
        pass: own[j]!.pass.id,
        ...(before === undefined ? {} : { from: own[before]!.pass.id }),
        movements: plan.steps.filter(isWork).length,
        seconds: plan.seconds,
        plan,
      };
    });
  });
}
