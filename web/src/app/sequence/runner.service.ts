import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import {
  chainFrom,
  heldKey,
  type PartSource,
  partSource,
  type PartSubject,
  type Pattern,
  stepAt,
  stepRates,
  strikes,
  type Track,
} from '@hurrel/core';
import { Store } from '@ngrx/store';
import { patchFeature } from '../patch/patch.reducer';
import { LiveService } from '../sound/live.service';
import { withFedNow } from '../sound/fed';
import { SequenceService } from './sequence.service';

/** An instrument that plays along; `key` tells it from another one of the same patch. */
export interface AlongPart extends PartSubject {
  key: string;
}

/**
 * Runs the shown pattern and what is chained to it; edits are heard where they are. It goes on when its patch is closed, as
 * it was.
 */
@Injectable({ providedIn: 'root' })
export class RunnerService {
  private readonly sequence = inject(SequenceService);
  private readonly live = inject(LiveService);

  private readonly openId = inject(Store).selectSignal(patchFeature.selectId);
  /** Patch whose patterns run. */
  private readonly owner = signal<string | null>(null);
  private readonly isOpen = computed(
    () => this.owner() !== null && this.owner() === this.openId() && !!this.sequence.patch(),
  );
  private last: readonly Pattern[] = [];

  readonly filling = signal(false);
  readonly seed = signal(1);
  /** Other instruments that play along, by the order in which they were asked. */
  readonly along = signal<readonly AlongPart[]>([]);
  /** Tracks that are heard alone. */
  readonly solo = signal<ReadonlySet<string>>(new Set());
  readonly running = this.live.running;
  /** The sequencer that is shown is rows of voltages. */
  readonly isRows = computed(() => this.sequence.sequencer()?.kind === 'rows');
  /** All patterns, the one that is played first: what may be queued is there too. */
  readonly line = computed(() => {
    const [pattern, all] = [this.started(), this.sequence.patterns()];
    const first = all.find((p) => p.id === pattern) ?? this.sequence.pattern();
    if (!first) return [];
    const patch = this.sequence.patch();
    if (patch && this.isRows()) return heldKey(first, patch);
    const chain = chainFrom(all, first.id);
    return [...chain, ...all.filter((p) => !chain.includes(p) && p.sequencer === first.sequencer)];
  });
  /** Whether anything is struck in what runs: a pattern of rests is silent, and looks as if something were broken. */
  readonly strikes = computed(() =>
    this.line().some((p) =>
      p.tracks.some((t) => t.steps.some((_, i) => strikes(t, i)) || t.arpeggio),
    ),
  );
  private readonly sources = new Map<string, PartSource>();
  /** Recordings that came after a part had begun to play along. */
  private readonly fedCame = signal(0);
  private readonly started = signal<string | null>(null);
  /** Quarter note of the pattern that runs now. */
  readonly beat = computed(() => {
    const { beat } = this.live.meter();
    return this.running() ? beat : -1;
  });
  readonly playing = computed((): Pattern | undefined =>
    this.running() && this.isOpen() ? this.line()[this.live.meter().pattern] : undefined,
  );
  /** Pattern whose rows of voltages have to be on the panel that is heard. */
  readonly laid = computed(() => {
    if (!this.running() || !this.isOpen()) return null;
    const [pattern, sequencer] = [this.line()[0], this.sequence.sequencer()];
    return pattern && sequencer?.kind === 'rows' ? { pattern, sequencer } : null;
  });
  /** Pattern that follows at the next bar. */
  readonly queued = signal<string | null>(null);

  constructor() {
    effect(() => {
      const [line, running] = [this.line(), this.running() && this.isOpen()];
      if (!running || line.length === 0) return;
      untracked(() => {
        this.last = line;
        this.live.run(this.sequence.instrument()!, this.sequence.patch()!, line, this.seed());
        this.sendMutes();
      });
    });
    effect(() => {
      const [along, running] = [this.along(), this.running()];
      this.fedCame();
      if (!running) return;
      const parts = Object.fromEntries(along.map((part) => [part.key, this.sourceOf(part)]));
      untracked(() => this.live.playBand(parts));
    });
    effect(() => {
      if (this.playing()?.id === this.queued()) this.queued.set(null);
    });
    effect(() => {
      this.solo();
      untracked(() => this.sendMutes());
    });
  }

