import type { Jack } from '../instrument/jack';
import type { ContinuousControl, Control, Instrument, Rack, Section } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import {
  guessAmount,
  guessKind,
  hasDisplay,
  guessSignal,
  guessStage,
  restsInMiddle,
} from './guess';
import type { Outline, OutlineControl, OutlineJack, OutlineSection } from './outline';
import { decimalsShown, travelAt, valueAt, writeAmount } from './scale';

/**
 * An instrument in words: what of it an outline can say. Made an instrument again on top of what it was (`instrumentOf`), it is
 * what it was.
 */
export function outlineOf(instrument: Instrument): Outline {
  const { name, maker, sections, controls, jacks, rack } = instrument;
  return {
    name,
    maker,
    sections: [
      ...sections.map((s) => sectionIn(s, controls, jacks)),
      ...(rack?.types ?? []).map((type): OutlineSection => {
        const { name: own, ...rest } = sectionIn(type, type.controls, type.jacks);
        return { name: own, module: true, ...rest };
      }),
    ],
    ...(rack ? { rows: rowsIn(rack) } : {}),
  };
}

const sectionIn = (
  { id, name, stage }: Pick<Section, 'id' | 'name' | 'stage'>,
  controls: readonly Control[],
  jacks: readonly Jack[],
): OutlineSection => ({
  name,
  ...(stage === guessStage(name) ? {} : { stage }),
  controls: controls.filter((c) => c.section === id).map(controlIn),
  jacks: jacks.filter((j) => j.section === id).map(jackIn),
});

/** Modules by name, row by row and from the left. */
export function rowsIn({ rows, placed, types }: Rack): string[][] {
  const names = new Map(types.map((t) => [t.id, t.name]));
  return Array.from({ length: rows }, (_, row) =>
    placed
      .filter((p) => p.row === row)
      .sort((a, b) => a.at - b.at)
      .map((p) => names.get(p.type) ?? p.type),
  );
}

function controlIn(control: Control): OutlineControl {
  const { name, route } = control;
  const spec = isSwitched(control)
    ? { positions: control.positions.map((p) => p.name) }
    : control.scale
      ? {
          marks: control.scale.marks,
          ...(control.scale.unit === '' ? {} : { unit: control.scale.unit }),
          ...(control.scale.writtenIn ? { writtenIn: control.scale.writtenIn } : {}),
          ...displayIn(control),
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
    ...(control.cc === undefined ? {} : { cc: control.cc }),
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
  const { marks, by, unit, writtenIn } = scale;
  if (rest === (travelAt(marks, 0) ?? 0)) return undefined;
  return writeAmount(valueAt(marks, rest, by === 'ratio'), { unit, writtenIn });
}

/** What an outline says of the display of a control that has a scale. */
function displayIn({ kind, scale, display }: ContinuousControl): Partial<OutlineControl> {
  const shown = display !== undefined;
  const { decimals = 0, step, words } = display ?? {};
  return {
    ...(shown && decimals !== decimalsShown(scale!) ? { decimals } : {}),
    ...(shown === hasDisplay(kind) ? {} : { display: shown }),
    ...(step === undefined ? {} : { step }),
    ...(words ? { words } : {}),
  };
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
