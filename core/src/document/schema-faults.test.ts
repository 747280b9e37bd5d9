import * as z from 'zod';
import { schemaFaults } from './schema-faults';

const knob = z.strictObject({ kind: z.enum(['knob', 'slider']), travel: z.number() });
const toggle = z.strictObject({ kind: z.literal('toggle'), positions: z.array(z.string()) });
const control = z.discriminatedUnion('kind', [knob, toggle]);
const creation = z.union([
  z.strictObject({ patch: z.strictObject({ name: z.string(), control }) }),
  z.strictObject({ from: z.literal('start'), name: z.string() }),
]);

const faults = (schema: z.ZodType, source: unknown): string[] =>
  schemaFaults(schema.safeParse(source).error!, '/body').map((f) => `${f.pointer}: ${f.message}`);

describe('faults of a schema', () => {
  it('name what is missing', () => {
    expect(faults(control, { kind: 'toggle' })).toEqual([
      '/body/positions: Missing: expected a list.',
    ]);
  });

  it('name an unknown key at the key', () => {
    expect(faults(control, { kind: 'knob', travel: 1, 'a/b': 2, c: 3 })).toEqual([
      '/body/a~1b: There is no such field here.',
      '/body/c: There is no such field here.',
    ]);
  });

  it('list the kinds where the kind is unknown', () => {
    expect(faults(control, { kind: 'dial' })).toEqual([
      '/body/kind: Expected one of "knob", "slider", "toggle".',
    ]);
  });

  it('are those of the shape that was meant', () => {
    expect(faults(creation, { patch: { name: 'a', control: { kind: 'toggle' } } })).toEqual([
      '/body/patch/control/positions: Missing: expected a list.',
    ]);
    expect(faults(creation, { from: 'start' })).toEqual([
      '/body/name: Missing: expected a string.',
    ]);
  });

  it('say which types a value may have', () => {
    expect(faults(z.union([z.number(), z.string()]), {})).toEqual([
      '/body: Expected a number or a string.',
    ]);
    expect(faults(z.string(), 7)).toEqual(['/body: Expected a string, not a number.']);
    expect(faults(z.record(z.string().regex(/^a/, 'begins with a'), z.number()), { b: 1 })).toEqual(
      ['/body/b: begins with a'],
    );
  });

  it('stand at the root where there is no prefix', () => {
    expect(schemaFaults(z.number().safeParse('x').error!)[0]!.pointer).toBe('/');
  });
});
