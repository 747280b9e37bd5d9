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
  viewChild,
} from '@angular/core';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap';
import { Store } from '@ngrx/store';
import {
  type Control,
  controlCodes,
  controlLabel,
  type Ends,
  handsOf,
  freeRow,
  inWorkingOrder,
  isSwitched,
  type MatrixRow,
  type Mend,
  nudge,
  readingText,
  type Setting,
  settingWith,
  type Severity,
  soundingValue,
  withRow,
} from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { LookService } from '../sound/look.service';
import { LiveService } from '../sound/live.service';
import { WeighService } from '../sound/weigh.service';
import { type ControlMove, Panel } from '../ui/panel';
import { ToastService } from '../ui/toasts';
import { Cables } from './cables';
import { Cabling } from './cabling';
import { Entry } from './entry';
import { HandTravel } from './hand-travel';
import { Inspector } from './inspector';
import { MatrixRows, type Picking } from './matrix-rows';
import { Piano } from './piano';
import { type SectionChange, SectionTools } from './section-tools';
import { Strip } from './strip';

/** The panel of a patch: recorded, heard, seen, and told what is wrong with it. */
@Component({
  selector: 'hur-chart-page',
  imports: [Cables, HandTravel, MatrixRows, Panel, SectionTools, Inspector, Strip, Piano],
  providers: [Cabling, Entry, LookService],
  templateUrl: './chart-page.html',
  styleUrl: './chart-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChartPage {
  /** Control to begin at, where a link leads to one. */
  readonly begin = input<string>();

  private readonly store = inject(Store);
  private readonly modal = inject(NgbModal);
  private readonly toasts = inject(ToastService);
  protected readonly entry = inject(Entry);
  protected readonly look = inject(LookService);
  protected readonly cabling = inject(Cabling);
  protected readonly live = inject(LiveService);
  protected readonly weigh = inject(WeighService);

  protected readonly patch = this.store.selectSignal(patchFeature.selectShown);
  protected readonly variation = this.store.selectSignal(patchFeature.selectVariation);
  /** How large the panel is drawn: 1 fits the room. */
  protected readonly zoom = signal(1);
  protected readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  protected readonly chosen = signal<string | null>(null);
  protected readonly chosenSection = signal<string | null>(null);
  protected readonly jump = signal<string | null>(null);
  protected readonly picking = signal<Picking | null>(null);
  protected readonly pictureNote = signal<number | null>(null);
  private readonly panel = viewChild(Panel);
  private readonly cablesList = viewChild(Cables);
  private readonly panelArea = viewChild<ElementRef<HTMLElement>>('panelArea');
  private nudges = 0;

  protected readonly note = computed(
    () => this.pictureNote() ?? this.patch()?.phrase[0]?.note ?? 48,
  );
  protected readonly control = computed(() => this.find(this.chosen()));
  protected readonly faults = computed(() => {
    const faults = new Map<string, Severity>();
    // Worst last, so that it is the one that shows.
    for (const f of this.look
      .findings()
      .filter((f) => f.meant === undefined)
      .reverse()) {
      for (const id of f.controls) faults.set(id, f.severity);
    }
    return faults;
  });
  protected readonly bubble = computed(() => {
    const draft = this.entry.draft();
    return draft && { control: draft.control.id, text: draft.text, wrong: draft.error !== null };
  });

  constructor() {
    effect(() => {
      const [instrument, patch] = [this.instrument(), this.patch()];
      if (instrument && patch) this.look.look(instrument, patch, this.note());
    });
    effect(() => {
      const [panel, id] = [this.panel(), this.begin()];
      if (panel && id) setTimeout(() => panel.focus(id));
    });
    effect((cleanup) => {
      const area = this.panelArea()?.nativeElement;
      if (!area) return;
      // Not passive: turning a control must not scroll the page as well.
      const turn = (event: WheelEvent): void => this.wheel(event);
      area.addEventListener('wheel', turn, { passive: false });
      cleanup(() => area.removeEventListener('wheel', turn));
    });
  }

  /** Rows of the matrix at the controls where they begin and end. */
  protected readonly matrixEnds = computed(() => {
    const [matrix, rows] = [this.instrument()?.matrix, this.patch()?.matrix ?? []];
    const told = new Map<string, string>();
    const add = (control: string | undefined, text: string): void => {
      if (control) told.set(control, [told.get(control), text].filter(Boolean).join(' '));
    };
    for (const row of matrix ? rows.filter((r) => r.depth !== 0) : []) {
      add(matrix!.sources.find((s) => s.id === row.source)?.control, `${row.row + 1}→`);
      add(matrix!.destinations.find((d) => d.id === row.destination)?.control, `→${row.row + 1}`);
    }
    return told;
  });

  /** What hands there are, once a wheel, a pedal or the section of hands or keys is chosen. */
  protected readonly hands = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    const stage = instrument?.sections.find((s) => s.id === this.chosenSection())?.stage;
    const wanted = isHand(this.control()) || stage === 'performance' || stage === 'keys';
    if (!instrument || !patch || !wanted) return [];
    return handsOf(instrument, patch).map((id) => ({
      id,
      name: instrument.controls.some((c) => c.id === id) ? controlLabel(instrument, id) : id,
    }));
  });
  protected readonly hand = computed(() => {
    const ids = this.hands().map((h) => h.id);
    const chosen = [this.handChosen(), this.chosen()].find((id) => id && ids.includes(id));
    return chosen ?? ids[0] ?? null;
  });
  protected readonly handChosen = signal<string | null>(null);

  protected setEnds(hand: string, told: Ends): void {
    const ends = { ...this.patch()!.ends, [hand]: told };
    if (told.low === '' && told.high === '') delete ends[hand];
    this.store.dispatch(PatchActions.change({ changes: { ends } }));
  }

  /** Takes a change of whole sections as one step to undo. */
  protected changeSections({ patch, said }: SectionChange): void {
    this.store.dispatch(PatchActions.reshape({ patch }));
    const left = this.chosenSection();
    if (left && !this.instrument()!.sections.some((s) => s.id === left)) {
      this.chosenSection.set(null);
    }
    this.toasts.show(said, {
      label: 'Undo',
      run: () => this.store.dispatch(PatchActions.undo()),
    });
  }

  protected zoomBy(step: number): void {
    this.zoom.update((z) => Math.min(3, Math.max(1, z + step)));
    // What is chosen stays in sight.
    const id = this.chosen();
    if (id) setTimeout(() => this.panel()?.reveal(id));
  }

  protected setRows(matrix: MatrixRow[]): void {
    this.store.dispatch(PatchActions.panel({ changes: { matrix } }));
  }

  /** A touched control as the source or the goal of the matrix row that is being made. */
  private pick(id: string): void {
    const [matrix, picking, rows] = [
      this.instrument()?.matrix,
      this.picking(),
      this.patch()?.matrix ?? [],
    ];
    if (!matrix || !picking) return;
    if (picking.wants === 'source') {
      const source = matrix.sources.find(
        (s) => s.control === id || this.sharesSection(s.control, id),
      );
      if (source) this.picking.set({ wants: 'destination', source: source.id });
      else this.toasts.show('That is no source of the matrix: move an envelope, LFO or wheel.');
      return;
    }
    const destination = matrix.destinations.find((d) => d.control === id);
    const row = freeRow(matrix, rows);
    if (!destination || row === undefined) {
      return this.toasts.show('The matrix does not reach that control.');
    }
    this.picking.set(null);
    const depth = matrix.depth.step / matrix.depth.most;
    this.setRows(
      withRow(rows, { row, source: picking.source, destination: destination.id, depth }),
    );
  }

  /** Any control of an envelope or LFO names it, as long as the section holds one source only. */
  private sharesSection(control: string | undefined, id: string): boolean {
    const section = (c: string | undefined): string | undefined => this.find(c ?? null)?.section;
    return section(control) !== undefined && section(control) === section(id);
  }

  protected choose(id: string): void {
    if (this.picking()) this.pick(id);
    if (this.chosen() !== id) this.commit();
    this.handChosen.set(null);
    this.chosen.set(id);
    this.chosenSection.set(null);
    this.cabling.jack.set(null);
  }

  protected chooseJack(id: string): void {
    this.commit();
    this.chosen.set(null);
    this.chosenSection.set(null);
    this.cabling.jack.set(id);
  }

  protected chooseSection(id: string): void {
    this.commit();
    this.chosen.set(null);
    this.chosenSection.set(id);
    this.cabling.jack.set(null);
  }

  protected moved({ control, value, gesture }: ControlMove): void {
    this.entry.cancel();
    const setting = settingWith(this.settingOf(control.id), value);
    this.store.dispatch(PatchActions.setControl({ control: control.id, setting, gesture }));
  }

  protected set(control: string, setting: Setting | null): void {
    this.store.dispatch(PatchActions.setControl({ control, setting }));
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
    const meant = { ...this.patch()!.meant };
    if (note === null) delete meant[id];
    else meant[id] = note;
    this.store.dispatch(PatchActions.change({ changes: { meant } }));
  }

  /** Shows where a finding is. */
  protected goTo(id: string): void {
    this.panel()?.focus(id);
  }

  protected play(): void {
    const patch = this.patch();
    if (!patch) return;
    if (this.live.playing()) this.live.stop();
    else this.live.playPhrase(patch, patch.phrase, false);
  }

  protected startWeighing(): void {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (instrument && patch) this.weigh.start(instrument, patch, this.note());
  }

  /** Takes the chosen control or section away, to hear what it does, or puts it back. */
  protected takeAway(): void {
    const section = this.chosenSection();
    const ids = section
      ? this.instrument()!
          .controls.filter((c) => c.section === section)
          .map((c) => c.id)
      : this.chosen()
        ? [this.chosen()!]
        : [];
    if (ids.length > 0) this.live.toggleAway(ids);
    else if (this.live.away().size > 0) this.live.setAway(new Set());
  }

  protected async openNotes(text = ''): Promise<void> {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return;
    const { NoteLines } = await import('./note-lines');
    const dialog = this.modal.open(NoteLines, { size: 'lg', ariaLabelledBy: 'note-lines-title' });
    dialog.componentInstance.start(instrument, patch, text);
    dialog.result.then(
      (settings: Record<string, Setting | null>) => {
        this.store.dispatch(PatchActions.setControls({ settings }));
        this.toasts.show(`${Object.keys(settings).length} controls recorded from notes.`, {
          label: 'Undo',
          run: () => this.store.dispatch(PatchActions.undo()),
        });
      },
      () => undefined,
    );
  }

  @HostListener('document:paste', ['$event'])
  protected paste(event: ClipboardEvent): void {
    if (isField(event.target) || document.body.classList.contains('modal-open')) return;
    const text = event.clipboardData?.getData('text/plain').trim() ?? '';
    if (text === '') return;
    event.preventDefault();
    const control = this.control();
    if (control && !/[\n;,]/.test(text) && text.length < 20) this.entry.type(control, text);
    else void this.openNotes(text);
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (document.body.classList.contains('modal-open')) return;
    const onControl = event.target instanceof Element && event.target.hasAttribute('data-control');
    if (isField(event.target)) return;
    if (event.key === 'F4') {
      event.preventDefault();
      this.takeAway();
    } else if (event.key === 'F7') {
      event.preventDefault();
      this.zoomBy(this.zoom() >= 2 ? -2 : 0.5);
    } else if (event.key === 'F8' && this.instrument()!.jacks.length > 0) {
      event.preventDefault();
      this.cabling.toggleView();
    } else if (event.key === 'F9' && this.instrument()!.jacks.length > 0) {
      event.preventDefault();
      this.cablesList()?.focus();
    } else if (this.jump() !== null) this.jumpKey(event);
    else if (onControl && this.control()) this.controlKey(event, this.control()!);
    else if (event.key === '/') this.startJump(event);
    if (!event.defaultPrevented && event.key === ' ' && !isPressable(event.target)) {
      event.preventDefault();
      this.play();
    }
  }

  /** Keys while a control has the focus. Typing starts a reading at once. */
  private controlKey(event: KeyboardEvent, control: Control): void {
    const draft = this.entry.open();
    const setting = this.settingOf(control.id);
    const done = (): void => event.preventDefault();
    switch (event.key) {
      case 'Tab':
        if (!this.commit()) done();
        return;
      case 'Enter':
        done();
        if (!draft) this.entry.write(control, readingText(control, setting));
        else if (this.commit()) this.step(event.shiftKey ? -1 : 1);
        return;
      case 'Escape':
        this.entry.cancel();
        return done();
      case 'Backspace':
        if (draft) this.entry.backspace();
        return done();
      case 'Delete':
        if (!draft) this.set(control.id, null);
        return done();
    }
    if (!draft && this.nudgeKey(event, control)) return done();
    if (event.key === '/' && (!draft || this.entry.complete(setting))) return this.startJump(event);
    if (event.key.length === 1 && (event.key !== ' ' || draft)) {
      this.entry.type(control, event.key);
      done();
    }
  }

  private nudgeKey(event: KeyboardEvent, control: Control): boolean {
    const setting = this.settingOf(control.id);
    const value = soundingValue(control, setting);
    const by = STEPS[event.key];
    if (event.key === 'Home' || event.key === 'End') {
      const end = event.key === 'End';
      const positions = isSwitched(control) ? control.positions : null;
      this.turn(control, positions ? positions.at(end ? -1 : 0)!.id : Number(end));
      return true;
    }
    if (by === undefined) return false;
    // Words stand below one another: down is the next.
    const down =
      isSwitched(control) && (event.key === 'ArrowUp' || event.key === 'ArrowDown') ? -1 : 1;
    this.turn(control, nudge(control, value, by * down * (event.shiftKey ? 5 : 1)));
    return true;
  }

  private turn(control: Control, value: number | string, gesture?: string): void {
    const setting = settingWith(this.settingOf(control.id), value);
    this.store.dispatch(
      PatchActions.setControl({
        control: control.id,
        setting,
        gesture: gesture ?? `nudge-${++this.nudges}`,
      }),
    );
  }

  private wheel(event: WheelEvent): void {
    const id = (event.target as Element).closest('[data-control]')?.getAttribute('data-control');
    const control = this.find(id ?? null);
    const scrolls =
      this.zoom() > 1 || document.documentElement.scrollHeight > window.innerHeight + 2;
    if (!control || (scrolls && this.chosen() !== control.id)) return;
    event.preventDefault();
    const up = event.deltaY < 0 ? 1 : -1;
    const steps = isSwitched(control) ? -up : up * (event.shiftKey ? 1 : 3);
    this.turn(
      control,
      nudge(control, soundingValue(control, this.settingOf(control.id)), steps),
      `wheel-${control.id}`,
    );
  }

  /** Ends what is being written. False when it was not understood: the control then keeps the focus. */
  private commit(): boolean {
    const draft = this.entry.draft();
    if (!draft) return true;
    const setting = this.entry.commit(this.settingOf(draft.control.id));
    if (setting === undefined) return false;
    this.set(draft.control.id, setting);
    return true;
  }

  protected commitDraft(): void {
    if (this.commit() && this.chosen()) this.panel()?.focus(this.chosen()!);
  }

  private step(by: number): void {
    const order = inWorkingOrder(this.instrument()!);
    const at = order.findIndex((c) => c.id === this.chosen());
    const next = order[at + by];
    if (next) this.panel()?.focus(next.id);
  }

  private startJump(event: KeyboardEvent): void {
    if (!this.commit()) return;
    event.preventDefault();
    this.jump.set('');
  }

  /** Keys of a jump: the two that name a control. */
  private jumpKey(event: KeyboardEvent): void {
    event.preventDefault();
    if (event.key.length !== 1) return this.jump.set(null);
    const keys = this.jump()! + event.key.toLowerCase();
    const codes = [...controlCodes(this.instrument()!)];
    const hit = codes.find(([, code]) => code === keys);
    if (hit) {
      this.jump.set(null);
      this.panel()?.focus(hit[0]);
    } else {
      this.jump.set(codes.some(([, code]) => code.startsWith(keys)) ? keys : null);
    }
  }

  private find(id: string | null): Control | undefined {
    return id === null ? undefined : this.instrument()?.controls.find((c) => c.id === id);
  }

  protected settingOf(id: string): Setting | undefined {
    return this.patch()?.settings[id];
  }
}

const STEPS: Record<string, number> = {
  ArrowUp: 1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowLeft: -1,
  PageUp: 10,
  PageDown: -10,
};

const isHand = (control: Control | undefined): boolean =>
  control?.kind === 'wheel' || control?.kind === 'pedal';

const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.matches('input, textarea, select, [contenteditable]');

const isPressable = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.matches('button, a, [role="button"], summary');
