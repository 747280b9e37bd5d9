/** Step lengths that sequencers offer, in quarter notes: t is a triplet, d is dotted. */
export const stepRates = {
  '1/1': 4,
  '1/2': 2,
  '1/4d': 1.5,
  '1/4': 1,
  '1/4t': 2 / 3,
  '1/8d': 0.75,
  '1/8': 0.5,
  '1/8t': 1 / 3,
  '1/16d': 0.375,
  '1/16': 0.25,
  '1/16t': 1 / 6,
  '1/32': 0.125,
  '1/32t': 1 / 12,
} as const;
export type StepRate = keyof typeof stepRates;
export const rateNames = Object.keys(stepRates) as [StepRate, ...StepRate[]];

/** Quarter notes of a bar: patterns count in bars of four. */
export const BAR = 4;
