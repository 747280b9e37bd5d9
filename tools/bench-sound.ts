/** Sound benchmarks: graphs, and what is measured on them. Runs in Chromium and in Node. */
import {
  Act,
  type Graph,
  type GraphNode,
  LiveSound,
  type ModuleKind,
  moduleSpec,
  render,
} from '@hurrel/core';

type Params = Record<string, number | string>;

function graphOf(modules: Record<string, [ModuleKind, Params?]>, wires: string[]): Graph {
  const nodes: GraphNode[] = Object.entries(modules).map(([id, [kind, given]]) => {
    const defaults = Object.fromEntries(
      Object.entries(moduleSpec(kind).params).map(([name, p]) => [name, p.default]),
    );
    return { id, kind, name: id, params: { ...defaults, ...given }, controls: {} };
  });
  const edges = wires.map((wire) => {
    const [from, to] = wire.split('>').map((s) => s.trim().split('.')) as [string[], string[]];
    return {
      from: { node: from[0]!, port: from[1]! },
      to: { node: to[0]!, port: to[1]! },
      signal: 'audio' as const,
    };
  });
  return { nodes, edges, output: 'out' };
}

/** Two saws, four-pole filter, two envelopes: one opens the amplifier, one moves the cutoff by an amount in octaves. */
export const mono = graphOf(
  {
    keys: ['keyboard'],
    a: ['oscillator'],
    b: ['oscillator', { fine: 7 }],
    mix: ['mixer', { gain1: 0.7, gain2: 0.7 }],
    filter: ['low-pass-24', { cutoff: 400, resonance: 0.5 }],
    e1: ['envelope', { attack: 0.01, decay: 0.6, sustain: 50 }],
    e2: ['envelope', { attack: 0.01, decay: 0.8, sustain: 20 }],
    amount: ['attenuator', { gain: 0.6 }],
    amp: ['amplifier'],
    out: ['output'],
  },
  [
    'keys.pitch1 > a.pitch',
    'keys.pitch1 > b.pitch',
    'a.out > mix.in1',
    'b.out > mix.in2',
    'mix.out > filter.in',
    'keys.gate > e1.gate',
    'keys.trigger > e1.trigger',
    'keys.gate > e2.gate',
    'keys.trigger > e2.trigger',
    'e2.out > amount.in',
    'amount.out > filter.cutoff',
    'filter.out > amp.in',
    'e1.out > amp.cv',
    'amp.out > out.in',
  ],
);

/** Eight voices of two saws, four-pole filter and two envelopes, into chorus, delay and reverb. */
export const poly = graphOf(
  {
    v: ['voices', { voices: 8, spread: 60 }],
    a: ['oscillator'],
    b: ['oscillator', { fine: 9 }],
    mix: ['mixer', { gain1: 0.4, gain2: 0.4 }],
    filter: ['low-pass-24', { cutoff: 600, resonance: 0.4 }],
    e1: ['envelope', { sustain: 80 }],
    e2: ['envelope', { decay: 1, sustain: 30 }],
    amount: ['attenuator', { gain: 0.5 }],
    amp: ['amplifier'],
    sum: ['voice-mixer', { level: 0.5 }],
    chorus: ['chorus'],
    delay: ['delay'],
    reverb: ['reverb'],
    out: ['output'],
  },
  [
    'v.pitch > a.pitch',
    'v.pitch > b.pitch',
    'a.out > mix.in1',
    'b.out > mix.in2',
    'mix.out > filter.in',
    'v.gate > e1.gate',
    'v.trigger > e1.trigger',
    'v.gate > e2.gate',
    'v.trigger > e2.trigger',
    'e2.out > amount.in',
    'amount.out > filter.cutoff',
    'filter.out > amp.in',
    'e1.out > amp.cv',
    'amp.out > sum.in',
    'v.pan > sum.pan',
    'sum.left > chorus.left',
    'sum.right > chorus.right',
    'chorus.left > delay.left',
    'chorus.right > delay.right',
    'delay.left > reverb.left',
    'delay.right > reverb.right',
    'reverb.left > out.left',
    'reverb.right > out.right',
  ],
);

