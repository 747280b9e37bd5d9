import {
  blankPatch,
  panelOf,
  instrumentSchema,
  panelAtStart,
  type Patch,
  planRebuild,
} from '@hurrel/core';
import cabinet from '../../../library/instruments/oxbow-lockgate.json' with { type: 'json' };
import estuary from '../../../library/instruments/marram-estuary.json' with { type: 'json' };
import { listRows } from './rows';

function rowsOf(file: unknown, change: Partial<Patch>): [string, string][] {
  const definition = instrumentSchema.parse(file);
  const patch = { ...blankPatch(definition, 'test'), ...change };
  const instrument = panelOf(definition, patch);
  const plan = planRebuild(instrument, panelAtStart(instrument), patch);
  return listRows({ instrument, patch, plan }).map((r) => [r.kind, r.left]);
}

it('lists cables under a heading of their own, in letters that the sheet has', () => {
  const cables = [{ id: 'c1', from: 'kb-pitch', to: 'bank-1-pitch', colour: 'green' }];
  expect(rowsOf(cabinet, { cables })).toEqual([
    ['section', 'Cables'],
    ['movement', 'Patch Keyboard pitch to Bank pitch (green)'],
  ]);
});

it('lists matrix rows in the panel’s numbers', () => {
  const matrix = [{ row: 2, source: 'lfo', destination: 'cutoff1', depth: -0.5 }];
  expect(rowsOf(estuary, { matrix })).toEqual([
    ['section', 'Matrix'],
    ['movement', 'Row 3: LFO to cutoff 1 -32'],
  ]);
});

it('puts modules of a cabinet where the patch had them, with the power off', () => {
  const definition = instrumentSchema.parse(cabinet);
  const rack = definition.rack!.placed.filter((p) => p.id !== 'clock-1');
  expect(rowsOf(cabinet, { rack })).toEqual([
    ['section', 'Cabinet, with the power off'],
    ['movement', expect.stringMatching(/^Power off\. Take Clock out of row 4/)],
  ]);
});
