import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  capabilitiesOf,
  canHaveOwn,
  fitPattern,
  isSwitched,
  type Pattern,
  type PatternStep,
  patternSchema,
  type Refusal,
  sequencerOf,
  stepOf,
  type Track,
  trackSchema,
  withStep,
  withTrack,
} from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';

/** What was copied, to be put somewhere else: in another track, another pattern, another patch. */
export type Clip = { kind: 'steps'; steps: PatternStep[] } | { kind: 'pattern'; pattern: Pattern };

@Injectable({ providedIn: 'root' })
export class SequenceClipboard {
  readonly clip = signal<Clip | null>(null);
}

/** The patterns of the open patch: which is shown, where one stands in it, and every edit of it. */
@Injectable({ providedIn: 'root' })
export class SequenceService {
  private readonly store = inject(Store);
  private readonly clipboard = inject(SequenceClipboard);
  readonly patch = this.store.selectSignal(patchFeature.selectPresent);
  readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);

  private readonly chosen = signal<string | null>(null);
  readonly patterns = computed(() => this.patch()?.patterns ?? []);
  readonly pattern = computed(
    () => this.patterns().find((p) => p.id === this.chosen()) ?? this.patterns()[0],
  );
  readonly sequencer = computed(() => {
    const [instrument, pattern] = [this.instrument(), this.pattern()];
    return instrument && pattern ? sequencerOf(instrument, pattern) : undefined;
  });
  readonly can = computed(() => capabilitiesOf(this.sequencer()));
  /** Controls that a step can give a value of its own, by their section and name. */
  readonly movable = computed(() => {
    const instrument = this.instrument();
    if (!instrument) return [];
    const sections = new Map(instrument.sections.map((s) => [s.id, s.name]));
    return instrument.controls
      .filter((c) => canHaveOwn(instrument, this.can(), c.id))
      .map((c) => {
        const name = `${sections.get(c.section)} ${c.name}`;
        return { id: c.id, name, switched: isSwitched(c) };
      });
  });
  private readonly at = signal({ track: 0, step: 0 });
  /** Where one stands, from 0; `extent` steps from there on are marked. */
  readonly cursor = computed(() => {
    const pattern = this.pattern();
    const track = Math.min(this.at().track, (pattern?.tracks.length ?? 1) - 1);
    const length = pattern?.tracks[track]?.length ?? 1;
    return { track, step: Math.min(this.at().step, length - 1) };
  });
  readonly extent = signal(1);
  readonly track = computed(() => this.pattern()?.tracks[this.cursor().track]);
  readonly step = computed(() => {
    const track = this.track();
    return track ? stepOf(track, this.cursor().step) : {};
  });
  /** The last edit that the box cannot do, with the nearest that it can. */
  readonly refused = signal<{ refusals: Refusal[]; nearest: Pattern } | null>(null);
  readonly clip = this.clipboard.clip;

  choose(id: string): void {
    this.chosen.set(id);
    this.refused.set(null);
  }

  go(track: number, step: number, extent = 1): void {
    this.at.set({ track: Math.max(0, track), step: Math.max(0, step) });
    this.extent.set(extent);
  }

  /** Key that a struck step of a track plays when nothing else is said. */
  ownNote(track: Track | undefined): number {
    const own = this.sequencer()?.tracks.find((t) => t.id === track?.on);
    if (own) return own.from;
    const before = track?.steps.find((s) => s.notes)?.notes;
    return before?.[0] ?? this.patch()?.phrase[0]?.note ?? 48;
  }

  /** Takes an edit when the box can do it; else says why not and what comes nearest. */
  edit(next: Pattern, gesture?: string): boolean {
    const [instrument, before] = [this.instrument(), this.pattern()];
    if (!instrument || !before) return false;
    const { pattern, refusals } = fitPattern(instrument, next);
    const old = new Set(fitPattern(instrument, before).refusals.map((r) => r.where + r.reason));
    const fresh = refusals.filter((r) => !old.has(r.where + r.reason));
    if (fresh.length > 0) {
      this.refused.set({ refusals: fresh, nearest: pattern });
      return false;
    }
    this.refused.set(null);
    this.write(
      this.patterns().map((p) => (p.id === next.id ? next : p)),
      gesture,
    );
    return true;
  }

  takeNearest(): void {
    const refused = this.refused();
    if (refused) this.edit(refused.nearest);
  }

  editTrack(track: Track, gesture?: string): boolean {
    const pattern = this.pattern();
    return pattern !== undefined && this.edit(withTrack(pattern, track), gesture);
  }

  /** Puts a step where one stands. */
  editStep(step: PatternStep, gesture?: string): boolean {
    const track = this.track();
    return (
      track !== undefined && this.editTrack(withStep(track, this.cursor().step, step), gesture)
    );
  }

  write(patterns: Pattern[], gesture?: string): void {
    this.store.dispatch(
      PatchActions.change({ changes: { patterns }, ...(gesture ? { gesture } : {}) }),
    );
  }

  /** A new pattern for a sequencer of the instrument, or to be played from outside. */
  add(sequencerId: string | undefined): void {
    const instrument = this.instrument();
    if (!instrument) return;
    const sequencer = instrument.sequencers.find((s) => s.id === sequencerId);
    const count = this.patterns().length + 1;
    const can = capabilitiesOf(sequencer);
    const length = Math.min(16, sequencer?.steps ?? 16);
    const rate = can.rates.includes('1/16') ? '1/16' : can.rates[0]!;
    const bare = { length, rate };
    const tracks =
      sequencer && sequencer.tracks.length > 0
        ? sequencer.tracks.map((t) => ({ ...bare, id: t.id, name: t.name, on: t.id }))
        : [{ ...bare, id: 't1', name: sequencer?.name ?? 'notes', ...this.begun(sequencer) }];
    const pattern = patternSchema.parse({
      id: this.freeId(),
      name: `Pattern ${count}`,
      ...(sequencer ? { sequencer: sequencer.id } : {}),
      tracks,
    });
    this.write([...this.patterns(), pattern]);
    this.choose(pattern.id);
    this.go(0, 0);
  }

  /** What an arpeggiator or a row begins with. */
  private begun(sequencer: ReturnType<typeof this.sequencer>): object {
    if (sequencer?.kind === 'arpeggio') {
      return { arpeggio: { chords: [{ notes: [48, 52, 55], steps: 16 }] } };
    }
    if (sequencer?.kind === 'rows') {
      return { rows: Object.fromEntries(sequencer.rows.map((r) => [r.id, [0]])) };
    }
    return {};
  }

  /** Adds patterns made elsewhere, under free names. */
  take(pattern: Pattern): void {
    const { next: _, ...rest } = pattern;
    const taken = { ...rest, id: this.freeId() };
    this.write([...this.patterns(), taken]);
    this.choose(taken.id);
    this.go(0, 0);
  }

  remove(): void {
    const gone = this.pattern();
    if (!gone) return;
    const rest = this.patterns()
      .filter((p) => p.id !== gone.id)
      .map((p) => {
        if (p.next !== gone.id) return p;
        const { next: _, ...others } = p;
        return others;
      });
    this.write(rest);
  }

  addTrack(): void {
    const pattern = this.pattern();
    if (!pattern) return;
    const ids = new Set(pattern.tracks.map((t) => t.id));
    let n = pattern.tracks.length + 1;
    while (ids.has(`t${n}`)) n++;
    const track = trackSchema.parse({ id: `t${n}`, name: `track ${n}` });
    if (this.edit({ ...pattern, tracks: [...pattern.tracks, track] }))
      this.go(pattern.tracks.length, 0);
  }

  copySteps(): void {
    const track = this.track();
    if (!track) return;
    const { step } = this.cursor();
    const steps = Array.from({ length: this.extent() }, (_, i) => stepOf(track, step + i));
    this.clip.set({ kind: 'steps', steps });
  }

  paste(): void {
    const [clip, pattern, track] = [this.clip(), this.pattern(), this.track()];
    if (!clip || !pattern || !track) return;
    if (clip.kind === 'pattern')
      return this.take({ ...clip.pattern, name: `${clip.pattern.name}, copy` });
    let next = track;
    clip.steps.forEach((step, i) => {
      const at = this.cursor().step + i;
      if (at < track.length) next = withStep(next, at, step);
    });
    this.editTrack(next);
  }

  private freeId(): string {
    const ids = new Set(this.patterns().map((p) => p.id));
    let n = 1;
    while (ids.has(`p${n}`)) n++;
    return `p${n}`;
  }
}