/** Sixty modules of a cabinet, all of them heard: five strands of eleven, and what joins them. */
function cabinet(): Graph {
  const modules: Record<string, [ModuleKind, Params?]> = { keys: ['keyboard'] };
  const wires: string[] = [];
  const filters: ModuleKind[] = [
    'low-pass-24',
    'low-pass-12',
    'diode',
    'low-pass-18',
    'state-variable',
  ];
  filters.forEach((kind, s) => {
    const id = (name: string): string => `${name}${s}`;
    modules[id('o')] = ['oscillator', { wave: s % 2 ? 'pulse' : 'saw', interval: 5 * s }];
    modules[id('p')] = ['oscillator', { wave: 'triangle', fine: 6 }];
    modules[id('n')] = s === 2 ? ['noise', { colour: 'pink' }] : ['sub'];
    modules[id('m')] = ['mixer', { gain1: 0.5, gain2: 0.4, gain3: 0.2 }];
    modules[id('l')] = ['lfo', { rate: 0.3 + s }];
    modules[id('w')] = ['attenuator', { gain: 0.2 }];
    modules[id('e')] = ['envelope', { decay: 0.5, sustain: 40 }];
    modules[id('f')] = ['envelope', { decay: 0.8, sustain: 30 }];
    modules[id('d')] = ['attenuator', { gain: 0.5 }];
    modules[id('c')] = [kind, { cutoff: 700 }];
    modules[id('a')] = ['amplifier'];
    wires.push(
      `keys.pitch1 > ${id('o')}.pitch`,
      `keys.pitch1 > ${id('p')}.pitch`,
      ...(s === 2 ? [] : [`${id('o')}.sync > ${id('n')}.sync`]),
      `${id('o')}.out > ${id('m')}.in1`,
      `${id('p')}.out > ${id('m')}.in2`,
      `${id('n')}.out > ${id('m')}.in3`,
      `${id('l')}.out > ${id('w')}.in`,
      `${id('w')}.out > ${id('o')}.width`,
      `${id('w')}.out > ${id('c')}.cutoff`,
      `keys.gate > ${id('e')}.gate`,
      `keys.gate > ${id('f')}.gate`,
      `${id('f')}.out > ${id('d')}.in`,
      `${id('d')}.out > ${id('c')}.cutoff`,
      `${id('m')}.out > ${id('c')}.in`,
      `${id('c')}.out > ${id('a')}.in`,
      `${id('e')}.out > ${id('a')}.cv`,
      s < 4 ? `${id('a')}.out > sum.in${s + 1}` : `${id('a')}.out > ring.a`,
    );
  });
  modules.sum = ['mixer', { gain1: 0.5, gain2: 0.5, gain3: 0.5, gain4: 0.5 }];
  modules.ring = ['ring'];
  modules.delay = ['delay'];
  modules.out = ['output'];
  wires.push(
    'o0.out > ring.b',
    'ring.out > delay.in',
    'sum.out > delay.in',
    'delay.left > out.left',
    'delay.right > out.right',
  );
  return graphOf(modules, wires);
}
export const modular = cabinet();

const SECONDS = 10;
const strokes = Array.from({ length: 20 }, (_, i) => ({
  start: i * 0.5,
  duration: 0.4,
  note: 45 + (i % 12),
  velocity: 100,
}));
const chords = [0, 3, 7, 10, 12, 15, 19, 22].map((s) => ({
  start: 0,
  duration: SECONDS,
  note: 45 + s,
  velocity: 100,
}));

