import { instrumentSchema, type Step } from '@hurrel/core';
import sluiceFile from '../../../../library/instruments/oxbow-sluice.json';
import { sectionOfStep } from './section-of-step';

const sluice = instrumentSchema.parse(sluiceFile);
const at = (step: object) => sectionOfStep(sluice, step as Step);

describe('where a step is made', () => {
  it.each([
    ['the section of a control', { kind: 'movement', section: 'mix' }, '4', 'Mix'],
    [
      'that behind which one listens',
      { kind: 'listening', checkpoint: { after: 'osc1' } },
      '2',
      'Oscillator 1',
    ],
    ['the matrix', { kind: 'row', row: 2 }, 'M', 'Matrix'],
    ['the sequencer', { kind: 'entry' }, 'S', 'Sequencer'],
    ['the memory', { kind: 'load', place: 'A1' }, 'P', 'Memory'],
    ['the cabinet', { kind: 'rack', section: '' }, '', 'Cabinet'],
    ['behind the instrument', { kind: 'outboard', section: '' }, '', 'Behind the instrument'],
    ['a section that is gone', { kind: 'movement', section: 'attic' }, '', ''],
  ])('is %s', (_, step, number, name) => {
    expect(at(step)).toEqual({ number, name });
  });
});
