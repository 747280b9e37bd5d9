import * as z from 'zod';
import { stages } from './stages';
import { finite, id, place, port, prose, travel, words } from './atoms';
import { jackSchema } from './jack';
import {
  LARGEST_SHEET,
  MOST_CONTROLS,
  MOST_JACKS,
  MOST_MODULES,
  MOST_REVISIONS,
  MOST_SECTIONS,
  MOST_SEQUENCERS,
  MOST_WIRES,
} from './limits';
import { matrixSchema } from './matrix';
import { memorySchema } from './memory';
import { photographSchema } from './photograph';
import { rackSchemaOf } from './rack';
import { sequencerSchema } from './sequencer';

/** Version of the instrument file format that this code reads and writes. */
export const INSTRUMENT_FORMAT_VERSION = 1;

/** Physical units that a control may stand for. */
export const physicalUnitSchema = z.enum([
  '',
  'Hz',
  's',
  'st',
  'cents',
  '%',
  'V',
  'dB',
  'oct',
  'x',
]);
export type PhysicalUnit = z.infer<typeof physicalUnitSchema>;

/**
 * How travel becomes a physical value. Tables are joined by a monotone cubic of the values, or `by: 'ratio'` of their
 * logarithms; `straight` joins them as the numbers of a scale are read, without the curve.
 */
export const taperSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('linear'), lo: finite, hi: finite, unit: physicalUnitSchema }),
  z.strictObject({
    kind: z.literal('exponential'),
    lo: z.number().positive().max(1e6),
    hi: z.number().positive().max(1e6),
    unit: physicalUnitSchema,
  }),
  z.strictObject({
    kind: z.literal('table'),
    points: z
      .array(z.tuple([travel, finite]))
      .min(2)
      .max(64),
    unit: physicalUnitSchema,
    by: z.literal('ratio').optional(),
    straight: z.literal(true).optional(),
  }),
]);
export type Taper = z.infer<typeof taperSchema>;

/** The numbers around a control, printed or shown; between the marks they run evenly, or `by: 'ratio'`. */
export const scaleSchema = z.strictObject({
  marks: z
    .array(z.strictObject({ at: travel, value: finite }))
    .min(2)
    .max(64),
  /** Smallest printed division, in the scale's own numbers. */
  division: z.number().positive().max(1e6),
  unit: physicalUnitSchema.default(''),
  by: z.literal('ratio').optional(),
  /** How they are written where not in the unit itself: in milliseconds, kilohertz, or each below and above 1 s or 1 kHz. */
  writtenIn: z.enum(['ms', 'kHz', 'ms and s', 'Hz and kHz']).optional(),
});
export type Scale = z.infer<typeof scaleSchema>;

const controlBase = {
  id,
  section: id,
  /** As printed on the panel. */
  name: words,
  place,
  /** Where to find it, in words, when the name does not say it. */
  where: z.string().max(80).optional(),
  /** Presses that lead to a parameter without a control of its own. */
  route: z.array(words).max(12).optional(),
  /** A depth, send or amount: taken out of the way before a new sound is built. */
  amount: z.boolean().optional(),
  /** Controller number that it sends over MIDI when a hand moves it. */
  cc: z.number().int().min(0).max(119).optional(),
  /** It does nothing that is heard: a light, a display, something for the eye. */
  unheard: z.literal(true).optional(),
};

export const continuousKinds = ['knob', 'slider', 'encoder', 'menu', 'wheel', 'pedal'] as const;
export const switchedKinds = ['rotary', 'toggle', 'button'] as const;

const binding = { module: id, param: id };

const displaySchema = z.strictObject({
  decimals: z.number().int().min(0).max(4),
  /** Decimals of milliseconds, where they are shown below a second. */
  milliDecimals: z.number().int().min(0).max(3).optional(),
  /** The numbers shown are so far apart, counted from the lowest. */
  step: z.number().positive().max(1e6).optional(),
  /** Numbers in whose place a word is shown. */
  words: z
    .array(z.strictObject({ at: finite, word: words }))
    .min(1)
    .max(16)
    .optional(),
});
export type Display = z.infer<typeof displaySchema>;

export const continuousControlSchema = z.strictObject({
  ...controlBase,
  kind: z.enum(continuousKinds),
  /** Degrees from one end stop to the other, for what turns. */
  sweep: z.number().min(30).max(360).default(300),
  scale: scaleSchema.optional(),
  /** A display that shows the number of the scale, or without one the physical value, with so many decimals. */
  display: displaySchema.optional(),
  rest: travel,
  bindings: z
    .array(
      z.strictObject({
        ...binding,
        taper: taperSchema,
        /** What the parameter amounts to on this instrument: an envelope amount of gain 1 may be 5 octaves. */
        reads: z.strictObject({ unit: physicalUnitSchema, factor: finite }).optional(),
      }),
    )
    .max(16),
});
export type ContinuousControl = z.infer<typeof continuousControlSchema>;