/** The same as `mono` out of the browser's own nodes: envelopes as sources that move gain and detune at audio rate. */
async function native(): Promise<void> {
  const c = new OfflineAudioContext(1, SECONDS * 48000, 48000);
  const mix = new GainNode(c, { gain: 0.7 });
  const pitches: AudioParam[] = [];
  for (const detune of [0, 7]) {
    const o = new OscillatorNode(c, { type: 'sawtooth', frequency: 110, detune });
    pitches.push(o.frequency);
    o.connect(mix);
    o.start();
  }
  const filters = [1, 4].map(
    (q) => new BiquadFilterNode(c, { type: 'lowpass', frequency: 400, Q: q }),
  );
  const amp = new GainNode(c, { gain: 0 });
  mix.connect(filters[0]!).connect(filters[1]!).connect(amp).connect(c.destination);
  const [e1, e2] = [0, 1].map(() => new ConstantSourceNode(c, { offset: 0 })) as [
    ConstantSourceNode,
    ConstantSourceNode,
  ];
  const amount = new GainNode(c, { gain: 3600 });
  e1.connect(amp.gain);
  e2.connect(amount);
  for (const f of filters) amount.connect(f.detune);
  for (const { start, duration, note } of strokes) {
    for (const p of pitches) p.setValueAtTime(440 * 2 ** ((note - 69) / 12), start);
    for (const [e, decay, sustain] of [
      [e1, 0.13, 0.5],
      [e2, 0.17, 0.2],
    ] as const) {
      e.offset.setTargetAtTime(1.3, start, 0.0068);
      e.offset.setTargetAtTime(sustain, start + 0.01, decay);
      e.offset.setTargetAtTime(0, start + duration, 0.022);
    }
  }
  e1.start();
  e2.start();
  await c.startRendering();
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const rendered = (graph: Graph, notes: typeof strokes): number => {
  const since = performance.now();
  render(graph, { sampleRate: 48000, seconds: SECONDS, notes });
  return performance.now() - since;
};

/** Milliseconds for ten seconds of the mono patch, ours and the browser's own, in turn. */
export async function monoAgainstNative(): Promise<{ ours: number; native: number }> {
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let i = 0; i < 17; i++) {
    const since = performance.now();
    await native();
    theirs.push(performance.now() - since);
    ours.push(rendered(mono, strokes));
  }
  return { ours: median(ours.slice(4)), native: median(theirs.slice(4)) };
}

/** Seconds of sound a second of work gives. */
const speed = (graph: Graph, notes: typeof strokes): number =>
  (1000 * SECONDS) / median(Array.from({ length: 7 }, () => rendered(graph, notes)).slice(2));
export const polySpeed = (): number => speed(poly, chords);
export const modularSpeed = (): number => speed(modular, strokes);

function liveWith(graph: Graph, notes: readonly number[]): LiveSound {
  const live = new LiveSound(48000);
  live.receive({ type: 'graph', side: 'a', graph, tempo: 120 });
  for (const note of notes) live.receive({ type: 'act', act: Act.press, note, value: 100 });
  return live;
}

/** 99th percentile of the share of a stretch of 128 samples that eight voices with effects take. */
export function liveShare(): number {
  const live = liveWith(
    poly,
    chords.map((n) => n.note),
  );
  const [left, right] = [new Float32Array(128), new Float32Array(128)];
  const times: number[] = [];
  for (let i = 0; i < 8000; i++) {
    const since = performance.now();
    live.process(left, right, 128);
    times.push(performance.now() - since);
  }
  const sorted = times.slice(2000).sort((a, b) => a - b);
  return (100 * sorted[Math.floor(sorted.length * 0.99)]!) / (128 / 48);
}

/** Bytes that a stretch of 128 samples leaves for the collector while eight voices sound, and a control is turned. */
export function liveBytes(heapUsed: () => number): number {
  const live = liveWith(
    poly,
    chords.map((n) => n.note),
  );
  const [left, right] = [new Float32Array(128), new Float32Array(128)];
  const turns = [{ node: 'filter', param: 'cutoff', value: 900 }];
  const message = { type: 'turn', side: 'a', turns } as const;
  const play = (stretches: number): void => {
    for (let i = 0; i < stretches; i++) {
      turns[0]!.value = 500 + (i % 400);
      live.receive(message);
      live.process(left, right, 128);
    }
  };
  // Until all of it has been compiled.
  play(24000);
  const found = Array.from({ length: 15 }, () => {
    const before = heapUsed();
    play(1000);
    return heapUsed() - before;
  });
  // Rounds in which it was collected show less than nothing.
  return median(found.filter((v) => v >= 0)) / 1000;
}

/** Megabytes by which memory has grown after an hour of playing. */
export function hourGrowth(collect: () => number): number {
  const live = liveWith(mono, []);
  const [left, right] = [new Float32Array(128), new Float32Array(128)];
  const play = (blocks: number): void => {
    for (let i = 0; i < blocks; i++) {
      const note = 40 + ((i >> 6) % 24);
      if (i % 64 === 0) live.receive({ type: 'act', act: Act.press, note, value: 100 });
      if (i % 64 === 40) live.receive({ type: 'act', act: Act.release, note, value: 0 });
      live.process(left, right, 128);
    }
  };
  play(20000);
  const before = collect();
  play((3600 * 48000) / 128);
  return (collect() - before) / 1e6;
}
