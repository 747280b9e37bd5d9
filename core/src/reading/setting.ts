import * as z from 'zod';
import { valueSchema } from '../pattern/value';

const travel = z.number().min(0).max(1);

/**
 * What was recorded of one control. The absence of a setting means: not recorded yet.
 * - `set`: exactly this.
 * - `range`: anywhere from `from` to `to`; `best` is the best guess inside.
 * - `ear`: against a stated target, near a value.
 * - `any`: does not matter in this patch.
 */
export const settingSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('set'), value: valueSchema }),
  z
    .strictObject({ kind: z.literal('range'), from: travel, to: travel, best: travel })
    .refine((r) => r.from <= r.best && r.best <= r.to, 'expected from <= best <= to'),
  z.strictObject({
    kind: z.literal('ear'),
    target: z.string().trim().min(1).max(200),
    near: valueSchema,
  }),
  z.strictObject({ kind: z.literal('any') }),
]);
export type Setting = z.infer<typeof settingSchema>;
