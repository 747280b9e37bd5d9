import type { Jack } from '../instrument/jack';
import type { Control, Display, Scale } from '../instrument/schema';
import { guessAmount, guessKind, guessSignal, hasDisplay, restsInMiddle } from './guess';
import { idFrom, take } from './ids';
import type { OutlineControl, OutlineJack } from './outline';
import {
  decimalsShown,
  divisionOf,
  isByRatio,
  milliDecimalsShown,
  printedMarks,
  readOnScale,
  travelAt,
} from './scale';

/** The control that an outline describes, with nothing that it turns. @param above whose knob a second function shares */
export function controlOf(
  control: OutlineControl,
  id: string,
  section: string,
  above: string,
  place: Control['place'],
): Control {
  const { name, positions, second, route } = control;
  const kind = control.kind ?? guessKind(control);
  const base = {
    id,
    section,
    name,
    place,
    ...(second ? { where: `second function of ${above}`.slice(0, 80) } : {}),
    ...(route ? { route } : second ? { route: ['second function', above] } : {}),
    ...((control.amount ?? guessAmount(control)) ? { amount: true } : {}),
    ...(control.cc === undefined ? {} : { cc: control.cc }),
  };
  if (positions) {
    const taken = new Set<string>();
    const made = positions.map((p) => ({ id: take(idFrom(p), taken), name: p }));
    const rest = made[Math.max(0, positions.indexOf(control.rest ?? ''))]!.id;
    return { ...base, kind, positions: made, rest, bindings: [] } as Control;
  }
  return {
    ...base,
    kind,
    sweep: 300,
    ...numbersFor(control, kind),
    rest: restOf(control),
    bindings: [],
  } as Control;
}

/** Its scale, and its display where its number stands on one. */
function numbersFor(
  control: OutlineControl,
  kind: Control['kind'],
): { scale?: Scale; display?: Display } {
  if (!control.marks) return {};
  const { unit = '', decimals, step, words } = control;
  const shown = control.display ?? hasDisplay(kind);
  const marks = printedMarks(control.marks, unit);
  // A display in seconds goes on in milliseconds below one, unless it is said to be written otherwise.
  const writtenIn = control.writtenIn ?? (shown && unit === 's' ? 'ms and s' : undefined);
  const scale: Scale = {
    marks,
    division: divisionOf(marks),
    unit,
    ...(isByRatio(control.marks, unit) ? { by: 'ratio' as const } : {}),
    ...(writtenIn ? { writtenIn } : {}),
  };
  if (!shown) return { scale };
  const parted = writtenIn === 'ms and s';
  const milliDecimals = parted ? milliDecimalsShown(control.marks) : 0;
  const display: Display = {
    decimals: Math.min(4, decimals ?? decimalsShown(scale)),
    ...(milliDecimals > 0 ? { milliDecimals } : {}),
    ...(step === undefined ? {} : { step }),
    ...(words ? { words } : {}),
  };
  return { scale, display };
}

/** Where it rests: as said, else at nought when its scale goes to both sides, in the middle when it tunes, at its lower end. */
function restOf({ name, marks, rest, unit, writtenIn }: OutlineControl): number {
  if (!marks) {
    if (rest !== undefined) return parseFloat(rest) / 100;
    return restsInMiddle(name) ? 0.5 : 0;
  }
  const value = rest === undefined ? 0 : readOnScale(rest, { unit, writtenIn });
  return travelAt(printedMarks(marks, unit), value, isByRatio(marks, unit)) ?? 0;
}

/** The jack that an outline describes, leading nowhere. */
export function jackOf(jack: OutlineJack, id: string, section: string, place: Jack['place']): Jack {
  return {
    id,
    section,
    name: jack.name,
    place,
    signal: jack.signal ?? guessSignal(jack),
    direction: jack.direction,
    ...(jack.standard ? { standard: jack.standard } : {}),
    port: '',
  };
}
