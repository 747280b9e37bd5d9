import { isQuiet } from '../../catalogue/interval';
import { cancellationDip } from '../../theory/level';
import { isPlainWave, partialOf } from '../../theory/partials';
import { beatRate, C4_HZ } from '../../theory/pitch';
import type { Audibility } from '../audibility';
import type { GraphNode } from '../graph';
import { edgesInto, nodeOf } from '../graph';
import { tuning } from './filter';
import type { Case, Finding, Mend } from './finding';
import { mendTo, valueFor } from './mend';
import { sumsOf, type Voice } from './sums';

/** Depth in dB from which a dip is told. */
const DEEP = 20;
/** Ratio of two partials that stay: 9.54 dB of dip. */
const BESIDE = 0.5;
/** Partials of the lower sound that the other's fundamental may meet. */
const MEETING = [1, 2, 3, 4] as const;
/** Cents from a whole ratio within which two are taken for in tune. */
const IN_TUNE = 0.5;
/** Cents, and beats a second, up to which a beat is so slow that a note may fall into its hole. */
const NEARLY = 2.5;
const SLOW = 0.5;
/** Cents by which a mend takes two apart. */
const APART = 7;

/** Two sounds in one sum whose partials meet. */
export interface Meeting {
  /** Node where they are added. */
  sum: string;
  low: Voice;
  high: Voice;
  /** Partial of the lower sound that the fundamental of the other meets. */
  partial: number;
  /** Cents by which they miss each other. */
  cents: number;
  /** Amplitudes in V where they meet: of the lower sound's partial, of the other's fundamental. */
  levels: [number, number];
  /** Frequency in Hz at which they meet, on the lowest note. */
  hz: number;
}

/**
 * Oscillators in one sum that meet, in unison or a whole ratio apart, and can nearly take each other away there: what
 * their phases leave is luck, or comes and goes with a slow beat. Judged by the amplitudes of the partials that meet.
 */
export function examineCancelling(c: Case, reach: Audibility): Finding[] {
  return meetingsOf(c)
    .filter((met) => reach.nodeHeard(met.sum) && -cancellationDip(...met.levels) >= DEEP)
    .map((met) => told(c, met));
}

/** Every two sounds that meet in a sum, however deep. */
export const meetingsOf = (c: Case): Meeting[] =>
  sumsOf(c).flatMap(({ node, voices }) =>
    voices.flatMap((a, i) => voices.slice(i + 1).flatMap((b) => meetingOf(c, node.id, a, b) ?? [])),
  );

/** Where two sounds of a sum meet, undefined when they do not, or something keeps them apart. */
function meetingOf(c: Case, sum: string, a: Voice, b: Voice): Meeting | undefined {
  if (a.source.id === b.source.id || apart(c, a.source) || apart(c, b.source)) return undefined;
  if (movedBy(c, a.source) !== movedBy(c, b.source)) return undefined;
  const keys = (v: Voice) => c.bounds.input(v.source.id, 'pitch');
  const [lowest, highest] = keys(a).map((volts, i) => volts - keys(b)[i]!);
  // Their distance must be the same on every key.
  if (Math.abs(lowest! - highest!) > 1e-6) return undefined;
  const cents = 1200 * lowest! + 100 * (tuning(a.source) - tuning(b.source));
  const [low, high] = cents <= 0 ? [a, b] : [b, a];
  const hz = C4_HZ * 2 ** (keys(low)[0] + tuning(low.source) / 12);
  for (const partial of MEETING) {
    const off = Math.abs(cents) - 1200 * Math.log2(partial);
    const beat = Math.abs(beatRate(partial * hz, off));
    if (Math.abs(off) > NEARLY && beat > SLOW) continue;
    if (Math.abs(off) > 50) continue;
    const levels: [number, number] = [level(low, partial), level(high, 1)];
    if (levels[0] === 0 || levels[1] === 0) continue;
    return { sum, low, high, partial, cents: off, levels, hz: partial * hz };
  }
  return undefined;
}

