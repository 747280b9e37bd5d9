import type { Abilities, Sequencer } from '../instrument/sequencer';
import { arpeggioModes } from '../pattern/arpeggio';
import { conditionKinds } from '../pattern/condition';
import { directions } from '../pattern/direction';
import { rateNames } from '../pattern/rate';

/** Everything a sequencer can hold, with nothing left out. */
export type Capabilities = Required<Abilities>;

const NOTHING: Capabilities = {
  notes: { from: 0, to: 127 },
  together: 1,
  tie: false,
  slide: false,
  accent: false,
  velocity: false,
  length: false,
  micro: false,
  ownValues: [],
  conditions: [],
  rates: ['1/4', '1/8', '1/8t', '1/16', '1/16t', '1/32'],
  directions: ['forward'],
  swing: false,
  ownLengths: false,
  modes: ['up'],
  octaves: 1,
};

/** What a pattern that is played from outside may hold: anything. */
export const OUTSIDE: Capabilities = {
  ...NOTHING,
  together: 8,
  tie: true,
  slide: true,
  accent: true,
  velocity: true,
  length: true,
  micro: true,
  ownValues: 'all',
  conditions: [...conditionKinds],
  rates: [...rateNames],
  directions: [...directions],
  swing: true,
  ownLengths: true,
  modes: [...arpeggioModes],
  octaves: 4,
};

const kinds: Record<Sequencer['kind'], Capabilities> = {
  'two-pass': {
    ...NOTHING,
    notes: { from: 12, to: 71 },
    tie: true,
    slide: true,
    accent: true,
    rates: ['1/16', '1/16t', '1/8', '1/32'],
  },
  rows: {
    ...NOTHING,
    directions: ['forward', 'back', 'there-and-back', 'random'],
    rates: [...rateNames],
  },
  'multi-track': {
    ...NOTHING,
    together: 1,
    length: true,
    velocity: true,
    accent: true,
    micro: true,
    ownValues: 'all',
    conditions: [...conditionKinds],
    rates: ['1/4', '1/8', '1/8t', '1/16', '1/16t', '1/32', '1/32t'],
    directions: [...directions],
    swing: true,
    ownLengths: true,
  },
  arpeggio: {
    ...NOTHING,
    together: 8,
    modes: ['up', 'down', 'up-and-down', 'random'],
    octaves: 4,
    swing: true,
  },
};

/** What a sequencer can hold: as its kind has it, but for what its description says otherwise. */
export function capabilitiesOf(sequencer: Sequencer | undefined): Capabilities {
  if (!sequencer) return OUTSIDE;
  const said = Object.entries(sequencer.can).filter(([, value]) => value !== undefined);
  return { ...kinds[sequencer.kind], ...Object.fromEntries(said) };
}
