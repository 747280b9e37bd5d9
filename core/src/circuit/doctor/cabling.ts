import { passesModule } from '../passing';
import type { Jack } from '../../instrument/jack';
import {
  cableText,
  freeCableId,
  jackLabel,
  jackOf,
  moduleOfJack,
  originJack,
} from '../../patch/cables';
import type { Cable } from '../../patch/schema';
import { drives, pitchStandard } from '../standard';
import type { Case, Finding, Mend } from './finding';

/** Share by which an output may be above what an input takes before it is called hot. */
const HOT = 1.2;

interface Cord {
  cable: Cable;
  from: Jack;
  to: Jack;
  /** Where the signal really comes from, behind multiples and attenuators. */
  origin: Jack;
}

/** What cables do that hands did not mean: standards that do not match, plugs too many in one jack, levels too hot. */
export function examineCables(c: Case): Finding[] {
  const cords = c.patch.cables.flatMap((cable): Cord[] => {
    const [from, to] = [jackOf(c.instrument, cable.from), jackOf(c.instrument, cable.to)];
    if (cable.inactive || !from || !to) return [];
    const origin = originJack(c.instrument, c.patch.cables, from, (id) =>
      passesModule(c.instrument, id),
    );
    return [{ cable, from, to, origin }];
  });
  return [
    ...cords.flatMap((cord) => standards(c, cord)),
    ...drivenTwice(c, cords),
    ...split(c, cords),
    ...cords.flatMap((cord) => hot(c, cord)),
  ];
}

function standards(c: Case, { cable, from, to, origin }: Cord): Finding[] {
  const say = cableText(c.instrument, cable);
  if (!drives(from, to)) {
    const short = from.signal === 's-trigger';
    return [
      {
        id: `gate-standard:${cable.id}`,
        severity: 'wrong',
        title: `${say} does nothing: a gate and an S-trigger`,
        why: short
          ? `${jackLabel(c.instrument, from.id)} is a short to ground and gives no voltage; ${jackLabel(c.instrument, to.id)} waits for one.`
          : `${jackLabel(c.instrument, from.id)} gives a voltage; ${jackLabel(c.instrument, to.id)} waits for a short to ground.`,
        controls: [],
        cables: [cable.id],
        ...throughConverter(c, cable, from, to),
      },
    ];
  }
  const [given, taken] = [pitchStandard(origin), pitchStandard(to)];
  if (!given || !taken || given === taken) return [];
  return [
    {
      id: `pitch-standard:${cable.id}`,
      severity: 'wrong',
      title: `${say} is out of tune on every key`,
      why: `${jackLabel(c.instrument, origin.id)} counts ${given}, ${jackLabel(c.instrument, to.id)} counts ${taken}: a converter is missing.`,
      controls: [],
      cables: [cable.id],
      ...throughConverter(c, cable, origin, to),
    },
  ];
}

/** The same way through a converter that has both its jacks free. */
function throughConverter(c: Case, cable: Cable, from: Jack, to: Jack): { mend?: Mend } {
  const used = new Set(c.patch.cables.flatMap((k) => [k.from, k.to]));
  const free = c.instrument.jacks.filter((j) => !used.has(j.id));
  for (const input of free) {
    if (input.direction !== 'in' || !alike(input, from)) continue;
    const output = free.find(
      (j) => j.direction === 'out' && moduleOfJack(j) === moduleOfJack(input) && alike(j, to),
    );
    if (!output) continue;
    const [a, b] = twoIds(c.patch.cables);
    return {
      mend: {
        text: `Go through ${jackLabel(c.instrument, input.id)} and ${jackLabel(c.instrument, output.id)}`,
        settings: {},
        pull: [cable.id],
        plug: [
          { id: a, from: cable.from!, to: input.id },
          { id: b, from: output.id, to: cable.to! },
        ],
      },
    };
  }
  return { mend: { text: 'Pull the cable', settings: {}, pull: [cable.id] } };
}