/** Amplitude in V of a partial of a voice where it is added. */
function level({ source, gain }: Voice, n: number): number {
  const { wave } = source.params;
  return isPlainWave(wave) ? 5 * gain * partialOf(wave, n, Number(source.params.width) / 100) : 0;
}

/** What makes an oscillator's partials wander, or ties its phase to another's. */
function apart(c: Case, n: GraphNode): boolean {
  const driven = (port: string): boolean => !isQuiet(c.bounds.input(n.id, port));
  return (
    !isPlainWave(n.params.wave) ||
    Number(n.params.drift) > 0 ||
    (n.params.sync !== 'off' && edgesInto(c.graph, n.id, 'sync').length > 0) ||
    (Number(n.params['fm-depth']) > 0 && driven('fm')) ||
    (n.params.wave === 'pulse' && driven('width'))
  );
}

/** What moves an oscillator's pitch besides its key: only those that the same moves stay together. */
const movedBy = (c: Case, n: GraphNode): string =>
  edgesInto(c.graph, n.id, 'mod')
    .filter((e) => !isQuiet(c.bounds.output(e.from.node, e.from.port)))
    .map((e) => `${e.from.node}.${e.from.port}`)
    .sort()
    .join();

/** Id of the finding of two sounds that meet. */
export const cancellingId = ({ low, high }: Meeting): string =>
  `cancelling:${[low.source.id, high.source.id].sort().join('+')}`;

function told(c: Case, met: Meeting): Finding {
  const [mend, ...others] = mends(c, met);
  const [a, b] = [met.low.source, met.high.source];
  const dip = cancellationDip(...met.levels);
  const depth = dip > -60 ? `dips by ${Math.round(-dip)} dB` : 'dips to nothing';
  const period = 1 / Math.abs(beatRate(met.hz, met.cents));
  const how =
    Math.abs(met.cents) <= IN_TUNE
      ? 'As their phases fall'
      : `With their beat, once in ${round(period)} s on the lowest note`;
  const what =
    met.partial === 1
      ? 'the fundamental'
      : `what the ${ORDINALS[met.partial]} partial of ${a.name} shares with ${b.name}`;
  const controls = [met.high, met.low].flatMap(({ set }) =>
    set ? (nodeOf(c.graph, set.node).controls[set.param] ?? []) : [],
  );
  return {
    id: cancellingId(met),
    severity: 'hint',
    title: `${a.name} and ${b.name} may cancel each other`,
    why: `${how}, ${what} ${depth}: where they meet they are nearly equally loud. With one at half of the other it dips by 9.5 dB at most; or take them further apart.`,
    controls: controls.length > 0 ? controls : tuners(met.high.source),
    ...(mend ? { mend, others } : {}),
  };
}

const ORDINALS: Readonly<Record<number, string>> = { 2: 'second', 3: 'third', 4: 'fourth' };
const round = (value: number): number => Number(value.toPrecision(2));
const tuners = (n: GraphNode): string[] => (n.controls.fine ? [n.controls.fine] : []);

/** The softer one brought to half of the louder where they meet, the louder one likewise, or one of them detuned. */
function mends(c: Case, met: Meeting): Mend[] {
  const [first, second] = met.levels;
  const softer = first <= second ? [met.low, second / first] : [met.high, first / second];
  const louder = first <= second ? [met.high, first / second] : [met.low, second / first];
  return [...([softer, louder] as [Voice, number][])]
    .map(([voice, ratio]) => levelled(c, voice, BESIDE * ratio))
    .concat([met.high, met.low].map((voice) => detuned(c, voice.source)))
    .filter((m) => m !== undefined);
}

function levelled(c: Case, { set }: Voice, factor: number): Mend | undefined {
  if (!set) return undefined;
  const control = nodeOf(c.graph, set.node).controls[set.param];
  const value = valueFor(c.instrument, control, set.node, set.param, set.value * factor);
  return control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
}

function detuned(c: Case, source: GraphNode): Mend | undefined {
  const control = source.controls.fine;
  const value = valueFor(
    c.instrument,
    control,
    source.id,
    'fine',
    Number(source.params.fine) + APART,
  );
  return control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
}
