import { createRoute, z } from '@hono/zod-openapi';
import {
  hasCircuit,
  cableSchema,
  expectedReadings,
  panelOf,
  matrixRowSchema,
  formatSetting,
  noteToMidi,
  notesEnd,
  panelAtInit,
  panelAtStart,
  type PanelBefore,
  parseReading,
  phraseToNotes,
  physicalValue,
  readingText,
  type RebuildPlan,
  settingSchema,
  soundingValue,
  type TimedNote,
  wavFormats,
} from '@hurrel/core';
import { invalid, Problem } from '../problem';
import {
  askedBy,
  body,
  json,
  resolveSubject,
  router,
  type Services,
  type Subject,
  subjectSchema,
} from './shared';

const parseRequest = z.strictObject({
  instrument: z.string().max(64),
  control: z.string().max(64),
  text: z.string().max(1000),
  tempo: z.number().min(20).max(400).default(120).openapi({
    description: 'Quarter notes a minute, for note lengths as 1/8.',
  }),
});
const parseResult = z.object({
  setting: settingSchema.nullable().openapi({ description: 'null: not recorded' }),
  reading: z.string(),
  text: z.string(),
  said: z.array(z.string()).openapi({ description: 'What may not have been meant so' }),
  physical: z.object({ value: z.number(), unit: z.string(), text: z.string() }).optional(),
});

const noteRequest = z.strictObject({
  note: z.union([z.number().int().min(0).max(127), z.string().max(8)]),
  start: z.number().min(0).max(120).default(0),
  duration: z.number().positive().max(120).default(0.5),
  velocity: z.number().int().min(1).max(127).default(100),
});
const notes = z.array(noteRequest).max(512).optional();

const renderRequest = subjectSchema.safeExtend({
  notes,
  seconds: z.number().positive().max(60).optional(),
  sampleRate: z.number().int().min(8000).max(192000).default(48000),
  format: z.enum(wavFormats).default('24'),
  seed: z.number().int().min(0).max(4294967295).default(1),
});

const checkRequest = subjectSchema.safeExtend({ notes });
const finding = z.object({
  id: z.string(),
  severity: z.enum(['silent', 'wrong', 'hint', 'idle']),
  title: z.string(),
  why: z.string(),
  controls: z.array(z.string()),
  cables: z.array(z.string()).optional(),
  meant: z.string().optional().openapi({ description: 'It is meant so, and why' }),
  mend: z
    .object({
      text: z.string(),
      settings: z.record(z.string(), settingSchema.nullable()),
      pull: z.array(z.string()).optional(),
      plug: z.array(cableSchema).optional(),
      rows: z.array(matrixRowSchema).optional(),
    })
    .optional(),
});

const rebuildRequest = z.object({
  from: z.union([z.enum(['start', 'init']), subjectSchema]),
  to: subjectSchema,
});
const rebuildResult = z.custom<RebuildPlan>().openapi({
  type: 'object',
  description: 'steps in order, seconds (an estimate), controls that are not recorded',
});

function readNotes(given: z.infer<typeof notes>, subject: Subject): TimedNote[] {
  if (!given) return phraseToNotes(subject.patch.phrase, subject.patch.tempo);
  return given.map((n, i) => {
    const midi = typeof n.note === 'number' ? n.note : noteToMidi(n.note);
    if (midi === undefined || midi < 0 || midi > 127) {
      throw invalid([
        {
          pointer: `/notes/${i}/note`,
          message: `"${n.note}" is no note: expected C3, F#2 or 0 to 127`,
        },
      ]);
    }
    return { note: midi, start: n.start, duration: n.duration, velocity: n.velocity };
  });
}

/** With the WAV file of what is fed in, so that it is heard. */
async function fed(services: Services, subject: Subject): Promise<Subject & { wav?: Uint8Array }> {
  const wav = await services.sounds.of(subject.patch);
  return wav ? { ...subject, wav } : subject;
}

