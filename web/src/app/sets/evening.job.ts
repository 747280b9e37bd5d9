import { betterOrder, betterPanels, moverOn, planEvening, Ways } from '@hurrel/core';
import type { EveningRequest, EveningWorker } from './messages';

const waysOf = ({ evening, library, before, times }: EveningRequest): Ways =>
  new Ways(
    (patch) => library[patch],
    (panel) => before[panel],
    (panel) => times[moverOn(evening, panel)],
  );

export const eveningJob: EveningWorker = {
  plan: (request) => planEvening(request.evening, waysOf(request)),
  order: (request, told) => betterOrder(request.evening, waysOf(request), told),
  panels: (request) => betterPanels(request.evening, waysOf(request)),
};
