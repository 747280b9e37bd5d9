import type { Setting } from '../reading/setting';
import equal from 'fast-deep-equal';
import type { Instrument } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { soundingValue } from '../reading/format';
import { snap } from '../reading/resolution';
import { withRow } from './matrix';
import type { Cable, MatrixRow, Patch, Variation } from './schema';

/** The patch as it stands in one of its variations. */
export function applyVariation(patch: Patch, variation: Variation): Patch {
  const pulled = new Set(variation.pulled);
  return {
    ...patch,
    ...(variation.revision === undefined ? {} : { revision: variation.revision }),
    settings: { ...patch.settings, ...variation.settings },
    cables: [...patch.cables.filter((c) => !pulled.has(c.id)), ...variation.plugged],
    matrix: variation.rows.reduce<MatrixRow[]>(
      (rows, row) => withRow(rows, row.depth === 0 ? row.row : row),
      patch.matrix,
    ),
  };
}

/** What of a state of the panel departs from a patch, as a variation of it. */
export function variationFrom(
  patch: Patch,
  state: Pick<Patch, 'settings' | 'cables' | 'matrix'> & Partial<Pick<Patch, 'revision'>>,
  name: Pick<Variation, 'id' | 'name' | 'about'>,
): Variation {
  const settings: Record<string, Setting> = {};
  for (const [id, setting] of Object.entries(state.settings)) {
    if (!equal(setting, patch.settings[id])) settings[id] = setting;
  }
  const had = (cable: Cable): boolean => patch.cables.some((c) => equal(c, cable));
  const rows: MatrixRow[] = state.matrix.filter((r) => !patch.matrix.some((p) => equal(p, r)));
  for (const row of patch.matrix) {
    if (!state.matrix.some((r) => r.row === row.row)) rows.push({ ...row, depth: 0 });
  }
  return {
    ...name,
    ...(state.revision === undefined || state.revision === patch.revision
      ? {}
      : { revision: state.revision }),
    settings,
    pulled: patch.cables.filter((c) => !state.cables.some((s) => equal(s, c))).map((c) => c.id),
    plugged: state.cables.filter((c) => !had(c)),
    rows,
  };
}

/**
 * A panel between two: what moves continuously stands `share` of the way from one to the other (in travel, snapped to what
 * the panel resolves), matrix depths likewise; switches and cables change over in the middle.
 * @param share 0 the first, 1 the second
 */
export function morph(instrument: Instrument, from: Patch, to: Patch, share: number): Patch {
  const near = share < 0.5 ? from : to;
  const settings: Record<string, Setting> = {};
  for (const control of instrument.controls) {
    const [a, b] = [from.settings[control.id], to.settings[control.id]];
    const kept = near.settings[control.id];
    if (equal(a, b) || isSwitched(control)) {
      if (kept) settings[control.id] = kept;
      continue;
    }
    if (share <= 0 || share >= 1) {
      if (kept) settings[control.id] = kept;
      continue;
    }
    const [p, q] = [Number(soundingValue(control, a)), Number(soundingValue(control, b))];
    settings[control.id] = { kind: 'set', value: snap(control, p + share * (q - p)) };
  }
  return { ...near, settings, matrix: morphRows(from.matrix, to.matrix, share) };
}

function morphRows(
  from: readonly MatrixRow[],
  to: readonly MatrixRow[],
  share: number,
): MatrixRow[] {
  const numbers = [...new Set([...from, ...to].map((r) => r.row))].sort((a, b) => a - b);
  return numbers.flatMap((row) => {
    const [a, b] = [from, to].map((rows) => rows.find((r) => r.row === row));
    const same = !a || !b || (a.source === b.source && a.destination === b.destination);
    if (!same) return [share < 0.5 ? a : b];
    const depth = (a?.depth ?? 0) + share * ((b?.depth ?? 0) - (a?.depth ?? 0));
    return depth === 0 ? [] : [{ ...(a ?? b)!, depth }];
  });
}
