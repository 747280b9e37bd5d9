import type { Setting } from '../reading/setting';
import type { PanelBefore } from '../rebuild/step';

/** What a panel shows at some time of a set; two that show the same are one object. */
export interface PanelState {
  readonly key: string;
  readonly panel: PanelBefore;
}

/** A panel of which nobody knows how it stands. */
export const UNKNOWN_PANEL: PanelBefore = { settings: {}, cables: [], matrix: [] };

/** Every state of a panel once. */
export class PanelStates {
  private readonly known = new Map<string, PanelState>();

  of(before: PanelBefore): PanelState {
    const { settings, cables, matrix, rack, patterns, outboard, outlet, feed, revision, stored } =
      before;
    const panel: PanelBefore = {
      settings: certain(settings),
      cables,
      matrix,
      ...(rack ? { rack } : {}),
      ...(patterns ? { patterns } : {}),
      ...(outboard ? { outboard } : {}),
      ...(outlet === undefined ? {} : { outlet }),
      ...(feed === undefined ? {} : { feed }),
      ...(revision === undefined ? {} : { revision }),
      ...(stored === undefined ? {} : { stored }),
    };
    const said = JSON.stringify(panel);
    const found = this.known.get(said);
    if (found) return found;
    const state = { key: `${this.known.size}`, panel };
    this.known.set(said, state);
    return state;
  }
}

/** Settings in one order; what does not matter in a patch is not known to stand anywhere. */
function certain(settings: PanelBefore['settings']): Record<string, Setting> {
  const all = Object.entries(settings).filter(([, s]) => s && s.kind !== 'any') as [
    string,
    Setting,
  ][];
  return Object.fromEntries(all.sort(([a], [b]) => (a < b ? -1 : 1)));
}
