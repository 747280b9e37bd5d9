import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { panelOf } from '@hurrel/core';
import { answer, API, type PatchSummary } from '../api/client';
import { type Page, readAll } from '../api/pages';
import { type Behind, CarryService } from '../carry/carry.service';
import { carryPatches } from '../carry/carry-patches';
import { DocumentActs, SavedLine } from '../document/document-acts';
import { openDocument } from '../document/open-document';
import { download, fileName } from '../ui/download';
import { Panel } from '../ui/panel';
import { MainPages } from '../ui/main-pages';
import { InstrumentActions, instrumentFeature, instrumentSides } from './instrument.document';
import { CircuitChoice } from './circuit/circuit-choice';
import { ArrangeDesk } from './arrange/arrange-desk';
import { ArrangeSheet } from './arrange/arrange-sheet';
import { ArrangeTools } from './arrange/arrange-tools';
import { Extras } from './extras/extras';
import { InstrumentActs } from './instrument-acts';
import { InstrumentDesk } from './instrument-desk';
import { OutlineField } from './outline-field';
import { OutlineHelp } from './outline-help';
import { CircuitRoomView } from './room/circuit-room';
import { RoomDesk } from './room/room-desk';
import { PhotographDesk } from './photograph/photograph-desk';
import { RoomTools } from './room/room-tools';
import { TrialBar } from './trial-bar';
import { TrialDesk } from './trial-desk';
import { trialKeys } from './trial-keys';

/** What of an instrument is described, one beside the panel at a time. */
type Side = 'words' | 'places' | 'controls' | 'circuit' | 'extras';

/** One instrument: its panel, drawn while it is typed in words, and what is done with it. */
@Component({
  selector: 'hur-instrument-page',
  imports: [
    ArrangeSheet,
    ArrangeTools,
    CircuitChoice,
    CircuitRoomView,
    DocumentActs,
    Extras,
    OutlineField,
    OutlineHelp,
    Panel,
    MainPages,
    RoomTools,
    RouterLink,
    SavedLine,
    TrialBar,
  ],
  providers: [ArrangeDesk, InstrumentActs, InstrumentDesk, PhotographDesk, RoomDesk, TrialDesk],
  templateUrl: './instrument-page.html',
  styleUrl: './instrument-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InstrumentPage {
  readonly id = input.required<string>();

  private readonly api = inject(API);
  private readonly carryService = inject(CarryService);
  private readonly title = inject(Title);
  private readonly field = viewChild(OutlineField);
  protected readonly desk = inject(InstrumentDesk);
  protected readonly trial = inject(TrialDesk);
  protected readonly acts = inject(InstrumentActs);
  protected readonly document = openDocument(
    'instrument',
    () => this.id(),
    instrumentFeature.selectInstrumentState,
    InstrumentActions,
    instrumentSides,
  );
  protected readonly instrument = this.desk.whole;
  /** Modules that the words name and for which the sheet has no room. */
  protected readonly noRoom = computed(() => {
    const said = this.desk.reading().outline.rows?.flat().length ?? 0;
    return said - (this.instrument()?.rack?.placed.length ?? said);
  });
  /** Kinds of module that one can look at by themselves, where that is of use. */
  protected readonly modules = computed(() =>
    ['places', 'controls', 'circuit'].includes(this.side())
      ? (this.instrument()?.rack?.types ?? [])
      : [],
  );
  /** Of a cabinet its modules as they stand, or the one that is looked at. */
  protected readonly face = computed(() => {
    const instrument = this.desk.instrument();
    return instrument && instrument.sections.length + (instrument.rack ? 1 : 0) > 0
      ? panelOf(instrument)
      : null;
  });
  /** It is described in words; what came as a file is only shown. */
  protected readonly typed = computed(() => this.instrument()?.outline !== undefined);
  protected readonly patches = signal<PatchSummary[]>([]);
  /** Patches that stand on an older description. */
  protected readonly behind = signal<Behind[]>([]);
  private readonly carry = carryPatches(() => void this.readBehind());
  private readonly stored = computed(() => this.document.state().stored?.version);
  protected readonly empty = {};
  /** Controls from which on a sheet that is scaled anew with each letter takes too long to paint. */
  protected readonly MANY = 120;
  /** What stands beside the panel. */
  protected readonly side = signal<Side>('words');
  protected readonly sides = computed((): { id: Side; says: string; waits: boolean }[] => {
    const instrument = this.instrument();
    const { sections = [], controls = [] } = instrument ? panelOf(instrument) : {};
    return [
      { id: 'words', says: 'The panel in words', waits: false },
      { id: 'places', says: 'Layout', waits: false },
      { id: 'controls', says: 'What the controls do', waits: controls.length === 0 },
      { id: 'circuit', says: 'The circuit', waits: sections.length === 0 },
      { id: 'extras', says: 'Extras', waits: controls.length === 0 },
    ];
  });

  /** It can be tried by ear where what is said is heard. */
  protected readonly tries = computed(
    () => !this.typed() || ['controls', 'circuit'].includes(this.side()),
  );

  /** Looks at a module by itself, or at the whole. */
  protected lookAt(module: string): void {
    this.desk.module.set(module === '' ? null : module);
    this.desk.chosen.set(null);
  }

  /** What was described is left: words and extras are the whole's. */
  protected goTo(side: Side): void {
    this.side.set(side);
    if (this.modules().length === 0) this.lookAt('');
  }

  /** A control that was chosen on the panel; one of a cabinet's module is looked at with its module. */
  protected choose(id: string): void {
    const placed =
      this.modules().length > 0 && !this.desk.focused() && this.instrument()?.rack?.placed;
    const module = placed && placed.find((p) => id.startsWith(`${p.id}-`));
    if (module) this.desk.module.set(module.type);
    this.desk.chosen.set(module ? id.slice(module.id.length + 1) : id);
  }

  constructor() {
    trialKeys();
    effect(() => {
      const id = this.id();
      untracked(() => void this.readPatches(id));
    });
    effect(() => {
      // Each version that is stored may leave patches behind; what is typed before it is stored leaves none.
      if (this.stored() !== undefined) untracked(() => void this.readBehind());
    });
    effect(() => {
      const name = this.instrument()?.name;
      if (name) this.title.setTitle(`${name} · Hurrel`);
    });
    effect(() => {
      const field = this.field();
      // A blank sheet waits for the first word.
      if (field && untracked(() => this.instrument()?.sections.length) === 0) field.focus();
    });
  }

  protected count(list: readonly unknown[] | undefined, word: string): string {
    const many = list?.length ?? 0;
    return `${many} ${word}${many === 1 ? '' : 's'}`;
  }

  protected carryAll(): Promise<void> {
    const instrument = this.instrument();
    return instrument
      ? this.carry(instrument.id, instrument.name, this.behind())
      : Promise.resolve();
  }

  protected save(): void {
    const instrument = this.instrument();
    if (!instrument) return;
    const text = `${JSON.stringify(instrument, null, 2)}\n`;
    download(fileName(`${instrument.maker} ${instrument.name}`, 'json'), text, 'application/json');
  }

  private async readBehind(): Promise<void> {
    try {
      this.behind.set(await this.carryService.behind(this.id()));
    } catch {
      // As with the list: the instrument itself says that the server is away.
    }
  }

  private async readPatches(instrument: string): Promise<void> {
    try {
      const all = await readAll((page) =>
        answer<Page<PatchSummary>>(
          this.api.patches.$get({ query: { instrument, page, size: '200' } }),
        ),
      );
      this.patches.set(all);
    } catch {
      // The list is told when the server is back; the instrument itself says that it waits.
    }
  }
}
