import { moduleSpec } from '../catalogue';
import { checkTaperFits } from '../instrument/check-tapers';
import type { Outboard, OutboardControl } from '../instrument/outboard';
import { bareFace } from '../instrument/panel-of';
import { paramFits } from '../instrument/param-fits';
import type { Instrument } from '../instrument/schema';
import { canStandBehind } from '../instrument/with-outboard';
import type { Patch } from './schema';

type Report = (pointer: string, message: string) => void;

/** Checks what stands behind an instrument: names of its own, kinds that sound goes through, controls that fit their parameters. */
export function checkOutboard(patch: Patch, definition: Instrument, report: Report): void {
  const bare = bareFace(definition, patch);
  const taken = new Set([
    'behind',
    ...bare.sections.map((s) => s.id),
    ...bare.circuit.modules.map((m) => m.id),
  ]);
  const controls = new Set(bare.controls.map((c) => c.id));
  if (
    patch.outlet !== undefined &&
    !bare.jacks.some((j) => j.id === patch.outlet && j.direction === 'out')
  ) {
    report('/outlet', `${bare.name} has no jack "${patch.outlet}" that gives a sound.`);
  }
  patch.outboard.forEach((thing, i) => {
    const pointer = `/outboard/${i}`;
    if (taken.has(thing.id)) report(`${pointer}/id`, `"${thing.id}" is used already.`);
    taken.add(thing.id);
    if (thing.module !== undefined && !canStandBehind(thing.module)) {
      report(`${pointer}/module`, `Sound does not go through a module "${thing.module}".`);
    }
    thing.controls.forEach((control, k) => {
      const id = `${thing.id}-${control.id}`;
      if (controls.has(id)) report(`${pointer}/controls/${k}/id`, `"${id}" is used already.`);
      controls.add(id);
      checkControl(thing, control, `${pointer}/controls/${k}`, report);
    });
    checkParams(thing, pointer, report);
  });
}

function checkParams({ module, params }: Outboard, pointer: string, report: Report): void {
  if (module === undefined || !canStandBehind(module)) return;
  const spec = moduleSpec(module);
  for (const [name, value] of Object.entries(params)) {
    if (!paramFits(spec, name, value))
      report(`${pointer}/params/${name}`, `${module} takes no such "${name}".`);
  }
}

function checkControl(
  { module }: Outboard,
  { turns, taper, positions, rest, scale }: OutboardControl,
  pointer: string,
  report: Report,
): void {
  if (positions && !positions.some((p) => p.id === rest) && rest !== 0)
    report(`${pointer}/rest`, `There is no position "${rest}".`);
  if (!positions && typeof rest !== 'number')
    report(`${pointer}/rest`, 'Expected a share of travel, 0 to 1.');
  if (!positions && scale[0] === scale[1])
    report(`${pointer}/scale`, 'Both ends of the scale are the same.');
  turns.forEach((param, t) => {
    const at = `${pointer}/turns/${t}`;
    if (module === undefined || !canStandBehind(module)) {
      report(at, 'Without a module there is nothing that it could turn.');
      return;
    }
    const spec = moduleSpec(module);
    const about = Object.hasOwn(spec.params, param) ? spec.params[param] : undefined;
    if (!about) report(at, `${module} has no parameter "${param}".`);
    else if (positions) {
      positions.forEach(({ value }, p) => {
        if (value === undefined || !paramFits(spec, param, value))
          report(`${pointer}/positions/${p}/value`, `${param} takes no "${value ?? 'nothing'}".`);
      });
    } else if (about.kind !== 'number')
      report(at, `${param} has positions: give the control some.`);
    else if (!taper) report(`${pointer}/taper`, 'How its travel becomes a value is missing.');
    else checkTaperFits(taper, about, param, `${pointer}/taper`, report);
  });
}
