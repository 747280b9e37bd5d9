import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  Injector,
  input,
  output,
  viewChild,
} from '@angular/core';
import {
  beginText,
  type Control,
  controlCodes,
  controlLabel,
  controlName,
  expectedReadings,
  type Finding,
  GRADES,
  hasCircuit,
  type Instrument,
  isSwitched,
  type Mend,
  type Patch,
  parseReading,
  physicalValue,
  type Picture,
  readingStyle,
  readingText,
  readingTolerance,
  sectionsInOrder,
  type Setting,
  settingAs,
  type SettingKind,
  soundingValue,
} from '@hurrel/core';
import { LiveService } from '../sound/live.service';
import { SensitivityService } from '../sound/sensitivity.service';
import { seenBefore } from '../ui/seen-before';
import type { Draft } from './entry';
import { Findings } from './findings';
import { LEGEND } from './legend';

const KINDS: { kind: SettingKind; label: string; hint: string }[] = [
  { kind: 'set', label: 'exact', hint: 'Set exactly' },
  { kind: 'range', label: 'range', hint: 'Anywhere within a range: type 40-50%' },
  { kind: 'ear', label: 'by ear', hint: 'Against a target: type ~ and the target' },
  { kind: 'any', label: 'any', hint: 'Does not matter: type *' },
  { kind: 'none', label: '?', hint: 'Not recorded yet: type ?' },
];

const STYLES = {
  display: 'exact display',
  printed: 'printed scale',
  clock: 'no numbers: read by the clock',
  percent: 'no numbers: per cent of travel',
};