/** What is only recorded cannot be rendered; silence would be no answer. */
function refuseUnmodelled({ instrument }: Subject): void {
  if (hasCircuit(instrument)) return;
  throw new Problem(
    422,
    'Recorded, not modelled',
    `Nothing is said of the circuit of ${instrument.name}: its patches are recorded, compared and rebuilt, and not heard.`,
  );
}

async function panelBefore(
  services: Services,
  from: z.infer<typeof rebuildRequest>['from'],
  target: Subject,
): Promise<PanelBefore> {
  if (from === 'start') return panelAtStart(target.instrument);
  if (from === 'init') return panelAtInit(target.instrument);
  const before = await resolveSubject(services, from, '/from');
  if (before.instrument.id !== target.instrument.id) {
    throw invalid([
      {
        pointer: '/from',
        message: `That patch is for ${before.instrument.name}: expected one for ${target.instrument.name}.`,
      },
    ]);
  }
  return services.instruments.onto(before.patch, target.patch);
}

export const computeRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'post',
        path: '/readings/parse',
        request: { body: body(parseRequest) },
        responses: json(parseResult, 'What a reading was understood as'),
      }),
      async (c) => {
        const { instrument: id, control: controlId, text, tempo } = c.req.valid('json');
        const instrument = await services.instruments.find(id);
        if (!instrument)
          throw invalid([{ pointer: '/instrument', message: `There is no instrument "${id}".` }]);
        const control = panelOf(instrument).controls.find((k) => k.id === controlId);
        if (!control) {
          throw invalid([
            { pointer: '/control', message: `${instrument.name} has no control "${controlId}".` },
          ]);
        }
        const parsed = parseReading(text, control, undefined, tempo);
        if (!parsed.ok) {
          throw invalid([
            {
              pointer: '/text',
              message: `${parsed.message} Expected ${expectedReadings(control)}.`,
            },
          ]);
        }
        const setting = parsed.setting;
        const physical = setting && physicalValue(control, soundingValue(control, setting));
        return c.json(
          {
            setting,
            reading: formatSetting(control, setting ?? undefined),
            text: readingText(control, setting ?? undefined),
            said: parsed.said,
            ...(physical ? { physical } : {}),
          },
          200,
        );
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/check',
        request: { body: body(checkRequest) },
        responses: json(z.object({ items: z.array(finding) }), 'Findings, worst first'),
      }),
      async (c) => {
        const wanted = c.req.valid('json');
        const subject = await resolveSubject(services, wanted);
        const given = {
          ...(await fed(services, subject)),
          notes: readNotes(wanted.notes, subject),
        };
        const items = await services.work.do('check', given, askedBy(c));
        return c.json({ items }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/rebuild',
        request: { body: body(rebuildRequest) },
        responses: json(rebuildResult, 'The movements from one panel to a patch'),
      }),
      async (c) => {
        const { from, to } = c.req.valid('json');
        const target = await resolveSubject(services, to, '/to');
        const before = await panelBefore(services, from, target);
        const plan = await services.work.do('rebuild', { ...target, before }, askedBy(c));
        return c.json(plan, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/render',
        request: { body: body(renderRequest) },
        responses: {
          ...json(z.any(), ''),
          200: {
            description:
              'WAV, of two channels where both sides differ, else of one; a sample of 1 stands for 10 V at the output',
            content: { 'audio/wav': { schema: z.string().openapi({ format: 'binary' }) } },
          },
        },
      }),
      async (c) => {
        const { sampleRate, format, seed, seconds, notes: given, ...source } = c.req.valid('json');
        const subject = await resolveSubject(services, source);
        refuseUnmodelled(subject);
        const keys = readNotes(given, subject);
        const job = {
          ...(await fed(services, subject)),
          notes: keys,
          seconds: seconds ?? Math.min(60, notesEnd(keys) + 1),
          sampleRate,
          format,
          seed,
        };
        const wav = await services.work.do('render', job, askedBy(c));
        return c.body(wav as Uint8Array<ArrayBuffer>, 200, {
          'content-type': 'audio/wav',
        }) as never;
      },
    );
