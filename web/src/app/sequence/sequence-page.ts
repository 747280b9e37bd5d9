import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import {
  conditionWords,
  type Direction,
  directions,
  formatValue,
  midiToNote,
  type Pattern,
  patternSchema,
  quantise,
  stepOf,
  type StepRate,
  type Track,
  velocityOf,
  withStep,
} from '@hurrel/core';
import { KeysService } from '../sound/keys.service';
import { MidiInService } from '../midi/midi-in.service';
import { PatchActions } from '../patch/patch.actions';
import { LiveService } from '../sound/live.service';
import { ToastService } from '../ui/toasts';
import { AlongPanel } from './along-panel';
import { ArpeggioEditor } from './arpeggio-editor';
import { EntryPanel } from './entry-panel';
import { FilesPanel } from './files-panel';
import { Lane } from './lane';
import { MidiOutService } from './midi-out.service';
import { PatternFacts } from './pattern-facts';
import { PitchGrid } from './pitch-grid';
import { RowsEditor } from './rows-editor';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';
import { ShareService } from './share.service';
import { StepPanel } from './step-panel';
import { ToolsPanel } from './tools-panel';
import { TrackRow } from './track-row';
import { Transport } from './transport';
import { TypedLine } from './typed-line';
import { WholeText } from './whole-text';

type Side = 'step' | 'entry' | 'tools' | 'text' | 'files' | 'along';

