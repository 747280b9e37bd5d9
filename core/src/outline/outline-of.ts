import type { Jack } from '../instrument/jack';
import type { Control, Instrument } from '../instrument/schema';
import { isSwitched } from '../instrument/schema';
import { guessAmount, guessKind, guessSignal, guessStage, restsInMiddle } from './guess';
import type { Outline, OutlineControl, OutlineJack } from './outline';
import { travelAt, valueAt } from './scale';

/**
 * An instrument in words: what of it an outline can say. Made an instrument again on top of what it was (`instrumentOf`), it is
 * what it was. A cabinet's modules are none of its words.
 */
export const outlineOf = (instrument: Instrument): Outline => ({
  name: instrument.name,
  maker: instrument.maker,
  sections: instrument.sections.map((section) => ({
    name: section.name,
    ...(section.stage === guessStage(section.name) ? {} : { stage: section.stage }),
    controls: instrument.controls.filter((c) => c.section === section.id).map(controlIn),
    jacks: instrument.jacks.filter((j) => j.section === section.id).map(jackIn),
  })),
});

function controlIn(control: Control): OutlineControl {
  const { name, route } = control;
  const spec = isSwitched(control)
    ? { positions: control.positions.map((p) => p.name) }
    : control.scale
      ? {
          marks: control.scale.marks,
          ...(control.scale.unit === '' ? {} : { unit: control.scale.unit }),
        }
      : {};
  const rest = restIn(control);
  const amount = control.amount === true;
  return {
    name,
    ...(control.kind === guessKind({ name, ...spec }) ? {} : { kind: control.kind }),
    ...spec,
    ...(rest === undefined ? {} : { rest }),
    ...(route ? { route: [...route] } : {}),
    ...(amount === guessAmount({ name, ...spec }) ? {} : { amount }),
  };
}

/** Where it rests, unless that is where it would be taken to rest. */
function restIn(control: Control): string | undefined {
  if (isSwitched(control)) {
    const at = control.positions.findIndex((p) => p.id === control.rest);
    return at > 0 ? control.positions[at]!.name : undefined;
  }
  const { rest, scale } = control;
  if (!scale) {
    return rest === (restsInMiddle(control.name) ? 0.5 : 0) ? undefined : `${100 * rest}%`;
  }
  return rest === (travelAt(scale.marks, 0) ?? 0) ? undefined : String(valueAt(scale.marks, rest));
}

function jackIn(jack: Jack): OutlineJack {
  const { name, direction, signal, standard } = jack;
  return {
    name,
    direction,
    ...(signal === guessSignal({ name, direction }) ? {} : { signal }),
    ...(standard ? { standard } : {}),
  };
}