  /** From the beginning, whether it runs or not. */
  restart(): void {
    this.stop();
    this.start();
  }

  start(): void {
    const [instrument, patch, pattern] = [
      this.sequence.instrument(),
      this.sequence.patch(),
      this.sequence.pattern(),
    ];
    if (!instrument || !patch || !pattern) return this.goOn();
    this.owner.set(this.openId());
    this.started.set(pattern.id);
    this.last = this.line();
    this.live.run(instrument, patch, this.last, this.seed());
    this.sendMutes();
  }

  stop(): void {
    if (!this.running()) return;
    this.queued.set(null);
    this.fill(false);
    this.live.endRun();
  }

  queue(pattern: Pattern): void {
    const at = this.line().findIndex((p) => p.id === pattern.id);
    if (at < 0) return;
    this.queued.set(pattern.id);
    this.live.queue(at);
  }

  fill(held: boolean): void {
    if (this.filling() === held) return;
    this.filling.set(held);
    this.live.fill(held);
  }

  toggleSolo(track: string): void {
    this.solo.update((now) => {
      const next = new Set(now);
      if (!next.delete(track)) next.add(track);
      return next;
    });
  }

  /** Step of a track that sounds now, from 0; -1 while it does not run. */
  stepOfTrack(track: Track, number: number): number {
    const [beat, playing] = [this.beat(), this.playing()];
    if (beat < 0 || playing?.id !== this.sequence.pattern()?.id) return -1;
    const at = this.within(beat) / stepRates[track.rate] + 1e-6;
    // The second of a pair that swings has not begun yet.
    const whole = Math.floor(at);
    const k = whole % 2 === 1 && at - whole < track.swing / 50 - 1 ? whole - 1 : whole;
    return stepAt(k, track.length, track.direction, track.offset, this.seed(), number);
  }

  /** Steps of a track that have been played since its pattern began. */
  stepCount(track: Track): number {
    return Math.floor(this.within(Math.max(0, this.beat())) / stepRates[track.rate] + 1e-6);
  }

  /** Quarter note since the pattern that runs began; chained ones begin anew each time. */
  private within(beat: number): number {
    const line = this.line();
    const chain =
      line[0]?.next === undefined
        ? 0
        : chainFrom(line, line[0].id).reduce((n, p) => n + 4 * p.bars, 0);
    if (chain === 0) return beat;
    let at = beat % chain;
    for (const p of line) {
      if (at < 4 * p.bars) return at;
      at -= 4 * p.bars;
    }
    return at;
  }

  /** Another patch is heard: who played along with the last one does not belong to it. */
  leave(): void {
    this.along.set([]);
    this.solo.set(new Set());
    this.queued.set(null);
    this.filling.set(false);
  }

  /** What ran last, once more, when its patch is not open any more. */
  private goOn(): void {
    const heard = this.live.heard();
    if (!heard || heard.id !== this.owner() || this.last.length === 0) return;
    this.live.run(heard.instrument, heard.patch, this.last, this.seed());
  }

  private sendMutes(): void {
    if (!this.running()) return;
    const solo = this.solo();
    this.sequence.pattern()?.tracks.forEach((t, i) => {
      this.live.mute(i, solo.size > 0 ? !solo.has(t.id) : t.muted);
    });
  }

  /** What plays along as the engine takes it: compiled once, whatever its level is. */
  private sourceOf({ key, gain, pan, ...subject }: AlongPart): PartSource {
    const known = this.sources.get(key);
    if (known) return { ...known, gain, pan };
    const patch = withFedNow(subject.patch, () => this.fedCame.update((n) => n + 1));
    const made = partSource({ ...subject, patch, gain, pan });
    // What it is fed with is on its way: until then it is heard without.
    if (!patch.feed || patch.fed) this.sources.set(key, made);
    return made;
  }
}
