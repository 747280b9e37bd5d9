import type { Problem } from '../instrument/check';
import type { Control, Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/schema';
import type { Patch, Setting } from './schema';

/** Checks a patch against its instrument: every control, position, section and jack it names must be there. */
export function checkPatch(patch: Patch, instrument: Instrument): Problem[] {
  const problems: Problem[] = [];
  const report = (pointer: string, message: string): void =>
    void problems.push({ pointer, message });
  if (patch.instrument !== instrument.id) {
    report('/instrument', `The patch is for "${patch.instrument}", not for "${instrument.id}".`);
  }
  if (patch.revision !== undefined && !instrument.revisions.some((r) => r.id === patch.revision)) {
    report('/revision', `${instrument.name} has no revision "${patch.revision}".`);
  }
  const controls = new Map(instrument.controls.map((c) => [c.id, c]));
  const sections = new Set(instrument.sections.map((s) => s.id));
  const jacks = new Set(instrument.jacks.map((j) => j.id));
  for (const [id, setting] of Object.entries(patch.settings)) {
    const pointer = `/settings/${id}`;
    const control = controls.get(id);
    if (!control) report(pointer, `${instrument.name} has no control "${id}".`);
    else checkSetting(setting, control, pointer, report);
  }
  for (const key of Object.keys(patch.notes)) {
    const [kind, id = ''] = key.split(':');
    const known = kind === 'control' ? controls.has(id) : sections.has(id);
    if (!known) report(`/notes/${key}`, `${instrument.name} has no ${kind} "${id}".`);
  }
  patch.checkpoints.forEach((checkpoint, i) => {
    if (!sections.has(checkpoint.after)) {
      report(`/checkpoints/${i}/after`, `There is no section "${checkpoint.after}".`);
    }
  });
  patch.cables.forEach((cable, i) => {
    for (const end of ['from', 'to'] as const) {
      const jack = cable[end];
      if (jack !== undefined && !jacks.has(jack)) {
        report(`/cables/${i}/${end}`, `There is no jack "${jack}".`);
      }
    }
  });
  return problems;
}

function checkSetting(
  setting: Setting,
  control: Control,
  pointer: string,
  report: (pointer: string, message: string) => void,
): void {
  const check = (value: Value, at: string): void => {
    if (isSwitched(control)) {
      if (!control.positions.some((p) => p.id === value)) {
        report(at, `${control.name} has no position "${value}".`);
      }
    } else if (typeof value !== 'number') {
      report(at, `${control.name} moves continuously: expected a share of travel, 0 to 1.`);
    }
  };
  if (setting.kind === 'set') check(setting.value, `${pointer}/value`);
  if (setting.kind === 'ear') check(setting.near, `${pointer}/near`);
  if (setting.kind === 'range' && isSwitched(control)) {
    report(pointer, `${control.name} has positions: it cannot be set within a range.`);
  }
}
