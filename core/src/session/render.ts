import { panelOf } from '../instrument/panel-of';
import { applyVariation } from '../patch/variation';
import { blankPattern, blankTrack } from '../pattern/blank';
import type { Pattern } from '../pattern/pattern';
import { chainFrom } from '../pattern/steps';
import { quantise } from '../sequence/quantise';
import { BAR } from '../pattern/rate';
import type { PartSource } from '../sound/part';
import { partSource } from '../sound/part-source';
import { renderParts } from '../sound/render-parts';
import { fromDecibels } from '../theory/level';
import type { PassSubject } from './plan';
import type { Session } from './schema';
import { partStarts } from './part-starts';

/** A recording of a pass: both sides, from the first bar on. */
export interface Take {
  sides: readonly [Float32Array, Float32Array];
  sampleRate: number;
}

export interface SessionOptions {
  sampleRate: number;
  /** Takes by their id; passes whose take is not there are played by the model. */
  takes: ReadonlyMap<string, Take>;
  /** Seconds that the last part rings on. */
  tail: number;
  /** Asked now and then with the share 0..1 that is done; rendering stops when it says true. */
  cancelled?: (done: number) => boolean;
}

/** Seconds that a part rings on into the next. */
const RING = 1.5;

/**
 * All passes of a session together, from takes where there are any and from the model where not; both sides, 1 for full
 * scale.
 * @returns undefined when it has been cancelled
 */
export function renderSession(
  session: Session,
  subjects: readonly PassSubject[],
  options: SessionOptions,
): [Float32Array, Float32Array] | undefined {
  const { sampleRate, takes, tail, cancelled } = options;
  const { starts, bars } = partStarts(session.parts);
  const barSeconds = (BAR * 60) / session.tempo;
  const length = Math.round((bars * barSeconds + tail) * sampleRate);
  const mix: [Float32Array, Float32Array] = [new Float32Array(length), new Float32Array(length)];
  const heard = subjects.filter((s) => !s.pass.muted);
  const pieces = heard.reduce((n, s) => n + Math.max(1, stretches(session, s).length), 0);
  let done = 0;
  for (const subject of heard) {
    const { pass } = subject;
    const gain = fromDecibels(pass.level);
    const take = takes.get(pass.take ?? '');
    if (take) {
      addTake(mix, take, gain, pass.pan, sampleRate);
      done++;
      continue;
    }
    for (const { from, count, variation } of stretches(session, subject)) {
      const part = sourceOf(subject, variation, gain, pass.pan);
      const sides = renderParts([part], {
        sampleRate,
        tempo: session.tempo,
        beats: count * BAR,
        tail: RING,
        ...(cancelled ? { cancelled: (share: number) => cancelled((done + share) / pieces) } : {}),
      });
      if (!sides) return undefined;
      const at = Math.round(starts[from]! * barSeconds * sampleRate);
      for (const side of [0, 1] as const) {
        const n = Math.min(sides[side].length, length - at);
        for (let i = 0; i < n; i++) mix[side][at + i] = mix[side][at + i]! + sides[side][i]!;
      }
      done++;
    }
  }
  return mix;
}

/** Parts that follow each other and are played alike are one stretch: the pattern runs on through them. */
function stretches(
  session: Session,
  { pass }: PassSubject,
): { from: number; count: number; variation: string }[] {
  const found: { from: number; last: number; count: number; variation: string }[] = [];
  session.parts.forEach((part, i) => {
    const variation = pass.plays[part.id];
    if (variation === undefined) return;
    const before = found.at(-1);
    if (before?.last === i - 1 && before.variation === variation) {
      before.last = i;
      before.count += part.bars;
    } else found.push({ from: i, last: i, count: part.bars, variation });
  });
  return found;
}

/** What a pass plays, as the engine takes it. */
export function sourceOf(
  { pass, instrument, patch }: PassSubject,
  variationId: string,
  gain: number,
  pan: number,
): PartSource {
  const variation = patch.variations.find((v) => v.id === variationId);
  const shown = variation ? applyVariation(patch, variation) : patch;
  const face = panelOf(instrument, shown);
  const patterns = pass.pattern === undefined ? [] : chainFrom(patch.patterns, pass.pattern);
  const played = patterns.length > 0 ? patterns : [phrasePattern(patch.phrase)];
  return partSource({ instrument: face, patch: shown, patterns: played, gain, pan });
}

/** A phrase as a pattern that comes round at the bar. */
function phrasePattern(phrase: PassSubject['patch']['phrase']): Pattern {
  const { steps } = quantise(phrase, '1/16', 64, true);
  const length = Math.min(64, Math.max(1, Math.ceil(steps.length / 16)) * 16);
  return blankPattern('phrase', 'Phrase', [{ ...blankTrack('phrase', 'phrase'), length, steps }]);
}

function addTake(
  mix: [Float32Array, Float32Array],
  { sides, sampleRate }: Take,
  gain: number,
  pan: number,
  rate: number,
): void {
  const step = sampleRate / rate;
  const balance = [Math.min(1, 1 - pan), Math.min(1, 1 + pan)] as const;
  for (const side of [0, 1] as const) {
    const from = sides[side];
    const g = gain * balance[side];
    for (let i = 0; i < mix[side].length; i++) {
      const at = i * step;
      const k = Math.floor(at);
      if (k + 1 >= from.length) break;
      const t = at - k;
      mix[side][i] = mix[side][i]! + g * (from[k]! + t * (from[k + 1]! - from[k]!));
    }
  }
}