/** What the sequencers of a patch hold: drawn, typed or played in, heard, and turned into presses. */
@Component({
  selector: 'hur-sequence-page',
  imports: [
    AlongPanel,
    ArpeggioEditor,
    EntryPanel,
    FilesPanel,
    Lane,
    PatternFacts,
    PitchGrid,
    RowsEditor,
    StepPanel,
    ToolsPanel,
    TrackRow,
    Transport,
    TypedLine,
    WholeText,
  ],
  providers: [SequenceService, RunnerService, ShareService, MidiInService, MidiOutService],
  templateUrl: './sequence-page.html',
  styleUrl: './sequence-page.scss',
  host: { '(window:keydown)': 'globalKey($event)', '(window:keyup)': 'keyUp($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SequencePage {
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);
  protected readonly live = inject(LiveService);
  protected readonly keys = inject(KeysService);
  protected readonly sequence = inject(SequenceService);
  protected readonly runner = inject(RunnerService);
  protected readonly share = inject(ShareService);
  protected readonly out = inject(MidiOutService);
  private readonly midi = inject(MidiInService);
  private readonly grid = viewChild<ElementRef<HTMLElement>>('grid');

  protected readonly pattern = this.sequence.pattern;
  protected readonly track = this.sequence.track;
  protected readonly ways = computed(() =>
    directions.filter((d) => this.sequence.can().directions.includes(d)),
  );
  protected readonly side = signal<Side>('step');
  protected readonly sides: { id: Side; label: string }[] = [
    { id: 'step', label: 'Step' },
    { id: 'entry', label: 'Presses' },
    { id: 'tools', label: 'Tools' },
    { id: 'text', label: 'Text' },
    { id: 'files', label: 'Files' },
    { id: 'along', label: 'Along' },
  ];
  /** Steps that are shown at once. */
  protected readonly count = signal(16);
  private readonly page = signal(0);
  protected readonly longest = computed(() =>
    Math.max(1, ...(this.pattern()?.tracks.map((t) => t.length) ?? [])),
  );
  protected readonly pages = computed(() =>
    Array.from({ length: Math.ceil(this.longest() / this.count()) }, (_, i) => i),
  );
  protected readonly from = computed(
    () => Math.min(this.page(), this.pages().length - 1) * this.count(),
  );
  protected readonly kind = computed(() => {
    const track = this.track();
    if (this.sequence.sequencer()?.kind === 'rows') return 'rows';
    return track?.arpeggio ? 'arpeggio' : 'steps';
  });
  /** Tracks of one pitch are struck; others have notes to be drawn. */
  protected readonly melodic = computed(() => {
    const on = this.track()?.on;
    const own = this.sequence.sequencer()?.tracks.find((t) => t.id === on);
    return own === undefined || own.from !== own.to;
  });
  protected readonly names = computed(() => {
    const tracks = this.sequence.sequencer()?.tracks ?? [];
    return new Set(tracks.filter((t) => t.from === t.to).map((t) => t.id));
  });
  /** What of the shown track is locked anywhere, as lanes. */
  protected readonly lanes = computed(() => {
    const [track, instrument] = [this.track(), this.sequence.instrument()];
    if (!track || !instrument) return [];
    const ids = new Set(track.steps.flatMap((s) => Object.keys(s.locks ?? {})));
    return [...ids].flatMap((id) => {
      const control = instrument.controls.find((c) => c.id === id);
      if (!control || 'positions' in control) return [];
      const values = track.steps.map((s) => {
        const value = s.locks?.[id];
        return typeof value === 'number' ? value : null;
      });
      return [{ id, name: control.name, values }];
    });
  });
  protected readonly velocities = computed(
    () => this.track()?.steps.map((s) => (s.notes ? velocityOf(s) / 127 : null)) ?? [],
  );
  /** Where one stands, in words. */
  protected readonly standing = computed(() => {
    const [track, instrument] = [this.track(), this.sequence.instrument()];
    if (!track) return '';
    const { step: at } = this.sequence.cursor();
    const step = stepOf(track, at);
    const words = [
      step.notes ? step.notes.map(midiToNote).join(' ') : step.tie ? 'held on' : 'silent',
      step.notes ? `velocity ${velocityOf(step)}` : '',
      step.accent ? 'accent' : '',
      step.slide ? 'slides on' : '',
      step.condition ? conditionWords(step.condition) : '',
      ...Object.entries(step.locks ?? {}).map(([id, value]) => {
        const control = instrument?.controls.find((c) => c.id === id);
        return control ? `${control.name} ${formatValue(control, value)}` : id;
      }),
    ].filter(Boolean);
    return `${track.name}, step ${at + 1} of ${track.length}: ${words.join(', ')}`;
  });
  protected readonly shownSide = computed(() =>
    this.side() === 'step' && this.kind() !== 'steps' ? 'entry' : this.side(),
  );
  /** Keys that are played write notes where one stands, or where the pattern runs. */
  protected readonly playIn = signal(false);
  private heldBefore: ReadonlySet<number> = new Set();

  constructor() {
    this.midi.transport = { start: () => this.runner.restart(), stop: () => this.runner.stop() };
    effect(() => {
      const held = this.live.held();
      untracked(() => this.takePlayed(held));
    });
    effect(() => {
      const step = this.sequence.cursor().step;
      untracked(() => {
        if (step < this.from() || step >= this.from() + this.count())
          this.page.set(Math.floor(step / this.count()));
      });
    });
  }

  protected goPage(page: number): void {
    this.page.set(page);
    this.sequence.go(this.sequence.cursor().track, page * this.count());
  }

  protected show(count: number): void {
    this.count.set(count);
    this.page.set(Math.floor(this.sequence.cursor().step / count));
  }

  protected press(track: number, { step, again }: { step: number; again: boolean }): void {
    const { cursor, extent } = this.sequence;
    this.grid()?.nativeElement.focus({ preventScroll: true });
    if (again && track === cursor().track) {
      const first = Math.min(step, cursor().step);
      return this.sequence.go(track, first, Math.abs(step - cursor().step) + 1);
    }
    const same = cursor().track === track && cursor().step === step && extent() === 1;
    this.sequence.go(track, step);
    if (same || !stepOf(this.pattern()!.tracks[track]!, step).notes) this.strike();
  }

  /** Strikes the step one stands on, or silences it. */
  protected strike(): void {
    const [track, step] = [this.track(), this.sequence.step()];
    if (!track || this.sequence.cursor().step >= track.length) return;
    if (step.notes || step.tie) this.sequence.editStep({});
    else this.sequence.editStep({ ...step, notes: [this.sequence.ownNote(track)] });
  }

  protected strikeNote({ step, note }: { step: number; note: number }): void {
    const track = this.track();
    if (!track) return;
    this.sequence.go(this.sequence.cursor().track, step);
    const old = stepOf(track, step);
    const { notes = [], tie: _, ...rest } = old;
    const without = notes.filter((n) => n !== note);
    if (without.length < notes.length) {
      this.sequence.editStep(without.length > 0 ? { ...old, notes: without } : {});
      return;
    }
    const together = this.sequence.can().together;
    this.sequence.editStep({ ...rest, notes: [...(together > 1 ? notes : []), note] });
  }

  protected hold({
    from,
    through,
    gesture,
  }: {
    from: number;
    through: number;
    gesture: string;
  }): void {
    let track = this.track();
    if (!track || !this.sequence.can().tie) return;
    for (let i = from + 1; i <= through; i++) track = withStep(track, i, { tie: true });
    this.sequence.editTrack(track, gesture);
  }

  protected drawVelocity({
    step,
    value,
    gesture,
  }: {
    step: number;
    value: number;
    gesture: string;
  }): void {
    const track = this.track();
    const { accent: _, ...old } = track ? stepOf(track, step) : {};
    if (!track || !old.notes) return;
    const velocity = Math.max(1, Math.round(127 * value));
    this.sequence.editTrack(withStep(track, step, { ...old, velocity }), gesture);
  }

  protected drawLock(
    id: string,
    { step, value, gesture }: { step: number; value: number; gesture: string },
  ): void {
    const track = this.track();
    if (!track || step >= track.length) return;
    const old = stepOf(track, step);
    const locks = { ...old.locks, [id]: Math.round(value * 1000) / 1000 };
    this.sequence.editTrack(withStep(track, step, { ...old, locks }), gesture);
  }

  protected change(changes: Partial<Pattern>, gesture?: string): void {
    const pattern = this.pattern();
    if (pattern) this.sequence.edit({ ...pattern, ...changes }, gesture);
  }

  protected changeTrack(track: Track, changes: Partial<Track>, gesture?: string): void {
    this.sequence.editTrack({ ...track, ...changes }, gesture);
  }

  protected setRate(track: Track, rate: string): void {
    this.changeTrack(track, { rate: rate as StepRate });
  }

  protected setDirection(track: Track, direction: string): void {
    this.changeTrack(track, { direction: direction as Direction });
  }

  protected setWhole(
    track: Track,
    key: 'length' | 'offset' | 'swing',
    text: string,
    low: number,
    high: number,
  ): void {
    const value = Math.round(Number(text));
    if (value >= low && value <= high)
      this.changeTrack(track, { [key]: key === 'offset' ? value - 1 : value });
  }

  protected remove(): void {
    const name = this.pattern()?.name;
    this.runner.stop();
    this.sequence.remove();
    this.toasts.show(`${name}: removed.`, {
      label: 'Undo',
      run: () => this.store.dispatch(PatchActions.undo()),
    });
  }

  /** The phrase of the patch as a pattern: what there is already is where one begins. */
  protected fromPhrase(): void {
    const patch = this.sequence.patch();
    const [sequencer] = this.sequence.instrument()?.sequencers ?? [];
    if (!patch) return;
    const { steps, moved, dropped } = quantise(patch.phrase, '1/16', 64);
    const bars = Math.max(1, Math.ceil(steps.length / 16));
    const track = { id: 't1', name: 'phrase', length: Math.min(64, bars * 16), steps };
    const outside = sequencer?.kind !== 'two-pass' || steps.length > sequencer.steps;
    this.sequence.take(
      patternSchema.parse({
        id: 'phrase',
        name: 'Phrase',
        bars,
        ...(outside ? {} : { sequencer: sequencer.id }),
        tracks: [track],
      }),
    );
    const lost = moved.length + dropped.length;
    if (lost > 0)
      this.toasts.show(`${moved.length} notes moved to a step, ${dropped.length} left out.`);
  }

  /** Keys of the grid: arrows go, letters do. */
  protected gridKey(event: KeyboardEvent): void {
    if (event.altKey) return;
    const pattern = this.pattern();
    const track = this.track();
    if (!pattern || !track) return;
    if (event.ctrlKey || event.metaKey) return this.clipKey(event);
    const { track: row, step } = this.sequence.cursor();
    const go = (t: number, s: number): void =>
      this.sequence.go(
        Math.min(pattern.tracks.length - 1, Math.max(0, t)),
        Math.min((pattern.tracks[t] ?? track).length - 1, Math.max(0, s)),
      );
    const mark = (key: 'accent' | 'slide'): void => {
      const { [key]: on, ...rest } = this.sequence.step();
      if (rest.notes) this.sequence.editStep(on ? rest : { ...rest, [key]: true });
    };
    const louder = (by: number): void => {
      const { accent: _, ...old } = this.sequence.step();
      const velocity = Math.min(127, Math.max(1, velocityOf(this.sequence.step()) + by));
      if (old.notes) this.sequence.editStep({ ...old, velocity }, `velocity-${row}-${step}`);
    };
    const note = (by: number): void => {
      const old = this.sequence.step();
      if (old.notes)
        this.sequence.editStep(
          { ...old, notes: old.notes.map((n) => n + by) },
          `note-${row}-${step}`,
        );
    };
    const acts: Record<string, () => void> = {
      ArrowLeft: () => go(row, step - 1),
      ArrowRight: () => go(row, step + 1),
      ArrowUp: () => (event.shiftKey ? note(1) : go(row - 1, step)),
      ArrowDown: () => (event.shiftKey ? note(-1) : go(row + 1, step)),
      PageUp: () => go(row, step - this.count()),
      PageDown: () => go(row, step + this.count()),
      Home: () => go(row, 0),
      End: () => go(row, track.length - 1),
      Enter: () => this.strike(),
      Delete: () => this.clear(),
      Backspace: () => this.clear(),
      '.': () => this.clear(),
      '-': () => this.sequence.editStep({ tie: true }),
      "'": () => mark('accent'),
      '~': () => mark('slide'),
      '[': () => louder(-5),
      ']': () => louder(5),
      m: () => this.changeTrack(track, { muted: !track.muted }),
      s: () => this.runner.toggleSolo(track.id),
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }

  /** Space plays, F held is fill, wherever one stands. */
  protected globalKey(event: KeyboardEvent): void {
    if (event.target instanceof HTMLElement && event.target.matches('input, textarea, select'))
      return;
    if (event.key === ' ' && !(event.target instanceof HTMLButtonElement)) {
      event.preventDefault();
      this.runner.toggle();
    } else if (
      event.key.toLowerCase() === 'f' &&
      !this.keys.on() &&
      !event.ctrlKey &&
      !event.repeat
    ) {
      this.runner.fill(true);
    }
  }

  protected keyUp(event: KeyboardEvent): void {
    if (event.key.toLowerCase() === 'f') this.runner.fill(false);
  }

  private clipKey(event: KeyboardEvent): void {
    const key = event.key.toLowerCase();
    if (key === 'c') this.sequence.copySteps();
    else if (key === 'x') {
      this.sequence.copySteps();
      this.clear();
    } else if (key === 'v') this.sequence.paste();
    else if (key === 'a') this.sequence.go(this.sequence.cursor().track, 0, this.track()!.length);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private clear(): void {
    let track = this.track();
    if (!track) return;
    const { step } = this.sequence.cursor();
    for (let i = 0; i < this.sequence.extent(); i++) track = withStep(track, step + i, {});
    this.sequence.editTrack(track);
  }

  private takePlayed(held: ReadonlySet<number>): void {
    const fresh = [...held].filter((n) => !this.heldBefore.has(n));
    const letGo = held.size === 0 && this.heldBefore.size > 0;
    this.heldBefore = held;
    const track = this.track();
    if (!this.playIn() || !track || this.kind() !== 'steps') return;
    const runs = this.runner.stepOfTrack(track, this.sequence.cursor().track);
    if (fresh.length > 0) {
      if (runs >= 0) this.sequence.go(this.sequence.cursor().track, runs);
      const { tie: _, ...old } = this.sequence.step();
      const together = this.sequence.can().together;
      // Keys struck together are one step; with one voice the last one counts.
      const notes =
        together > 1 && held.size > fresh.length ? [...(old.notes ?? []), ...fresh] : fresh;
      this.sequence.editStep({ ...old, notes: notes.slice(-together) });
    } else if (letGo && runs < 0) {
      const { track: row, step } = this.sequence.cursor();
      this.sequence.go(row, (step + 1) % track.length);
    }
  }
}
