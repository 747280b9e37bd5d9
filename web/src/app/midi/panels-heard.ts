import { DestroyRef, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { answer, API } from '../api/client';
import { Outbox } from '../shown/outbox';
import { MidiInService } from './midi-in.service';
import { PanelInputs } from './panel-inputs';
import type { Sent } from './sent';
import { untoldOnDevice } from './untold';

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
  private readonly all = signal<ReadonlyMap<string, Sent>>(new Map());
  private readonly untold = new Outbox<Sent>((panel, sent) => {
    // How long ago, not when: clocks of devices differ.
    const moved = [...sent].map(([cc, { sent, at }]) => ({ cc, sent, ago: agoOf(at) }));
    return answer(this.api.shown[':panel'].heard.$post({ param: { panel }, json: { moved } }));
  }, untoldOnDevice);
  /** Panels of which a page tells itself what is heard. */
  private readonly elsewhere = new Set<() => string>();

  constructor() {
    void this.midi.connectIfAllowed();
    this.midi.moved.pipe(takeUntilDestroyed()).subscribe((last) => {
      const panel = this.inputs.panelAt(last);
      if (panel) this.take(panel, last.cc, last.sent);
    });
  }

  /** What a panel has sent since this page was opened. */
  of(panel: string): Sent {
    return this.all().get(panel) ?? NOTHING;
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
    this.all.update((all) => new Map(all).set(panel, new Map(all.get(panel)).set(cc, last)));
    if ([...this.elsewhere].some((of) => of() === panel)) return;
    this.untold.put(panel, new Map(this.untold.get(panel)).set(cc, last), REST_MS);
  }
}
