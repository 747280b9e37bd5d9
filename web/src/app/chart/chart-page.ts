import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  HostListener,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { inWorkingOrder, type Mend } from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { CheckupService } from '../sound/checkup.service';
import { PreviewService } from '../sound/preview.service';
import { LiveService } from '../sound/live.service';
import { SensitivityService } from '../sound/sensitivity.service';
import { Panel } from '../ui/panel';
import { isField } from '../keys/targets';
import { tellShortcuts, useShortcuts } from '../keys/shortcuts';
import { ToastService } from '../ui/toasts';
import { Cables } from './cables';
import { Cabling } from './cabling';
import { ChartDesk } from './chart-desk';
import { ChartKeys, controlShortcuts } from './chart-keys';
import { Entry } from './entry';
import { ControllerTravel } from './controller-travel';
import { Choosing } from './choosing';
import { ControllerChoice } from './controller-choice';
import { NotesDialog } from './notes-dialog';
import { Inspector } from './inspector';
import { MatrixPicking } from './matrix-picking';
import { MatrixRows } from './matrix-rows';
import { type SectionChange, SectionTools } from './section-tools';
import { pointWhilePicking } from './point-while-picking';
import { Strip } from './strip';
import { TurnedAlong } from './turned-along';

/** The panel of a patch: recorded, heard, seen, and told what is wrong with it. */
@Component({
  selector: 'hur-chart-page',
  imports: [
    Cables,
    ControllerTravel,
    MatrixRows,
    Panel,
    SectionTools,
    Inspector,
    Strip,
    TurnedAlong,
  ],
  providers: [
    Cabling,
    ChartDesk,
    ChartKeys,
    CheckupService,
    Entry,
    Choosing,
    ControllerChoice,
    NotesDialog,
    PreviewService,
    MatrixPicking,
  ],
  templateUrl: './chart-page.html',
  styleUrl: './chart-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChartPage {
  /** Control to begin at, where a link leads to one. */
  readonly begin = input<string>();

  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);
  protected readonly entry = inject(Entry);
  protected readonly look = inject(PreviewService);
  protected readonly doctor = inject(CheckupService);
  protected readonly cabling = inject(Cabling);
  protected readonly live = inject(LiveService);
  protected readonly weigh = inject(SensitivityService);

  protected readonly desk = inject(ChartDesk);
  protected readonly keys = inject(ChartKeys);
  protected readonly matrix = inject(MatrixPicking);
  protected readonly controllers = inject(ControllerChoice);
  protected readonly choosing = inject(Choosing);
  protected readonly notes = inject(NotesDialog);

  protected readonly patch = this.desk.patch;
  protected readonly variation = this.store.selectSignal(patchFeature.selectVariation);
  /** How large the panel is drawn: 1 fits the room. */
  protected readonly zoom = signal(1);
  protected readonly instrument = this.desk.instrument;
  /** The circuit behind the panel is described. */
  protected readonly modelled = this.store.selectSignal(patchFeature.selectModelled);
  protected readonly pictureNote = signal<number | null>(null);
  private readonly panel = viewChild(Panel);
  private readonly cablesList = viewChild(Cables);
  private readonly panelArea = viewChild<ElementRef<HTMLElement>>('panelArea');

  protected readonly note = computed(
    () => this.pictureNote() ?? this.patch()?.phrase[0]?.note ?? 48,
  );
  protected readonly bubble = computed(() => {
    const draft = this.entry.draft();
    return draft && { control: draft.control.id, text: draft.text, wrong: draft.error !== null };
  });

  constructor() {
    const cabled = (): boolean => (this.instrument()?.jacks.length ?? 0) > 0;
    useShortcuts('Chart', [
      {
        keys: 'F4',
        says: 'Hear it without this control, and with it',
        act: () => this.desk.takeAway(),
      },
      {
        keys: 'F7',
        says: 'Larger, and at twice the size back to the whole',
        act: () => this.zoomBy(this.zoom() >= 2 ? -2 : 0.5),
      },
      {
        keys: 'F8',
        says: 'Cables lifted or laid down',
        when: cabled,
        act: () => this.cabling.toggleView(),
      },
      { keys: 'F9', says: 'Type a cable', when: cabled, act: () => this.cablesList()?.focus() },
    ]);
    tellShortcuts('A control', controlShortcuts);
    effect(() => {
      const [instrument, patch] = [this.instrument(), this.patch()];
      if (!instrument || !patch) return;
      this.look.look(instrument, patch, this.note());
    });
    effect(() => {
      const instrument = this.instrument();
      const patch = this.patch();
      if (instrument && patch) untracked(() => this.doctor.examine(instrument, patch));
    });
    effect(() => this.desk.panel.set(this.panel()));
    pointWhilePicking();
    effect(() => {
      const [panel, id] = [this.panel(), this.begin()];
      if (panel && id) setTimeout(() => panel.focus(id));
      else if (panel) untracked(() => this.standAtFirst(panel));
    });
    effect((cleanup) => {
      const area = this.panelArea()?.nativeElement;
      if (!area) return;
      // Not passive: turning a control must not scroll the page as well.
      const turn = (event: WheelEvent): void => this.keys.wheel(event, this.scrolls());
      area.addEventListener('wheel', turn, { passive: false });
      cleanup(() => area.removeEventListener('wheel', turn));
    });
  }

  /** Puts the keyboard on the first control that wants a reading, so that typing begins at once. */
  private standAtFirst(panel: Panel): void {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return;
    const first = inWorkingOrder(instrument).find((c) => patch.settings[c.id] === undefined);
    if (first) setTimeout(() => panel.focus(first.id));
  }

  /** Takes a change of whole sections as one step to undo. */
  protected changeSections({ patch, said }: SectionChange): void {
    this.store.dispatch(PatchActions.reshape({ patch }));
    const left = this.desk.chosenSection();
    if (left && !this.instrument()?.sections.some((s) => s.id === left)) {
      this.desk.chosenSection.set(null);
    }
    this.toasts.show(said, {
      label: 'Undo',
      run: () => this.store.dispatch(PatchActions.undo()),
    });
  }

  /** The wheel has something to scroll. */
  private scrolls(): boolean {
    return this.zoom() > 1 || document.documentElement.scrollHeight > window.innerHeight + 2;
  }

  protected zoomBy(step: number): void {
    this.zoom.update((z) => Math.min(3, Math.max(1, z + step)));
    // What is chosen stays in sight.
    const id = this.desk.chosen();
    if (id) setTimeout(() => this.panel()?.reveal(id));
  }

  protected writeNote(key: string, text: string): void {
    this.store.dispatch(PatchActions.note({ key, text, gesture: `note-${key}` }));
  }

  protected mend(mend: Mend): void {
    this.store.dispatch(PatchActions.mend({ mend }));
    this.toasts.show(`${mend.text}: done.`, {
      label: 'Undo',
      run: () => this.store.dispatch(PatchActions.undo()),
    });
  }

  /** Keeps with the patch that a finding is meant so, or no longer. */
  protected setMeant(id: string, note: string | null): void {
    const meant = { ...this.patch()?.meant };
    if (note === null) delete meant[id];
    else meant[id] = note;
    this.store.dispatch(PatchActions.change({ changes: { meant } }));
  }

  protected startWeighing(): void {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (instrument && patch) this.weigh.start(instrument, patch, this.note());
  }

  @HostListener('document:paste', ['$event'])
  protected paste(event: ClipboardEvent): void {
    if (isField(event.target) || document.body.classList.contains('modal-open')) return;
    const text = event.clipboardData?.getData('text/plain').trim() ?? '';
    if (text === '') return;
    event.preventDefault();
    const control = this.desk.control();
    if (control && !/[\n;,]/.test(text) && text.length < 20) this.entry.type(control, text);
    else void this.notes.open(text);
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (document.body.classList.contains('modal-open')) return;
    const onControl = event.target instanceof Element && event.target.hasAttribute('data-control');
    if (!isField(event.target)) this.keys.press(event, onControl);
  }

  protected commitDraft(): void {
    const chosen = this.desk.chosen();
    if (this.desk.commit() && chosen) this.desk.focus(chosen);
  }
}
