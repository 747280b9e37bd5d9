import * as z from 'zod';
import { isModuleKind, moduleSpec } from '../catalogue';
import { id, port, prose, words } from '../instrument/atoms';
import {
  type ContinuousControl,
  type Control,
  type Instrument,
  moduleSchema,
  physicalUnitSchema,
  stageSchema,
  type SwitchedControl,
  type Taper,
  taperSchema,
  wireSchema,
} from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { type PrintedTaper, printedTaper } from '../reading/printed-taper';

const pattern = z.string().min(1).max(200);

/** A circuit to begin from, and the words by which its parameters are recognised on a panel. */
export const skeletonSchema = z.strictObject({
  format: z.literal('hurrel-skeleton'),
  version: z.literal(1),
  id,
  name: words,
  summary: prose,
  circuit: z.strictObject({ modules: z.array(moduleSchema), wires: z.array(wireSchema) }),
  /** It stands behind one module of a cabinet: what such a module is called. */
  module: pattern.optional(),
  /** What jacks are called that lead to a port, as regular expressions, in small letters; and which way they go. */
  jacks: z
    .array(z.strictObject({ port, jack: pattern, direction: z.enum(['in', 'out']) }))
    .optional(),
  roles: z.array(
    z.strictObject({
      module: id,
      param: id,
      /** What a section is called that the control stands in, and the control, as regular expressions; small letters. */
      section: pattern,
      control: pattern,
      /** The section's place in the order of work, when the name alone says too little. */
      stage: stageSchema.optional(),
      /** For what turns. */
      taper: taperSchema.optional(),
      reads: z.strictObject({ unit: physicalUnitSchema, factor: z.number() }).optional(),
      /** For switches: value of the parameter, and what its position is called. */
      words: z.record(z.string(), pattern).optional(),
    }),
  ),
});
export type Skeleton = z.infer<typeof skeletonSchema>;
type Role = Skeleton['roles'][number];

/** What a control would do, and why that is thought. */
export interface Proposal {
  control: string;
  module: string;
  param: string;
  reason: string;
  binding: Control['bindings'][number];
  /** What the panel says that the parameter cannot do: somebody decides before it is taken. */
  asks?: string;
}

/**
 * Proposes a parameter of a skeleton for every control whose section and name it recognises: each control once, each
 * parameter once, in the order of the roles.
 */
export function proposeBindings(instrument: Instrument, skeleton: Skeleton): Proposal[] {
  const sections = new Map(instrument.sections.map((s) => [s.id, s]));
  const modules = new Map(skeleton.circuit.modules.map((m) => [m.id, m.name ?? m.id]));
  const kinds = new Map(skeleton.circuit.modules.map((m) => [m.id, m.kind]));
  const taken = new Set<string>();
  const found: Proposal[] = [];
  for (const role of skeleton.roles) {
    const key = `${role.module}.${role.param}`;
    if (taken.has(key)) continue;
    for (const control of instrument.controls) {
      const section = sections.get(control.section);
      if (taken.has(control.id) || !section || !fits(role, section, control)) continue;
      const bound = bindingFor(role, kinds.get(role.module) ?? '', control);
      if (!bound) continue;
      taken.add(control.id).add(key);
      found.push({
        control: control.id,
        module: role.module,
        param: role.param,
        reason: `“${control.name}” in ${section.name}: ${role.param} of ${modules.get(role.module)}${bound.note}`,
        binding: bound.binding,
        ...(bound.asks ? { asks: bound.asks } : {}),
      });
      break;
    }
  }
  return found;
}

const fits = (
  role: Role,
  section: { name: string; stage: string },
  control: { name: string },
): boolean =>
  (role.stage === undefined || role.stage === section.stage) &&
  new RegExp(role.section).test(section.name.toLowerCase()) &&
  new RegExp(role.control).test(control.name.toLowerCase());