export const switchedControlSchema = z.strictObject({
  ...controlBase,
  kind: z.enum(switchedKinds),
  positions: z
    .array(z.strictObject({ id, name: words }))
    .min(2)
    .max(64),
  rest: id,
  bindings: z
    .array(z.strictObject({ ...binding, values: z.record(id, z.union([finite, words])) }))
    .max(16),
});
export type SwitchedControl = z.infer<typeof switchedControlSchema>;

/** Told apart by their kind, so that a fault is told of the kind that was meant. */
export const controlSchema = z.discriminatedUnion('kind', [
  continuousControlSchema,
  switchedControlSchema,
]);
export type Control = ContinuousControl | SwitchedControl;

export const stageSchema = z.enum(stages);

export const sectionSchema = z.strictObject({
  id,
  name: words,
  stage: stageSchema,
  x: z.number().min(0).max(LARGEST_SHEET),
  y: z.number().min(0).max(LARGEST_SHEET),
  width: z.number().positive().max(LARGEST_SHEET),
  height: z.number().positive().max(LARGEST_SHEET),
});
export type Section = z.infer<typeof sectionSchema>;

/** Kinds that had other names in files of before. */
const RENAMED: Readonly<Record<string, string>> = {
  lever: 'controller',
  zone: 'key-range',
  'super-saw': 'saw-stack',
};
const todaysKind = (kind: string): string =>
  (Object.hasOwn(RENAMED, kind) && RENAMED[kind]) || kind;

export const moduleSchema = z.strictObject({
  id,
  /** A kind of the module catalogue. */
  kind: id.transform(todaysKind),
  name: words.optional(),
  params: z.record(id, z.union([finite, words])).default({}),
});
export type Module = z.infer<typeof moduleSchema>;

export const wireSchema = z.strictObject({
  from: port,
  to: port,
  /** The jack whose plug breaks this wire: the wire is that jack's normal. */
  normalOf: id.optional(),
});
export type Wire = z.infer<typeof wireSchema>;

export const revisionSchema = z.strictObject({
  id,
  name: words,
  note: prose.optional(),
  /** Modules that stand in the place of those with the same id. */
  modules: z.array(moduleSchema).max(64),
});

export const rackSchema = rackSchemaOf({
  control: controlSchema,
  jack: jackSchema,
  module: moduleSchema,
  wire: wireSchema,
  stage: stageSchema,
  sequencer: sequencerSchema,
});
export type Rack = z.infer<typeof rackSchema>;
export type RackType = Rack['types'][number];

/** An instrument: its panel, and the circuit behind it. Shapes and units are those of the fields. */
export const instrumentSchema = z.strictObject({
  format: z.literal('hurrel-instrument'),
  version: z.literal(INSTRUMENT_FORMAT_VERSION),
  id,
  maker: words,
  name: words,
  summary: prose,
  /** The panel in words, as a person typed it; see `readOutline`. */
  outline: z.string().max(60_000).optional(),
  panel: z.strictObject({
    width: z.number().positive().max(LARGEST_SHEET),
    height: z.number().positive().max(LARGEST_SHEET),
    /** Somebody put things where they are: a new description leaves them there. */
    arranged: z.literal(true).optional(),
    /** Width and height of the real one, when they are known. */
    millimetres: z
      .strictObject({ width: z.number().min(10).max(5000), height: z.number().min(10).max(5000) })
      .optional(),
    /** A photograph of the real one, beneath. */
    photograph: photographSchema.optional(),
  }),
  sections: z.array(sectionSchema).max(MOST_SECTIONS),
  controls: z.array(controlSchema).max(MOST_CONTROLS),
  jacks: z.array(jackSchema).max(MOST_JACKS).default([]),
  circuit: z.strictObject({
    modules: z.array(moduleSchema).max(MOST_MODULES),
    wires: z.array(wireSchema).max(MOST_WIRES),
  }),
  /** A modular cabinet: modules that can be placed, moved and exchanged. */
  rack: rackSchema.optional(),
  matrix: matrixSchema.optional(),
  revisions: z.array(revisionSchema).max(MOST_REVISIONS).prefault([]),
  sequencers: z.array(sequencerSchema).max(MOST_SEQUENCERS).default([]),
  memory: memorySchema,
  /** How the panel is brought to a known start: every control at its own rest but for these. */
  start: z.strictObject({ note: prose, settings: z.record(id, z.union([travel, id])) }),
  /** A plain sounding patch to begin from. */
  init: z.strictObject({ note: prose, settings: z.record(id, z.union([travel, id])) }),
});
export type Instrument = z.infer<typeof instrumentSchema>;

/** An instrument as it may be written in a file, defaults left out. */
export type InstrumentSource = z.input<typeof instrumentSchema>;

/** Value of a control: share of travel for what moves continuously, id of a position for what is switched. */
export type Value = number | string;
