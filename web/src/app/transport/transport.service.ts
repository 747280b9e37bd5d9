import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { NavigationEnd, Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { withRows } from '@hurrel/core';
import { CompareService } from '../listen/compare.service';
import { MidiInService } from '../midi/midi-in.service';
import { patchFeature } from '../patch/patch.reducer';
import { RunnerService } from '../sequence/runner.service';
import { SequenceService } from '../sequence/sequence.service';
import type { Heard } from '../sound/heard';
import { LiveService } from '../sound/live.service';

/** What is played: the phrase, the phrase again and again, or the pattern. */
export type Played = 'phrase' | 'round' | 'pattern';

const GOES_OVER = 'hurrel-goes-over';

/**
 * What plays, for the whole application: it goes on from room to room, and over to another patch when one is opened, at the
 * bar or at once.
 */
@Injectable({ providedIn: 'root' })
export class TransportService {
  private readonly store = inject(Store);
  private readonly live = inject(LiveService);
  private readonly runner = inject(RunnerService);
  private readonly sequence = inject(SequenceService);
  private readonly compare = inject(CompareService);
  private readonly openId = this.store.selectSignal(patchFeature.selectId);
  private readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  private readonly shown = this.store.selectSignal(patchFeature.selectShown);

  private readonly wanted = signal<Played>('phrase');
  /** What play will play: a pattern only where there is one. */
  readonly plays = computed<Played>(() => {
    if (this.wanted() !== 'pattern' || this.hasPattern()) return this.wanted();
    return this.live.round() ? 'round' : 'phrase';
  });
  readonly hasPattern = computed(
    () => this.live.running() || this.sequence.pattern() !== undefined,
  );
  /** Something plays by itself; keys that are held are not meant. */
  readonly playing = computed(
    () => this.live.playing() || this.live.running() || this.live.goesOver(),
  );
  /** Another patch waits for the bar, instead of being heard as soon as it is opened. */
  readonly atBar = signal(readAtBar());
  /** Patch that is heard and is not the one that is open. */
  readonly elsewhere = computed(() => {
    const heard = this.live.heard();
    return heard && heard.id !== this.openId() ? heard : null;
  });

  /** A panel that is being described is tried by ear. */
  readonly trying = signal(false);

  constructor() {
    const router = inject(Router);
    this.enter(router.url);
    router.events.subscribe((event) => {
      if (event instanceof NavigationEnd) this.enter(event.url);
    });
    inject(MidiInService).transport = {
      start: () => this.restart(),
      stop: () => this.stop(),
    };
    effect(() => {
      const [id, instrument, shown] = [this.openId(), this.instrument(), this.shown()];
      const laid = this.runner.laid();
      if (!id || !instrument || !shown) return;
      const patch = laid ? withRows(instrument, laid.sequencer, laid.pattern, shown) : shown;
      untracked(() => this.follow({ id, instrument, patch }));
    });
  }

  /** Lets something be heard that is no patch of the library. */
  tryOut(heard: Heard): void {
    this.trying.set(true);
    this.follow(heard);
  }

  endTrial(): void {
    this.trying.set(false);
    this.compare.clear();
    const heard = this.live.heard();
    if (heard?.link) this.live.leave(heard.id);
  }

  choose(played: Played): void {
    const before = this.plays();
    this.wanted.set(played);
    if (this.playing() && before !== played) this.restart();
  }

  toggle(): void {
    if (this.playing()) this.stop();
    else this.play();
  }

  play(): void {
    const heard = this.live.heard();
    if (!heard) return;
    const plays = this.plays();
    if (plays === 'pattern') this.runner.start();
    else this.live.playPhrase(heard.patch, heard.patch.phrase, plays === 'round');
  }

  /** Ends what plays by itself; keys that are held go on. */
  stop(): void {
    this.runner.stop();
    this.live.endRound();
  }

  setAtBar(atBar: boolean): void {
    this.atBar.set(atBar);
    try {
      localStorage.setItem(GOES_OVER, atBar ? 'bar' : 'now');
    } catch {
      // A device that keeps nothing begins with the bar each time.
    }
  }

  /** Where patterns are written, they are what is played. */
  private enter(url: string): void {
    if (/\/sequence\b/.test(url) && !this.playing()) this.wanted.set('pattern');
  }

  private restart(): void {
    this.stop();
    this.play();
  }

  private follow(heard: Heard): void {
    const before = this.live.heard();
    const [running, round] = [this.live.running(), this.live.round()];
    if (before?.id !== heard.id) this.compare.clear();
    this.live.follow(heard, this.atBar());
    if (before === null || before.id === heard.id) return;
    this.runner.leave();
    if (running && this.sequence.pattern()) this.runner.start();
    else if (running || round) {
      if (running) this.live.endRun();
      this.live.playPhrase(heard.patch, heard.patch.phrase, true);
    }
  }
}

function readAtBar(): boolean {
  try {
    return localStorage.getItem(GOES_OVER) !== 'now';
  } catch {
    return true;
  }
}
