import {
  blankPatch,
  compile,
  diagnose,
  panelOf,
  initPositions,
  type Instrument,
  instrumentSchema,
  openSensitivityCase,
  prune,
  render,
  settingsAt,
  sensitivityOf,
  sensitiveControls,
} from '@hurrel/core';
import cabinetDocument from '../library/instruments/oxbow-lockgate.json' with { type: 'json' };
import document from '../library/instruments/oxbow-sluice.json' with { type: 'json' };

const instrument: Instrument = instrumentSchema.parse(document);
const busy = {
  'osc1-shape': 'pulse',
  'osc1-pwm': 0.4,
  'mix-osc2': 0.7,
  'osc2-fine': 0.55,
  cutoff: 0.4,
  resonance: 0.5,
  'filter-amount': 0.8,
};
const patch = {
  ...blankPatch(instrument, 'bench'),
  revision: 'board-b',
  settings: settingsAt({ ...initPositions(instrument), ...busy }),
};
const SECONDS = 10;
const notes = [{ start: 0, duration: SECONDS, note: 48, velocity: 100 }];

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const times = (count: number, work: () => void): number[] =>
  Array.from({ length: count }, () => {
    const since = performance.now();
    work();
    return performance.now() - since;
  });

/** Seconds of sound a second of work gives: two oscillators, four-pole board, two envelopes, one LFO. */
export function renderSpeed(): number {
  const graph = prune(compile(instrument, patch), notes);
  const ms = times(7, () => render(graph, { sampleRate: 48000, seconds: SECONDS, notes }));
  return (SECONDS * 1000) / median(ms.slice(2));
}

/** How much less work pruning leaves for the init patch, in the same run. */
export function pruneGain(): number {
  const plain = { ...patch, settings: settingsAt(initPositions(instrument)) };
  const whole = compile(instrument, plain);
  const less = prune(whole, notes);
  const options = { sampleRate: 48000, seconds: 3, notes };
  const a = times(6, () => render(whole, options));
  const b = times(6, () => render(less, options));
  return median(a.slice(1)) / median(b.slice(1));
}

/** Milliseconds that one examination by the doctor takes. */
export const checkTime = (): number =>
  median(times(60, () => diagnose(instrument, patch)).slice(10));

/** Seconds that one of two cores takes for its half of 100 controls: how much each matters. */
export function weighTime(): number {
  const ids = sensitiveControls(instrument, patch);
  const since = performance.now();
  const opened = openSensitivityCase(instrument, patch, 48);
  for (let i = 0; i < 50; i++) sensitivityOf(opened, ids[i % ids.length]!);
  return (performance.now() - since) / 1000;
}

/** Sixty modules of the cabinet in two long chains, everything heard, modulated and played. */
function sixty() {
  const definition = instrumentSchema.parse(cabinetDocument);
  const kinds = ['bank', 'ladder', 'vca', 'env', 'lfo', 'mixer', 'mult', 'att', 'high', 'slew'];
  const placed = Array.from({ length: 60 }, (_, i) => ({
    id: `${kinds[i % 10]}-${Math.floor(i / 10) + 1}`,
    type: kinds[i % 10]!,
    row: 0,
    at: i,
  }));
  const face = panelOf(definition, { rack: placed });
  const cables: { id: string; from: string; to: string }[] = [];
  const join = (from: string, to: string): void =>
    void cables.push({ id: `c${cables.length}`, from, to });
  for (let n = 1; n <= 6; n++) {
    join('kb-pitch', `bank-${n}-pitch`);
    join(`bank-${n}-a`, `ladder-${n}-in`);
    join(`ladder-${n}-out`, `high-${n}-in`);
    join(`high-${n}-out`, `vca-${n}-in`);
    join(`env-${n}-out`, `vca-${n}-cv`);
    join('kb-gate', `env-${n}-gate`);
    join(`lfo-${n}-out`, `mult-${n}-in`);
    join(`mult-${n}-o1`, `att-${n}-in1`);
    join(`att-${n}-out1`, `slew-${n}-in`);
    join(`slew-${n}-out`, `ladder-${n}-cv`);
    join(`vca-${n}-out`, `mixer-${n}-in1`);
    join(`mixer-${n}-out`, n === 6 ? 'line-in' : `mixer-${n + 1}-in2`);
  }
  const settings = Object.fromEntries(
    face.controls
      .filter((c) => !('positions' in c))
      .map((c) => [c.id, { kind: 'set', value: 0.6 } as const]),
  );
  return { face, patch: { ...blankPatch(definition, 'bench'), rack: placed, settings, cables } };
}

/** Milliseconds to compile and examine a patch of sixty modules, 95th percentile. */
export function checkSixty(): number {
  const { face, patch: large } = sixty();
  const took = times(80, () => diagnose(face, large)).slice(20);
  return took.sort((a, b) => a - b)[Math.ceil(took.length * 0.95) - 1]!;
}
