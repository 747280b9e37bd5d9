import { DestroyRef, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Subject } from 'rxjs';
import type { Shown } from '@hurrel/core';
import { answer, API } from '../api/client';
import { Outbox } from '../api/outbox';
import { OnDisk } from '../api/on-disk';
import { MidiInService } from './midi-in.service';
import { PanelInputs } from './panel-inputs';
import type { Chosen, HeardOf, Sent } from './sent';
import { untoldOn } from './untold';

/** Ms after the last movement until it is told. */
const REST_MS = 400;

const NOTHING: Sent = new Map();
/** Seconds since a time in ms. */
const agoOf = (at: number): number => Math.max(0, (Date.now() - at) / 1000);

/**
 * Hears every panel of which somebody has said where it is heard, whatever page is open: what it shows is known from then on.
 */
@Injectable({ providedIn: 'root' })
export class PanelsHeard implements OnDestroy {
  private readonly midi = inject(MidiInService);
  private readonly inputs = inject(PanelInputs);
  private readonly api = inject(API);
  private readonly all = signal<ReadonlyMap<string, HeardOf>>(new Map());
  private readonly untold = new Outbox<HeardOf>(
    (panel, of) => this.tell(panel, of),
    untoldOn(inject(OnDisk)),
  );
  /** A place of its memory was chosen, and the server says what the panel shows now. */
  readonly loaded = new Subject<{ panel: string; shown: Shown | null }>();
  /** Panels of which a page tells itself what is heard. */
  private readonly elsewhere = new Set<() => string>();

  constructor() {
    void this.midi.connectIfAllowed();
    this.midi.moved.pipe(takeUntilDestroyed()).subscribe((last) => {
      const panel = this.inputs.panelAt(last);
      if (panel) this.take(panel, last.cc, last.sent);
    });
    this.midi.chosen.pipe(takeUntilDestroyed()).subscribe(({ input, channel, ...program }) => {
      const panel = this.inputs.panelAt({ input, channel });
      if (panel) this.load(panel, program);
    });
  }

  /** What a panel has sent since this page was opened, or since a place of its memory was chosen. */
  of(panel: string): Sent {
    return this.all().get(panel)?.moved ?? NOTHING;
  }

  /** The place of its memory that was chosen last, since this page was opened. */
  chosenOn(panel: string): Chosen | undefined {
    return this.all().get(panel)?.loaded;
  }

  /** By controller number, what a panel has sent since a time in ms. */
  since(panel: string, ms: number): ReadonlyMap<number, number> {
    const later = [...this.of(panel)].filter(([, { at }]) => at >= ms);
    return new Map(later.map(([cc, { sent }]) => [cc, sent]));
  }

  /** What is heard of this panel is told by whoever stands before it, as long as they are there. In an injection context. */
  tellsItself(panel: () => string): void {
    this.elsewhere.add(panel);
    inject(DestroyRef).onDestroy(() => this.elsewhere.delete(panel));
  }

  ngOnDestroy(): void {
    this.untold.close();
  }

  private take(panel: string, cc: number, sent: number): void {
    const last = { sent, at: Date.now() };
    const and = (of: HeardOf | undefined): HeardOf => ({
      ...of,
      moved: new Map(of?.moved).set(cc, last),
    });
    this.all.update((all) => new Map(all).set(panel, and(all.get(panel))));
    if ([...this.elsewhere].some((of) => of() === panel)) return;
    this.untold.put(panel, and(this.untold.get(panel)), REST_MS);
  }

  /** Whatever was moved before stands as it is loaded. */
  private load(panel: string, program: Omit<Chosen, 'at'>): void {
    const of: HeardOf = { moved: NOTHING, loaded: { ...program, at: Date.now() } };
    this.all.update((all) => new Map(all).set(panel, of));
    this.untold.put(panel, of, REST_MS);
  }

  private async tell(panel: string, of: HeardOf): Promise<void> {
    // How long ago, not when: clocks of devices differ.
    const moved = [...of.moved].map(([cc, { sent, at }]) => ({ cc, sent, ago: agoOf(at) }));
    const json = { moved, ...(of.loaded ? { loaded: withAgo(of.loaded) } : {}) };
    const { shown } = await answer<{ shown: Shown | null }>(
      this.api.shown[':panel'].heard.$post({ param: { panel }, json }),
    );
    if (of.loaded) this.loaded.next({ panel, shown });
  }
}

const withAgo = ({ at, ...program }: Chosen) => ({ ...program, ago: agoOf(at) });
