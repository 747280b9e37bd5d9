import equal from 'fast-deep-equal';
import type { Instrument } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import { overwriteWarning, slotName, storedName } from '../unit/memory';
import type { Unit } from '../unit/schema';
import type { PanelBefore, Storing } from './step';

/** Seconds to go to a place and store there. */
const STORED = 6;

/**
 * What ends a rebuild on an instrument with memory: a place that is needed is asked about first, then the sound is stored,
 * then named.
 * @param unit the one before which one stands, when that is known: what its places hold
 */
export function storingSteps(
  { memory }: Instrument,
  before: PanelBefore,
  { stored }: Patch,
  unit?: Unit,
): Storing[] {
  if (!stored || memory.kind === 'none' || equal(before.stored, stored)) return [];
  const { bank, slot, name } = stored;
  const place = slotName(memory, bank, slot);
  const warning = unit ? overwriteWarning(memory, unit, bank, slot) : '';
  const named = storedName(memory, name);
  const step = (id: string, text: string, told: string[], seconds: number): Storing => ({
    kind: 'store',
    id: `store-${id}`,
    text,
    told,
    warning,
    seconds,
  });
  return [
    ...(warning ? [step('ask', `Before you store: ${warning}`, [], 0)] : []),
    step('place', `Store in ${place}`, [], STORED),
    ...(named.text
      ? [
          step(
            'name',
            `Name it ${named.text}`,
            [...named.text, named.lost].filter(Boolean),
            named.seconds,
          ),
        ]
      : []),
  ];
}
