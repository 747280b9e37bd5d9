import {
  betterOrder,
  betterPanels,
  type Known,
  moverOn,
  planEvening,
  type Ways,
  waysOf,
} from '@hurrel/core';
import type { EveningWorker } from './messages';

/** What was known last, and the ways that were worked out with it. */
let last: { known: Known; movers: string; ways: Ways } | undefined;

export const eveningJob: EveningWorker = {
  plan(evening, known = last?.known) {
    if (!known) throw new Error('Nothing is known of what this set names.');
    // How long a way takes depends on whoever moves the panel, and how it reads on which unit it is, and what is said of
    // how it stands before.
    const movers = JSON.stringify(
      evening.panels.map((p) => [p.id, moverOn(evening, p.id), p.unit, p.atStart]),
    );
    if (last?.known !== known || last.movers !== movers)
      last = { known, movers, ways: waysOf(evening, known) };
    return planEvening(evening, last.ways);
  },
  order: ({ evening, ...known }, told) => betterOrder(evening, waysOf(evening, known), told),
  panels: ({ evening, ...known }) => betterPanels(evening, waysOf(evening, known)),
};
