/** The part that a section plays in the order of work; see `order`. */
export const stages = [
  'output',
  'oscillators',
  'mixer',
  'amplifier',
  'filter',
  'filter-envelope',
  'modulation',
  'effects',
  'keys',
  'performance',
] as const;
