import {
  byId,
  type Difference,
  entryDifferences,
  fieldDifferences,
  type ToldField,
} from '../document';
import { controlLabel } from '../instrument/control-name';
import type { Jack } from '../instrument/jack';
import { panelOf } from '../instrument/panel-of';
import type { Control, Instrument, Section } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { writeScale } from './scale';

const FIELDS: ToldField<Instrument>[] = [
  ['name', 'Name', (i) => i.name],
  ['maker', 'Maker', (i) => i.maker],
  ['summary', 'What it is', (i) => i.summary],
  [
    'circuit',
    'Circuit',
    ({ circuit }) =>
      circuit.modules.length === 0
        ? 'nothing is said of it'
        : `${circuit.modules.map((m) => m.name ?? m.id).join(', ')}; ${circuit.wires.length} wires`,
  ],
  [
    'rack',
    'Cabinet',
    ({ rack }) =>
      rack
        ? `${rack.types.map((t) => t.name).join(', ')}; ${rack.placed.length} stand in ${rack.rows} rows`
        : 'none',
  ],
  ['matrix', 'Matrix', ({ matrix }) => (matrix ? `${matrix.rows} rows` : 'none')],
  ['revisions', 'Revisions', (i) => i.revisions.map((r) => r.name).join(', ') || 'none'],
  ['sequencers', 'Sequencers', (i) => i.sequencers.map((s) => s.name).join(', ') || 'none'],
  [
    'memory',
    'Memory',
    ({ memory }) =>
      memory.kind === 'none' ? 'none' : `${memory.banks} banks of ${memory.slots} places`,
  ],
  [
    'panel',
    'Sheet',
    ({ panel: { millimetres, photograph } }) =>
      [
        millimetres ? `${millimetres.width} by ${millimetres.height} mm` : '',
        photograph ? 'on a photograph' : '',
      ]
        .filter((words) => words !== '')
        .join(', ') || 'as drawn',
  ],
];

/** Differences from one description of an instrument to another: sections, controls and jacks, each in words. */
export function instrumentDifferences(was: Instrument, is: Instrument): Difference[] {
  const [before, after] = [panelOf(was), panelOf(is)];
  const known = (id: string): Instrument =>
    after.controls.some((c) => c.id === id) ? after : before;
  // Where nobody has put things, they stand wherever they were laid out.
  const put = after.panel.arranged === true;
  const told = [
    ...fieldDifferences(FIELDS, before, after),
    ...entryDifferences(
      'sections',
      byId(before.sections),
      byId(after.sections),
      (id) => `Section ${id}`,
      (section) => saySection(section, put),
    ),
    ...entryDifferences(
      'controls',
      byId(before.controls),
      byId(after.controls),
      (id) => controlLabel(known(id), id),
      (control) => sayControl(control, put),
    ),
    ...entryDifferences(
      'jacks',
      byId(before.jacks),
      byId(after.jacks),
      (id) => `Jack ${id}`,
      sayJack,
    ),
  ];
  return told.filter((d) => d.before !== d.after);
}

function saySection(section: Section | undefined, put: boolean): string {
  if (!section) return 'none';
  const { name, stage, x, y, width, height } = section;
  return put ? `${name}, ${stage}, at ${x}, ${y}, ${width} by ${height}` : `${name}, ${stage}`;
}

function sayControl(control: Control | undefined, put: boolean): string {
  if (!control) return 'none';
  const spec = isSwitched(control)
    ? control.positions.map((p) => p.name).join('/')
    : control.scale
      ? writeScale(control.scale)
      : 'no scale';
  const turns = control.unheard
    ? ['does nothing that is heard']
    : control.bindings.map((b) => `turns ${sayBinding(b)}`);
  const { x, y, size } = control.place;
  const at = put ? [`at ${x}, ${y}, ${size} wide`] : [];
  return [control.name, control.kind, spec, ...turns, ...at].join(', ');
}

/** What a binding sets, and over which values. */
export function sayBinding(binding: Control['bindings'][number], module = binding.module): string {
  const what = `${module} ${binding.param}`;
  if (!('taper' in binding)) return `${what} ${Object.values(binding.values).join('/')}`;
  const { taper } = binding;
  const values = taper.kind === 'table' ? taper.points.map(([, v]) => v) : [taper.lo, taper.hi];
  return `${what} ${values.join(' to ')} ${taper.unit} ${taper.kind}`.replace('  ', ' ');
}

const sayJack = (jack: Jack | undefined): string =>
  jack
    ? `${jack.name}, ${jack.direction}, ${jack.signal}, ${jack.port === '' ? 'leads nowhere yet' : `leads to ${jack.port}`}`
    : 'none';
