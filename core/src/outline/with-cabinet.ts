import { rackWidth } from '../instrument/arrange';
import type { Instrument, Rack } from '../instrument/schema';
import { onlyWhatIsThere } from '../instrument/still-there';
import { cabinetHeight } from './cabinet';
import { sheetOf } from './sheet-size';

/** Everything on a panel but its cabinet, so much further down. */
function lowered(instrument: Instrument, by: number): Instrument {
  if (by === 0) return instrument;
  const down = <T extends { place: { x: number; y: number; size: number } }>(one: T): T => ({
    ...one,
    place: { ...one.place, y: one.place.y + by },
  });
  return {
    ...instrument,
    sections: instrument.sections.map((s) => ({ ...s, y: s.y + by })),
    controls: instrument.controls.map(down),
    jacks: instrument.jacks.map(down),
  };
}

/** Width that a cabinet needs: of its rows, and of any one module that may stand in it. */
const widthOf = (rack: Rack | undefined): number =>
  rack ? Math.max(rackWidth(rack, []), ...rack.types.map((t) => t.width)) + 8 : 0;

/** Whether the panel stands beneath its cabinet: not where a hand has put some of it beside. */
function beneath({ rack, sections }: Instrument): boolean {
  const height = cabinetHeight(rack);
  return sections.every((s) => s.y >= height);
}

/** What of an instrument is no cabinet, on a sheet of its own, as if nothing stood above it. */
export function withoutCabinet(instrument: Instrument): Instrument {
  const { rack, ...rest } = instrument;
  if (!rack) return instrument;
  const by = beneath(instrument) ? cabinetHeight(rack) : 0;
  const { millimetres: _, photograph: __, ...panel } = instrument.panel;
  return { ...lowered(rest, -by), panel: { ...panel, height: Math.max(1, panel.height - by) } };
}

/**
 * A panel beneath a cabinet. A sheet is as large as both, and as what is known of the real one asks.
 * @param before the instrument as it was described
 * @param there the panel stands where it is to stand
 */
export function withCabinet(
  panel: Instrument,
  rack: Rack | undefined,
  before: Instrument | undefined,
  there = false,
): Instrument {
  const under = !there && (!before || beneath(before));
  const by = under ? cabinetHeight(rack) : 0;
  const { width, height } =
    panel.sections.length === 0 ? { width: 120, height: rack ? 8 : 80 } : panel.panel;
  const { rack: _, ...lower } = lowered(panel, by);
  const { millimetres, photograph } = before?.panel ?? {};
  const sheet = {
    ...lower.panel,
    ...(millimetres ? { millimetres } : {}),
    ...(photograph ? { photograph } : {}),
  };
  const made: Instrument = {
    ...lower,
    panel: sheetOf(
      sheet,
      Math.max(width, widthOf(rack)),
      Math.max(height + by, cabinetHeight(rack)),
    ),
    ...(rack ? { rack } : {}),
  };
  if (!before) return made;
  // What names something of the cabinet was let go where the panel was made by itself.
  const { circuit, matrix, revisions, sequencers, start, init } = before;
  return onlyWhatIsThere({
    ...made,
    ...{ circuit, revisions, sequencers, start, init },
    ...(matrix ? { matrix } : {}),
  });
}
