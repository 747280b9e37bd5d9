import type { Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import { soundingValue } from '../reading/format';
import { taperValue } from '../reading/taper';
import type { Pattern } from '../sequence/pattern';
import { isModuleKind, moduleSpec } from './catalogue';
import { modulesOf } from './compile';
import type { Turn } from './turns';

/** For each pattern, track and step what is turned when the step begins; null where nothing on the track is locked. */
export type LockTurns = readonly (readonly (readonly Turn[][] | null)[])[];

/**
 * What the locks of patterns turn. A step that locks nothing turns back what its track has locked elsewhere, to where the
 * panel has it.
 */
export const lockTurns = (
  instrument: Instrument,
  patch: Pick<Patch, 'settings' | 'revision'>,
  patterns: readonly Pattern[],
): LockTurns =>
  patterns.map((pattern) =>
    pattern.tracks.map((track) => {
      const controls = new Set(track.steps.flatMap((s) => Object.keys(s.locks ?? {})));
      if (controls.size === 0) return null;
      return Array.from({ length: track.length }, (_, i) =>
        [...controls].flatMap((control) =>
          turnsOf(instrument, patch, control, track.steps[i]?.locks?.[control]),
        ),
      );
    }),
  );

/** What puts all that is locked anywhere back to where the panel has it. */
export const unlockTurns = (
  instrument: Instrument,
  patch: Pick<Patch, 'settings' | 'revision'>,
  patterns: readonly Pattern[],
): Turn[] => {
  const steps = patterns.flatMap((p) => p.tracks.flatMap((t) => t.steps));
  const controls = new Set(steps.flatMap((s) => Object.keys(s.locks ?? {})));
  return [...controls].flatMap((control) => turnsOf(instrument, patch, control, undefined));
};

/** The parameters that a control sets, at a value or where the panel has it. Only numbers can be turned. */
function turnsOf(
  instrument: Instrument,
  patch: Pick<Patch, 'settings' | 'revision'>,
  id: string,
  value: Value | undefined,
): Turn[] {
  const control = instrument.controls.find((c) => c.id === id);
  if (!control) return [];
  const at = value ?? soundingValue(control, patch.settings[id]);
  const modules = modulesOf(instrument, patch.revision);
  return control.bindings.flatMap((bound, i): Turn[] => {
    const kind = modules.find((m) => m.id === bound.module)?.kind ?? '';
    const spec = isModuleKind(kind) ? moduleSpec(kind).params[bound.param] : undefined;
    if (spec?.kind !== 'number') return [];
    const wanted = isSwitched(control)
      ? control.bindings[i]!.values[String(at)]
      : taperValue(control.bindings[i]!.taper, Number(at));
    if (typeof wanted !== 'number') return [];
    const held = Math.min(spec.hi, Math.max(spec.lo, wanted));
    return [{ node: bound.module, param: bound.param, value: held }];
  });
}
