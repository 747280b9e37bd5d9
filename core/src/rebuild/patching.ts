import type { Placed } from '../instrument/rack';
import type { Instrument } from '../instrument/schema';
import { cableText, jackLabel, jackOf } from '../patch/cables';
import { matrixRowText } from '../patch/matrix';
import type { Patch } from '../patch/schema';
import { cableChange, type CableMove } from './cables';
import type { Cabling, PanelBefore, Racking, RowSetting } from './step';
import type { HandTimes } from './time';

/** Seconds for a module that is screwed out or in; an estimate, with the power off. */
const SCREWED = 60;

/** Movements of cables from one panel to a patch, fewest first pulls, then moves, then what is added. */
export function cableSteps(
  instrument: Instrument,
  before: PanelBefore,
  patch: Patch,
  times: HandTimes,
): Cabling[] {
  return cableChange(before.cables, patch.cables).moves.map((move) => {
    const jack = handAt(move);
    const more = [move.after?.colour, move.after?.length && `${move.after.length} cm`];
    const cord = more.filter(Boolean).join(', ');
    const note = [cord, move.after?.note].filter(Boolean).join(' · ');
    return {
      ...move,
      id: `${move.kind}-${move.before?.id ?? 'new'}-${move.after?.id ?? 'out'}`,
      jack,
      section: jackOf(instrument, jack)?.section ?? '',
      text: moveText(instrument, move),
      ...(note ? { note } : {}),
      seconds: move.kind === 'pull' ? times.pull : times.cable,
    };
  });
}

const handAt = (move: CableMove): string => {
  const cable = (move.kind === 'pull' ? move.before : move.after)!;
  return (move.end ? (cable[move.end] ?? cable.from) : (cable.from ?? cable.to)) ?? '';
};

function moveText(instrument: Instrument, move: CableMove): string {
  if (move.kind === 'pull') return `Pull ${cableText(instrument, move.before!)}`;
  if (move.kind === 'add') {
    const plug = move.after!.from === undefined || move.after!.to === undefined;
    return `${plug ? 'Put a' : 'Patch'} ${cableText(instrument, move.after!)}`;
  }
  const [was, is] = [move.before![move.end!], move.after![move.end!]];
  const stays = jackLabel(instrument, move.after![move.end === 'to' ? 'from' : 'to']);
  if (is === undefined) {
    return `Pull ${jackLabel(instrument, was)}, leave ${stays} plugged`;
  }
  return `Move ${jackLabel(instrument, was)} to ${jackLabel(instrument, is)}, leave ${stays} plugged`;
}

/** Matrix rows that differ, in order of their numbers. */
export function rowSteps(
  instrument: Instrument,
  before: PanelBefore,
  patch: Patch,
  times: HandTimes,
): RowSetting[] {
  const { matrix } = instrument;
  if (!matrix) return [];
  const numbers = [...new Set([...before.matrix, ...patch.matrix].map((r) => r.row))];
  return numbers
    .sort((a, b) => a - b)
    .flatMap((row) => {
      const [was, is] = [before, patch].map((p) => p.matrix.find((r) => r.row === row));
      const text = (r: typeof was): string => (r ? matrixRowText(matrix, r) : 'empty');
      if (text(was) === text(is)) return [];
      // Source and destination are chosen only where they differ; the depth always, once.
      const chosen = matrix.fixed[row]
        ? 0
        : Number(was?.source !== is?.source) + Number(was?.destination !== is?.destination);
      const route = [...matrix.route, `row ${row + 1}`];
      const seconds = route.length * times.press + chosen * times.switch + times.knob;
      const step = { id: `row-${row}`, row, from: text(was), to: text(is), route, seconds };
      return [{ kind: 'row', ...step, ...(was ? { before: was } : {}) }];
    });
}

/** Modules of a cabinet that are not where the patch had them. */
export function rackSteps(instrument: Instrument, before: PanelBefore, patch: Patch): Racking[] {
  const { rack } = instrument;
  if (!rack) return [];
  const [was, is] = [before.rack ?? rack.placed, patch.rack ?? rack.placed];
  const name = (p: Placed): string => rack.types.find((t) => t.id === p.type)?.name ?? p.type;
  const at = (p: Placed): string => `row ${p.row + 1}, ${p.at} from the left`;
  const steps: Racking[] = [];
  for (const p of was) {
    if (!is.some((q) => q.id === p.id && q.type === p.type)) {
      steps.push({
        kind: 'rack',
        id: `rack-out-${p.id}`,
        section: '',
        text: `Power off. Take ${name(p)} out of ${at(p)}`,
        seconds: SCREWED,
      });
    }
  }
  for (const p of is) {
    const old = was.find((q) => q.id === p.id && q.type === p.type);
    if (old && old.row === p.row && old.at === p.at) continue;
    steps.push({
      kind: 'rack',
      id: `rack-in-${p.id}`,
      section: p.id,
      text: `Power off. Put ${name(p)} into ${at(p)}`,
      seconds: SCREWED,
    });
  }
  return steps;
}

/** Seconds for a board that is exchanged. */
const EXCHANGED = 120;

/** Boards of the instrument that are exchanged: where the panel is known to have another one. */
export function revisionSteps(
  { revisions }: Instrument,
  before: PanelBefore,
  patch: Patch,
): Racking[] {
  const [was, is] = [before.revision, patch.revision].map((id) =>
    revisions.find((r) => r.id === id),
  );
  if (!was || !is || was === is) return [];
  return [
    {
      kind: 'rack',
      id: `revision-${is.id}`,
      section: '',
      text: `Power off. Exchange ${was.name} for ${is.name}`,
      seconds: EXCHANGED,
    },
  ];
}