/** What the chosen control says, why it stands there, and what is wrong in the patch. */
@Component({
  selector: 'hur-inspector',
  imports: [Findings],
  templateUrl: './inspector.html',
  styleUrl: './inspector.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Inspector {
  readonly instrument = input.required<Instrument>();
  /** The circuit behind the panel is described; and something of it is bound to the chosen control. */
  protected readonly modelled = computed(() => hasCircuit(this.instrument()));
  protected readonly isModelled = computed(
    () => this.modelled() && (this.control()?.bindings.length ?? 0) > 0,
  );
  readonly patch = input.required<Patch>();
  readonly control = input<Control | undefined>();
  readonly sectionId = input<string | null>(null);
  /** What is being written, for whatever control. */
  readonly draft = input<Draft | null>(null);
  /** The same, where it is for this control: a message about another one stays with that. */
  protected readonly written = computed(() => {
    const written = this.draft();
    return written?.control.id === this.control()?.id ? written : null;
  });
  private readonly injector = inject(Injector);
  private readonly reading = viewChild<ElementRef<HTMLInputElement>>('readingField');
  readonly findings = input<Finding[]>([]);
  /** They are of a patch that has been edited since. */
  readonly checking = input(false);
  readonly picture = input<Picture | null>(null);

  /** A jack is chosen: what is said of it stands where the controls' words would. */
  readonly jackChosen = input(false);

  readonly write = output<{ control: Control; text: string }>();
  readonly commit = output<void>();
  readonly cancelled = output<void>();
  readonly setting = output<{ control: string; setting: Setting | null }>();
  readonly noted = output<{ key: string; text: string }>();
  readonly mended = output<Mend>();
  readonly shown = output<string>();
  readonly cableShown = output<string>();
  readonly meant = output<{ id: string; note: string | null }>();
  readonly readNotes = output<void>();
  readonly sectionChosen = output<string>();
  /** Wants to know which controls matter. */
  readonly weighed = output<void>();
  /** Wants to hear it without the chosen control or section. */
  readonly takenAway = output<void>();

  protected readonly weigh = inject(SensitivityService);
  protected readonly live = inject(LiveService);

  protected readonly kinds = KINDS;
  /** The legend stands open the first time a patch is opened on this device; from then on it is folded. */
  protected readonly knowsLegend = seenBefore('legend');
  protected readonly legend = LEGEND;
  protected readonly current = computed(() => {
    const control = this.control();
    return control && this.patch().settings[control.id];
  });
  /** What matters most, in words; only what is heard. */
  protected readonly heaviest = computed(() => {
    const most = this.weigh.ranked()[0]?.distance.total ?? 0;
    return this.weigh
      .ranked()
      .filter((w) => w.distance.total >= GRADES[0])
      .slice(0, 8)
      .map((w) => ({
        id: w.control,
        name: controlLabel(this.instrument(), w.control),
        share: (100 * w.distance.total) / most,
        change: `${w.distance.total.toFixed(1)} dB`,
      }));
  });
  /** Controls that turn something and of which nothing is recorded. */
  protected readonly assumed = computed(() => {
    const { settings } = this.patch();
    return this.instrument().controls.filter((c) => c.bindings.length > 0 && !settings[c.id])
      .length;
  });
  protected readonly stale = computed(() => !this.weigh.isOf(this.patch()));
  protected readonly isAway = computed(() => {
    const section = this.sectionId();
    const ids = this.control()
      ? [this.control()!.id]
      : section
        ? this.instrument()
            .controls.filter((c) => c.section === section)
            .map((c) => c.id)
        : [];
    return ids.length > 0 && ids.every((id) => this.live.away().has(id));
  });
  protected readonly kind = computed<SettingKind>(() => this.current()?.kind ?? 'none');
  protected readonly section = computed(() => {
    const id = this.control()?.section ?? this.sectionId();
    return this.instrument().sections.find((s) => s.id === id);
  });
  protected readonly number = computed(
    () => sectionsInOrder(this.instrument()).findIndex((s) => s.id === this.section()?.id) + 1,
  );
  protected readonly facts = computed(() => {
    const control = this.control();
    if (!control) return '';
    const how = isSwitched(control)
      ? `${control.positions.length} positions`
      : STYLES[readingStyle(control)];
    return [control.kind, how, control.where].filter(Boolean).join(' · ');
  });
  protected readonly code = computed(() => {
    const control = this.control();
    return control ? controlCodes(this.instrument()).get(control.id) : undefined;
  });
  protected readonly text = computed(() => {
    const control = this.control();
    const draft = this.written();
    if (!control) return '';
    if (draft && draft.control.id === control.id) return draft.text;
    return this.current() ? readingText(control, this.current()) : '';
  });
  protected readonly expected = computed(() => {
    const control = this.control();
    return control ? expectedReadings(control) : '';
  });
  /** What the reading comes to, and how exactly it can be read. */
  protected readonly meaning = computed(() => {
    const control = this.control();
    const setting = this.current();
    if (!control) return '';
    if (!setting) return 'Not recorded yet. The model takes it at rest.';
    if (setting.kind === 'any') return 'Does not matter in this patch.';
    const value = soundingValue(control, setting);
    const physical = physicalValue(control, value);
    if (!physical || typeof value === 'string') return '';
    const tolerance = readingTolerance(control, value);
    const [low, high] = [Math.max(0, value - tolerance), Math.min(1, value + tolerance)].map(
      (v) => physicalValue(control, v)!.text,
    );
    return `${physical.text}, read as well as ${low} to ${high}`;
  });
  protected readonly cutoffTop = computed(() => {
    const picture = this.picture();
    const control = this.control();
    if (
      !picture ||
      picture.cutoff.length === 0 ||
      isSwitched(control ?? ({ positions: [] } as never))
    )
      return '';
    const bound = control?.bindings[0];
    if (!bound || bound.param !== 'cutoff') return '';
    const top = Math.max(...picture.cutoff.map((p) => p.value));
    return `With everything that moves it, the cutoff reaches ${top >= 1000 ? `${(top / 1000).toFixed(2)} kHz` : `${Math.round(top)} Hz`}.`;
  });
  /** Told apart from another of its section that is called the same. */
  protected readonly name = computed(() => {
    const control = this.control();
    return control ? controlName(this.instrument(), control) : '';
  });
  /** What has been written so far would be taken as; undefined while it is no reading. */
  protected readonly reads = computed(() => {
    const draft = this.written();
    if (!draft || draft.text === '') return undefined;
    const { control, text } = draft;
    const { settings, tempo } = this.patch();
    const parsed = parseReading(text, control, settings[control.id], tempo);
    if (!parsed.ok || !parsed.setting) return undefined;
    const physical = physicalValue(control, soundingValue(control, parsed.setting));
    return {
      text: readingText(control, parsed.setting),
      physical: physical?.text,
      said: parsed.said.join('; '),
    };
  });
  protected readonly noteKey = computed(() => {
    const control = this.control();
    if (control) return `control:${control.id}`;
    return this.sectionId() ? `section:${this.sectionId()}` : null;
  });
  protected readonly noteText = computed(() => {
    const key = this.noteKey();
    return key ? (this.patch().notes[key] ?? '') : '';
  });
  protected readonly idle = computed(() => this.findings().filter((f) => f.severity === 'idle'));
  /** Why this very control changes nothing. */
  protected readonly idleHere = computed(() =>
    this.idle().find((f) => f.controls[0] === this.control()?.id),
  );
  protected readonly counted = computed(() => ({
    recorded: Object.keys(this.patch().settings).length,
    all: this.instrument().controls.length,
  }));

  protected typed(event: Event): void {
    const control = this.control();
    if (control) this.write.emit({ control, text: (event.target as HTMLInputElement).value });
  }

  protected toKind(kind: SettingKind): void {
    const control = this.control();
    if (!control || kind === this.kind()) return;
    // What only words can say is typed: nothing is recorded before it is taken.
    if (kind === 'range' || kind === 'ear') {
      this.write.emit({ control, text: beginText(control, this.current(), kind) });
      return this.begin();
    }
    const setting = settingAs(control, this.current(), kind);
    this.setting.emit({ control: control.id, setting });
  }

  /** Puts the keyboard behind what stands in the reading. */
  private begin(): void {
    afterNextRender(
      () => {
        const field = this.reading()?.nativeElement;
        field?.focus();
        field?.setSelectionRange(field.value.length, field.value.length);
      },
      { injector: this.injector },
    );
  }

  protected offers(kind: SettingKind): boolean {
    const control = this.control();
    return !(kind === 'range' && control && isSwitched(control));
  }
}
