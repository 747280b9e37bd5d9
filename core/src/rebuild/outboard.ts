import type { Instrument } from '../instrument/schema';
import type { Outboard } from '../instrument/outboard';
import type { Feed } from '../patch/feed';
import type { Patch } from '../patch/schema';
import type { PanelBefore, Racking } from './step';

/** Seconds for a thing that is plugged in or taken out of a line of others, and for one plug that is put elsewhere. */
const PLACED = 20;
const PLUGGED = 8;

/** What is taken away, put behind the instrument or put elsewhere in its order, switched, and taken off at another jack. */
export function outboardSteps(
  instrument: Instrument,
  before: PanelBefore,
  patch: Patch,
): Racking[] {
  const was = before.outboard ?? [];
  const is = patch.outboard;
  const steps: Racking[] = [];
  const work = (id: string, section: string, text: string, seconds: number): void =>
    void steps.push({ kind: 'outboard', id: `outboard-${id}`, section, text, seconds });
  const same = (a: Outboard, b: Outboard): boolean => a.id === b.id && a.name === b.name;
  for (const thing of was) {
    if (!is.some((other) => same(other, thing)))
      work(`out-${thing.id}`, '', `Take away: ${thing.name}`, PLACED);
  }
  const unmoved = stayingInOrder(is.map((thing) => was.findIndex((other) => same(other, thing))));
  is.forEach((thing, i) => {
    const after = i === 0 ? outletName(instrument, patch.outlet) : is[i - 1]!.name;
    const old = was.find((other) => same(other, thing));
    const stood = unmoved.has(i);
    if (!stood) work(`in-${thing.id}`, thing.id, `Put ${thing.name} behind ${after}`, PLACED);
    if ((old?.off ?? false) !== (thing.off ?? false) && (old !== undefined || thing.off))
      work(
        `off-${thing.id}`,
        thing.id,
        `Switch ${thing.name} ${thing.off ? 'off' : 'on'}`,
        PLUGGED,
      );
  });
  if (before.outlet !== patch.outlet)
    work('outlet', '', `Take the sound off at ${outletName(instrument, patch.outlet)}`, PLUGGED);
  feedSteps(instrument, before.feed, patch.feed).forEach((text, i) =>
    work(`feed-${i}`, '', text, PLUGGED),
  );
  return steps;
}

/** What is done for a recording to be fed in: another plug, another recording, another way to start it. */
function feedSteps(instrument: Instrument, was: Feed | undefined, is: Feed | undefined): string[] {
  const nameOf = (id: string): string => instrument.jacks.find((j) => j.id === id)?.name ?? id;
  if (!is) return was ? [`Take what is fed in out of the jack ${nameOf(was.jack)}`] : [];
  const ways = [
    is.start === 'key' ? 'started by each key' : 'running',
    is.round ? 'round and round' : 'once',
  ];
  return [
    ...(was?.jack === is.jack
      ? []
      : [
          was
            ? `Plug what is fed in from the jack ${nameOf(was.jack)} into ${nameOf(is.jack)}`
            : `Plug a player into the jack ${nameOf(is.jack)}`,
        ]),
    ...(was?.sound === is.sound &&
    was.start === is.start &&
    was.round === is.round &&
    was.level === is.level
      ? []
      : [`Feed in "${is.name}", ${ways.join(', ')}, up to ${(10 * is.level).toFixed(1)} V`]),
  ];
}

/** The jack at which the sound is taken off, as the panel calls it. */
const outletName = (instrument: Instrument, outlet: string | undefined): string => {
  const jack = instrument.jacks.find((j) => j.id === outlet);
  return jack ? `the jack ${jack.name}` : 'the output';
};

/**
 * Which of a line need not move for it to come into its new order: the longest run that is in order already.
 * @param places where each stood before; -1 for what is new
 * @returns places in the new order
 */
function stayingInOrder(places: readonly number[]): Set<number> {
  const runs: number[][] = [];
  places.forEach((place, i) => {
    const best = runs
      .slice(0, i)
      .filter((run) => run.length > 0 && places[run.at(-1)!]! < place)
      .reduce<number[]>((a, b) => (b.length > a.length ? b : a), []);
    runs.push(place < 0 ? [] : [...best, i]);
  });
  return new Set(runs.reduce((a, b) => (b.length > a.length ? b : a), []));
}
