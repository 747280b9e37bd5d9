import type { UnitSource } from '@hurrel/core';

/** Units that come with the application: the band's own, and the one it borrows at the second landing. */
export const demoUnits: UnitSource[] = [
  {
    instrument: 'oxbow-sluice',
    name: 'the barge’s own',
    note: 'Damp in the mornings: tune after an hour.',
    calibration: {
      cutoff: [
        { at: 0.2, value: 84.2, against: 'tuner' },
        { at: 0.5, value: 655, against: 'tuner' },
        { at: 0.8, value: 5210, against: 'tuner' },
      ],
      tune: [{ at: 0.5, value: 6.5, against: 'tuner' }],
      'lfo1-rate': [{ at: 0.5, value: 1.71, against: 'lamp' }],
    },
  },
  {
    instrument: 'oxbow-sluice',
    name: 'lent by Skerrow Lock',
    note: 'Board B. Its cutoff reads a third of a division low.',
    calibration: {
      cutoff: [
        { at: 0.25, value: 106, against: 'tuner' },
        { at: 0.75, value: 3350, against: 'tuner' },
      ],
      'osc2-fine': [{ at: 0.5, value: -3.5, against: 'tuner' }],
    },
  },
  {
    instrument: 'marram-estuary',
    name: 'stage left',
    slots: [
      { bank: 1, slot: 1, name: 'INIT', needed: true, note: 'Where a rebuild starts.' },
      { bank: 1, slot: 2, name: 'HAZE', needed: true },
      { bank: 1, slot: 3, name: 'CALL', needed: true },
      { bank: 1, slot: 4, name: 'GLASS' },
      { bank: 2, slot: 1, name: 'OLD PAD 3', note: 'From the last owner.' },
      { bank: 2, slot: 2 },
    ],
  },
];
