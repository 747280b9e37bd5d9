import { betterOrder, betterPanels, type Evening, moverOn, planEvening, Ways } from '@hurrel/core';
import type { EveningWorker, Known } from './messages';

const waysOf = (evening: Evening, { library, before, times }: Known): Ways =>
  new Ways(
    (patch) => library[patch],
    (panel) => before[panel],
    (panel, person) => times[person ?? moverOn(evening, panel)],
  );

/** What was known last, and the ways that were worked out with it. */
let last: { known: Known; movers: string; ways: Ways } | undefined;

export const eveningJob: EveningWorker = {
  plan(evening, known = last?.known) {
    if (!known) throw new Error('Nothing is known of what this set names.');
    // How long a way takes depends on whoever moves the panel.
    const movers = JSON.stringify(evening.panels.map((p) => [p.id, moverOn(evening, p.id)]));
    if (last?.known !== known || last.movers !== movers)
      last = { known, movers, ways: waysOf(evening, known) };
    return planEvening(evening, last.ways);
  },
  order: ({ evening, ...known }, told) => betterOrder(evening, waysOf(evening, known), told),
  panels: ({ evening, ...known }) => betterPanels(evening, waysOf(evening, known)),
};