const alike = (a: Jack, b: Jack): boolean =>
  pitchStandard(a) === pitchStandard(b) &&
  (a.signal === 's-trigger') === (b.signal === 's-trigger') &&
  (pitchStandard(a) !== undefined || ['gate', 'clock', 's-trigger'].includes(a.signal));

function twoIds(cables: readonly Cable[]): [string, string] {
  const first = freeCableId(cables);
  return [first, freeCableId([...cables, { id: first }])];
}

function drivenTwice(c: Case, cords: readonly Cord[]): Finding[] {
  return repeated(cords, (cord) => cord.to.id).map((same) => {
    const last = same.at(-1)!.cable;
    return {
      id: `driven-twice:${same[0]!.to.id}`,
      severity: 'wrong',
      title: `${jackLabel(c.instrument, same[0]!.to.id)} is driven by ${same.length} cables`,
      why: `${same.map((s) => jackLabel(c.instrument, s.from.id)).join(' and ')} push against each other; what wins depends on the circuits. Mix them, or pull one.`,
      controls: [],
      cables: same.map((s) => s.cable.id),
      mend: {
        text: `Pull ${cableText(c.instrument, last)}`,
        settings: {},
        pull: [last.id],
      },
    };
  });
}

function split(c: Case, cords: readonly Cord[]): Finding[] {
  return repeated(cords, (cord) => cord.from.id).map((same) => {
    const from = same[0]!.from;
    return {
      id: `split:${from.id}`,
      severity: 'wrong',
      title: `${jackLabel(c.instrument, from.id)} is used in ${same.length} places`,
      why: `A jack holds one plug. ${same.map((s) => jackLabel(c.instrument, s.to.id)).join(' and ')} need a multiple between.`,
      controls: [],
      cables: same.map((s) => s.cable.id),
      ...throughMultiple(c, same),
    };
  });
}

function throughMultiple(c: Case, same: readonly Cord[]): { mend?: Mend } {
  const used = new Set(c.patch.cables.flatMap((k) => [k.from, k.to]));
  const multiples = c.instrument.circuit.modules.filter((m) => m.kind === 'multiple');
  for (const { id } of multiples) {
    const jacks = c.instrument.jacks.filter((j) => moduleOfJack(j) === id && !used.has(j.id));
    const input = jacks.find((j) => j.direction === 'in');
    const outputs = jacks.filter((j) => j.direction === 'out');
    if (!input || outputs.length < same.length || input.signal !== 'modulation') continue;
    const plug: Cable[] = [];
    const add = (from: string, to: string): void =>
      void plug.push({ id: freeCableId([...c.patch.cables, ...plug]), from, to });
    add(same[0]!.from.id, input.id);
    same.forEach((s, i) => add(outputs[i]!.id, s.to.id));
    return {
      mend: {
        text: `Go through ${jackLabel(c.instrument, input.id)}`,
        settings: {},
        pull: same.map((s) => s.cable.id),
        plug,
      },
    };
  }
  return {};
}

/** Groups of more than one with the same key, in order. */
function repeated(cords: readonly Cord[], key: (cord: Cord) => string): Cord[][] {
  const groups = new Map<string, Cord[]>();
  for (const cord of cords) groups.set(key(cord), [...(groups.get(key(cord)) ?? []), cord]);
  return [...groups.values()].filter((g) => g.length > 1);
}

function hot(c: Case, { cable, from, to }: Cord): Finding[] {
  const [gives, takes] = [from.level, to.level];
  if (from.signal !== 'audio' || !gives || !takes || gives <= takes * HOT) return [];
  return [
    {
      id: `hot:${cable.id}`,
      severity: 'hint',
      title: `${cableText(c.instrument, cable)} is too hot`,
      why: `It gives up to ${gives} V, and ${takes} V is what the input takes: turn the level before it down to ${Math.round((100 * takes) / gives)} %, or it overloads.`,
      controls: [],
      cables: [cable.id],
    },
  ];
}
