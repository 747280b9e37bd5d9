import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import equal from 'fast-deep-equal';
import {
  hasCircuit,
  type Instrument,
  instrumentOf,
  moduleInFocus,
  type OutlineReading,
  panelOf,
  proposeLeads,
  type Proposal,
  readOutline,
  type Skeleton,
  withModuleInFocus,
  withPlainInit,
  withSkeleton,
} from '@hurrel/core';
import { ToastService } from '../ui/toasts';
import { InstrumentActions, instrumentFeature } from './instrument.document';

/** What an instrument is good for as far as it is described. */
export interface Works {
  word: string;
  works: boolean;
}

/** The instrument that is open, its outline read, and every edit of it. */
@Injectable()
export class InstrumentDesk {
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);
  /** The instrument as it is stored. */
  readonly whole = this.store.selectSignal(instrumentFeature.selectPresent);
  /** The module of a cabinet that is looked at by itself; null for the whole. */
  readonly module = signal<string | null>(null);
  /** What is described now: the instrument, or one module of a cabinet as an instrument of its own. */
  readonly instrument = computed(() => {
    const [whole, module] = [this.whole(), this.module()];
    return (whole && module !== null ? moduleInFocus(whole, module) : undefined) ?? whole;
  });
  readonly focused = computed(() => this.instrument() !== this.whole());
  readonly text = computed(() => this.whole()?.outline ?? '');
  readonly reading = computed(() => readOnce(this.text()));
  /** The control that is looked at. */
  readonly chosen = signal<string | null>(null);
  /** Something is said of the circuit behind it. */
  readonly modelled = computed(() => {
    const instrument = this.whole();
    return !!instrument && hasCircuit(instrument);
  });
  readonly works = computed((): Works[] => {
    const instrument = this.whole();
    const recorded = !!instrument && panelOf(instrument).controls.length > 0;
    const heard = recorded && this.modelled();
    return [
      ...['recorded', 'compared', 'rebuilt', 'printed'].map((word) => ({ word, works: recorded })),
      ...['heard', 'diagnosed'].map((word) => ({ word, works: heard })),
      { word: 'sequenced', works: heard && (instrument?.sequencers.length ?? 0) > 0 },
    ];
  });

  /** Takes the outline as it is typed now. */
  type(text: string): void {
    const before = this.whole();
    if (!before || text === before.outline) return;
    const next = sharing(instrumentOf(readOnce(text).outline, text, before), before);
    this.store.dispatch(InstrumentActions.edit({ next, gesture: 'outline' }));
  }

  /** Takes an edit of what is described: of a module, where one is looked at. What cannot be done to it is told. */
  edit(change: (instrument: Instrument) => Instrument, gesture?: string): void {
    const [module, before] = [this.module(), this.instrument()];
    if (!before) return;
    if (module === null || !this.focused()) return this.editWhole(change, gesture);
    try {
      this.editWhole((whole) => withModuleInFocus(whole, module, change(before)), gesture);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  /** Takes an edit of the whole instrument. */
  editWhole(change: (instrument: Instrument) => Instrument, gesture?: string): void {
    const before = this.whole();
    if (!before) return;
    const next = change(before);
    this.store.dispatch(
      InstrumentActions.edit({ next, ...(gesture === undefined ? {} : { gesture }) }),
    );
  }

  /** Takes an edit; one that cannot be done is told, and changes nothing. */
  attempt(change: (instrument: Instrument) => Instrument): void {
    try {
      this.edit(change);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  /** Takes a circuit, and what was accepted of it. */
  takeSkeleton(skeleton: Skeleton, accepted: readonly Proposal[]): void {
    this.edit((before) => {
      const made = withSkeleton(before, skeleton, accepted, proposeLeads(before, skeleton));
      return this.focused() ? made : withPlainInit(made);
    });
  }

  /** Nothing is said of the circuit any more. */
  dropCircuit(): void {
    this.edit((before) => withSkeleton(before, { circuit: { modules: [], wires: [] } }, []));
  }
}

/** The last text that was read: a key asks for it twice. */
let last: { text: string; reading: OutlineReading } | null = null;
function readOnce(text: string): OutlineReading {
  if (last?.text !== text) last = { text, reading: readOutline(text) };
  return last.reading;
}

/** What is the same as before is the same object: only what differs is drawn anew. */
function sharing(next: Instrument, before: Instrument): Instrument {
  const same = <T extends { id: string }>(items: T[], old: readonly T[]): T[] => {
    const known = new Map(old.map((one) => [one.id, one]));
    return items.map((one) => {
      const was = known.get(one.id);
      return was && equal(was, one) ? was : one;
    });
  };
  return {
    ...next,
    sections: same(next.sections, before.sections),
    controls: same(next.controls, before.controls),
    jacks: same(next.jacks, before.jacks),
    ...(next.rack && before.rack
      ? { rack: { ...next.rack, types: same(next.rack.types, before.rack.types) } }
      : {}),
  };
}
