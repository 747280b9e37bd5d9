import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { directions, type Pattern, stepOf } from '@hurrel/core';
import { KeysService } from '../sound/keys.service';
import { PatchActions } from '../patch/patch.actions';
import { tellShortcuts, useShortcuts } from '../keys/shortcuts';
import { ToastService } from '../ui/toasts';
import { AlongPanel } from './along-panel';
import { ArpeggioEditor } from './arpeggio-editor';
import { EntryPanel } from './entry-panel';
import { FilesPanel } from './files-panel';
import { GridKeys } from './grid-keys';
import { Lane } from './lane';
import { MidiOutService } from './midi-out.service';
import { PatternFacts } from './pattern-facts';
import { PitchGrid } from './pitch-grid';
import { PlayIn } from './play-in';
import { RowsEditor } from './rows-editor';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';
import { AssignmentService } from './assignment.service';
import { StepEdits } from './step-edits';
import { StepPages } from './step-pages';
import { StepPanel } from './step-panel';
import { ToolsPanel } from './tools-panel';
import { TrackRow } from './track-row';
import { TrackView } from './track-view';
import { RunTools } from './run-tools';
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
    RunTools,
    StepPanel,
    ToolsPanel,
    TrackRow,
    TypedLine,
    WholeText,
  ],
  providers: [GridKeys, PlayIn, AssignmentService, StepEdits, StepPages, TrackView],
  templateUrl: './sequence-page.html',
  styleUrl: './sequence-page.scss',
  host: { '(window:keyup)': 'keyUp($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SequencePage {
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);
  protected readonly keys = inject(KeysService);
  protected readonly sequence = inject(SequenceService);
  protected readonly runner = inject(RunnerService);
  protected readonly assignment = inject(AssignmentService);
  protected readonly out = inject(MidiOutService);
  protected readonly edits = inject(StepEdits);
  protected readonly view = inject(TrackView);
  protected readonly pages = inject(StepPages);
  protected readonly playIn = inject(PlayIn);
  protected readonly gridKeys = inject(GridKeys);
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
    { id: 'along', label: 'Band' },
  ];
  protected readonly names = computed(() => {
    const tracks = this.sequence.sequencer()?.tracks ?? [];
    return new Set(tracks.filter((t) => t.from === t.to).map((t) => t.id));
  });
  protected readonly shownSide = computed(() =>
    this.side() === 'step' && this.view.kind() !== 'steps' ? 'entry' : this.side(),
  );

  constructor() {
    useShortcuts('Sequence', [
      {
        keys: 'f',
        says: 'Fill, as long as it is held',
        when: () => !this.keys.on(),
        act: (event) => event.repeat || this.runner.fill(true),
      },
    ]);
    tellShortcuts('Steps', this.gridKeys.shortcuts);
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
    const on = this.pattern()?.tracks[track];
    if (same || (on && !stepOf(on, step).notes)) this.edits.strike();
  }

  protected change(changes: Partial<Pattern>, gesture?: string): void {
    const pattern = this.pattern();
    if (pattern) this.sequence.edit({ ...pattern, ...changes }, gesture);
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

  /** Space plays, F held is fill, wherever one stands. */
  protected keyUp(event: KeyboardEvent): void {
    if (event.key.toLowerCase() === 'f') this.runner.fill(false);
  }
}