function bindingFor(
  role: Role,
  kind: string,
  control: Control,
): { binding: Proposal['binding']; note: string; asks?: string } | null {
  const { module, param } = role;
  if (isSwitched(control)) {
    const values = role.words && valuesOf(role.words, control);
    return values ? { binding: { module, param, values: values.values }, note: values.note } : null;
  }
  if (!role.taper) return null;
  const printed = taperFor(role, kind, control);
  const asks = 'why' in printed ? printed.why : undefined;
  const taper = 'why' in printed ? role.taper : printed.taper;
  const reads = role.reads ? { reads: role.reads } : {};
  const binding = { module, param, taper, ...reads };
  return { binding, note: `, ${sayTaper(taper)}`, ...(asks ? { asks } : {}) };
}

/** Each position by its word; what is not recognised takes the first value, and that is told. */
function valuesOf(
  wanted: Record<string, string>,
  control: SwitchedControl,
): { values: Record<string, string | number>; note: string } | null {
  const numeric = Object.keys(wanted).every((v) => Number.isFinite(Number(v)));
  const read = (value: string): string | number => (numeric ? Number(value) : value);
  const unknown: string[] = [];
  const values = Object.fromEntries(
    control.positions.map((position) => {
      const name = position.name.toLowerCase();
      const value = Object.keys(wanted).find((v) => new RegExp(wanted[v]!).test(name));
      if (value === undefined) unknown.push(position.name);
      return [position.id, read(value ?? Object.keys(wanted)[0]!)];
    }),
  );
  if (unknown.length === control.positions.length) return null;
  const note = unknown.length > 0 ? `; not known: ${unknown.join(', ')}` : '';
  return { values, note };
}

/** What the panel says in units; without them the role's own, of which a scale from nought up gives only the upper half. */
function taperFor(role: Role, kind: string, control: ContinuousControl): PrintedTaper {
  const own = role.taper!;
  const spec = isModuleKind(kind) ? moduleSpec(kind).params[role.param] : undefined;
  const printed =
    spec?.kind === 'number' ? printedTaper(control, spec, role.param, role.reads) : undefined;
  if (printed) return printed;
  const first = control.scale?.marks[0]!.value;
  const half = own.kind === 'linear' && own.lo < 0 && first !== undefined && first >= 0;
  return { taper: half ? { ...own, lo: 0 } : own };
}

const sayTaper = (taper: Taper): string => {
  const [lo, hi] =
    taper.kind === 'table' ? [taper.points[0]![1], taper.points.at(-1)![1]] : [taper.lo, taper.hi];
  return `${lo} to ${hi} ${taper.unit === 'x' ? '' : taper.unit}`.trim();
};

/** Where each jack leads that a skeleton recognises by its name: each port once by a way in, as often as wanted by ways out. */
export function proposeLeads(
  instrument: Instrument,
  { jacks = [] }: Skeleton,
): Map<string, string> {
  const leads = new Map<string, string>();
  const taken = new Set<string>();
  for (const { port: to, jack, direction } of jacks) {
    const wanted = new RegExp(jack);
    for (const one of instrument.jacks) {
      if (one.direction !== direction || leads.has(one.id) || taken.has(to)) continue;
      if (!wanted.test(one.name.toLowerCase())) continue;
      leads.set(one.id, to);
      if (direction === 'in') taken.add(to);
    }
  }
  return leads;
}

/** Whether a skeleton is one for a module of a cabinet that is called so. */
export const suits = ({ module }: Skeleton, name: string): boolean =>
  module !== undefined && new RegExp(module).test(name.toLowerCase());

/** The instrument with a skeleton's circuit, and what was accepted bound to it; what was bound before is let go, and
 * so are a matrix and revisions, which were of the old circuit. */
export const withSkeleton = (
  instrument: Instrument,
  skeleton: Pick<Skeleton, 'circuit'>,
  accepted: readonly Proposal[],
  leads: ReadonlyMap<string, string> = new Map(),
): Instrument => {
  const bindings = new Map(accepted.map((p) => [p.control, p.binding]));
  const { matrix: _, ...rest } = instrument;
  return {
    ...rest,
    revisions: [],
    circuit: skeleton.circuit,
    controls: instrument.controls.map((control) => {
      const binding = bindings.get(control.id);
      return { ...control, bindings: binding ? [binding] : [] } as Control;
    }),
    // Jacks led where the old circuit had them: of the new one is known what its words say.
    jacks: instrument.jacks.map((jack) => ({ ...jack, port: leads.get(jack.id) ?? '' })),
  };
};
