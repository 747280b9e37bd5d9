import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import {
  Act,
  canGo,
  compile,
  decodeWav,
  type Instrument,
  levelCaution,
  type Patch,
  plotSvg,
  sectionsInOrder,
  spectrum,
  toBands,
  applyVariation,
  faceOf,
  unitFace,
} from '@hurrel/core';
import { answer, API, type PatchSummary, type StoredPatch } from '../api/client';
import { type StoredUnit, UnitsService } from '../instruments/units.service';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { MidiIn } from '../midi/midi-in';
import { MidiInService } from '../midi/midi-in.service';
import { LiveService } from '../sound/live.service';
import { MeasureService } from '../sound/measure.service';
import { download, fileName, svgToPng } from '../ui/download';
import { ToastService } from '../ui/toasts';
import { CompareService } from './compare.service';
import { tellFacts } from './facts';
import { Keybed } from './keybed';
import { KeysService, PADS } from './keys.service';
import { Tuner } from './tuner';

/** The sound under the hands: played, compared with another, taken apart and measured. */
@Component({
  selector: 'hur-listen-page',
  imports: [Keybed, MidiIn, Tuner],
  providers: [CompareService, MidiInService, MeasureService],
  templateUrl: './listen-page.html',
  styleUrl: './listen-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ListenPage {
  private readonly api = inject(API);
  private readonly store = inject(Store);
  private readonly measurer = inject(MeasureService);
  protected readonly live = inject(LiveService);
  protected readonly keys = inject(KeysService);
  protected readonly compare = inject(CompareService);

  private readonly unitsService = inject(UnitsService);
  protected readonly units = signal<StoredUnit[]>([]);

  private readonly toasts = inject(ToastService);
  protected readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  protected readonly patch = this.store.selectSignal(patchFeature.selectShown);
  protected readonly instrument = computed(() => this.state().instrument);
  protected readonly pads = PADS;
  protected readonly Act = Act;
  protected readonly emptySet: ReadonlySet<string> = new Set();
  protected readonly again = signal(false);
  protected readonly choices = signal<PatchSummary[]>([]);
  protected readonly facts = signal<{ name: string; text: string }[]>([]);
  /** What was measured of the other sound, by name; whichever of the two comes first waits for the other. */
  private readonly otherTold = signal<ReadonlyMap<string, string> | null>(null);
  protected readonly otherFacts = computed(() => {
    const told = this.otherTold();
    return told ? this.facts().map((f) => told.get(f.name) ?? 'none') : [];
  });
  protected readonly measuring = signal(false);
  protected readonly fault = signal('');
  private asked = 0;

  protected readonly note = computed(() => this.patch()?.phrase[0]?.note ?? 48);
  /** Sections in which something can be taken away, and what. */
  protected readonly parts = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return [];
    const able = canGo(instrument, compile(instrument, patch));
    return sectionsInOrder(instrument).flatMap((section) => {
      const controls = instrument.controls.filter(
        (c) => c.section === section.id && able.has(c.id),
      );
      return controls.length === 0 ? [] : [{ section, controls }];
    });
  });
  /** What goes into mixers: the layers of the sound. */
  protected readonly layers = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return [];
    const ids = compile(instrument, patch)
      .nodes.filter((n) => n.kind === 'mixer')
      .flatMap((n) => Object.values(n.controls));
    return instrument.controls.filter((c) => ids.includes(c.id));
  });
  protected readonly level = computed(() => {
    const db = 20 * Math.log10(Math.max(1e-4, this.live.meter().peak));
    return Math.max(0, Math.min(100, (100 * (db + 60)) / 60));
  });
  protected readonly limited = computed(() => this.live.meter().taken > 0.01);
  protected readonly heard = computed(() => {
    const first = this.live.side() === 'a';
    if (!this.compare.blind()) return first ? 'this patch' : (this.compare.other()?.name ?? '');
    return first === this.compare.xIsThis() ? 'X' : 'Y';
  });
  /** The circuit has a way in for sound from outside. */
  protected readonly hasInput = computed(
    () => this.instrument()?.circuit.modules.some((m) => m.kind === 'external') ?? false,
  );
  /** The resonance or feedback that may jump in level. */
  protected readonly caution = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    return instrument && patch ? levelCaution(instrument, patch) : '';
  });

  constructor() {
    void this.readChoices();
    effect(() => {
      const id = this.instrument()?.id;
      if (id)
        void this.unitsService.of(id).then(
          (all) => this.units.set(all),
          () => undefined,
        );
    });
    effect((cleanup) => {
      const [instrument, patch, note] = [this.instrument(), this.patch(), this.note()];
      if (!instrument || !patch) return;
      // Measured once the hand rests.
      const timer = setTimeout(() => void this.measure(instrument, patch, note), 250);
      cleanup(() => clearTimeout(timer));
    });
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    const target = event.target as HTMLElement;
    const writes = target.matches('input:not([type=range]), textarea, select');
    if (event.key === 'F6') this.compare.swap();
    else if (event.key === 'F4') this.live.setAway(new Set());
    else if (event.key === ' ' && !writes && !target.matches('button, a')) this.play();
    else return;
    event.preventDefault();
  }

  /** What the tuner found becomes a place to listen behind the oscillators. */
  protected recordPitch({ note, hear }: { note: number; hear: string }): void {
    const [instrument, present] = [this.instrument(), this.state().present];
    if (!instrument || !present) return;
    const sections = sectionsInOrder(instrument);
    const after = (sections.find((s) => s.stage === 'oscillators') ?? sections[0]!).id;
    const checkpoints = [...present.checkpoints, { after, note, hear }];
    this.store.dispatch(PatchActions.change({ changes: { checkpoints } }));
    this.toasts.show(`Kept as a place to listen: ${hear}.`);
  }

  protected play(): void {
    const patch = this.patch();
    if (!patch) return;
    if (this.live.playing()) this.live.stop();
    else this.live.playPhrase(patch, patch.phrase, this.again());
  }

  protected async choose(value: string): Promise<void> {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return;
    if (value === '') return this.compare.clear();
    const [kind, id = ''] = value.split(':');
    try {
      const second = await this.secondOf(kind!, id, { instrument, patch });
      await this.compare.withPatch({ instrument, patch }, second, second.name);
      await this.measureOther();
    } catch (error) {
      this.compare.fault.set((error as Error).message);
    }
  }

  /** What a choice of the list stands for: the same patch otherwise, or another one. */
  private async secondOf(
    kind: string,
    id: string,
    first: { instrument: Instrument; patch: Patch },
  ): Promise<{ name: string; instrument: Instrument; patch: Patch }> {
    const { instrument, patch } = first;
    switch (kind) {
      case 'variation': {
        const base = this.state().present!;
        const variation = base.variations.find((v) => v.id === id)!;
        return { name: variation.name, instrument, patch: applyVariation(base, variation) };
      }
      case 'revision': {
        const { name } = instrument.revisions.find((r) => r.id === id)!;
        return { name, instrument, patch: { ...patch, revision: id } };
      }
      case 'unit': {
        const { unit } = this.units().find((u) => u.id === id)!;
        return { name: unit.name, instrument: unitFace(instrument, unit), patch };
      }
    }
    const other =
      kind === 'version'
        ? await answer<StoredPatch>(
            this.api.patches[':id'].versions[':number'].$get({
              param: { id: this.state().stored!.id, number: id },
            }),
          )
        : await answer<StoredPatch>(this.api.patches[':id'].$get({ param: { id } }));
    const definition =
      other.patch.instrument === instrument.id
        ? this.state().context!
        : await answer<Instrument>(
            this.api.instruments[':id'].$get({ param: { id: other.patch.instrument } }),
          );
    return {
      name: kind === 'version' ? `version ${id}` : other.patch.name,
      instrument: faceOf(definition, other.patch),
      patch: other.patch,
    };
  }

  protected async chooseFile(event: Event): Promise<void> {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    const [instrument, patch] = [this.instrument(), this.patch()];
    input.value = '';
    if (!file || !instrument || !patch) return;
    await this.compare.withFile({ instrument, patch }, file);
    await this.measureOther();
  }

  protected isAway(controls: readonly { id: string }[]): boolean {
    return controls.every((c) => this.live.away().has(c.id));
  }

  protected toggle(controls: readonly { id: string }[]): void {
    this.live.toggleAway(controls.map((c) => c.id));
  }

  /** One layer alone: all others away; once more puts them back. */
  protected solo(id: string): void {
    const others = this.layers().filter((c) => c.id !== id);
    const away = new Set(this.live.away());
    const alone = others.every((c) => away.has(c.id));
    for (const c of others) {
      if (alone) away.delete(c.id);
      else away.add(c.id);
    }
    away.delete(id);
    this.live.setAway(away);
  }

  protected async save(
    kind: '16' | '24' | '32f' | 'wave' | 'spectrum',
    png = false,
  ): Promise<void> {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return;
    this.measuring.set(true);
    try {
      const format = kind === 'wave' || kind === 'spectrum' ? '32f' : kind;
      const subject = { instrument, patch, note: this.note() };
      const { wav } = await this.measurer.measure({ subject, format });
      if (format === kind) {
        return download(fileName(patch.name, 'wav'), wav as Uint8Array<ArrayBuffer>, 'audio/wav');
      }
      const svg = this.drawing(
        patch.name,
        kind as 'wave' | 'spectrum',
        decodeWav(wav!).channels[0]!,
      );
      const name = `${patch.name} ${kind === 'wave' ? 'waveform' : 'spectrum'}`;
      if (png) download(fileName(name, 'png'), await svgToPng(svg), 'image/png');
      else download(fileName(name, 'svg'), svg, 'image/svg+xml');
    } catch (error) {
      this.fault.set(`It could not be saved: ${(error as Error).message}`);
    } finally {
      this.measuring.set(false);
    }
  }

  private drawing(name: string, kind: 'wave' | 'spectrum', samples: Float32Array): string {
    const note = 'One note of a model of the instrument, computed by Hurrel';
    const from = 24000;
    if (kind === 'spectrum') {
      const bands = toBands(spectrum(samples, 48000, from, 16384), 20, 20000, 600);
      return plotSvg({
        title: `${name}: spectrum`,
        note,
        x: {
          label: 'Hz',
          from: 20,
          to: 20000,
          log: true,
          ticks: [20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000],
        },
        y: { label: 'dB', from: -100, to: 0, ticks: [-100, -80, -60, -40, -20, 0] },
        points: bands.map((b) => [b.hz, b.db]),
      });
    }
    const part = samples.subarray(from, from + 2400);
    return plotSvg({
      title: `${name}: waveform`,
      note,
      x: { label: 'ms', from: 0, to: 50, ticks: [0, 10, 20, 30, 40, 50] },
      y: { label: 'V', from: -10, to: 10, ticks: [-10, -5, 0, 5, 10] },
      points: Array.from(part, (v, i) => [i / 48, 10 * v] as const),
    });
  }

  private async measure(instrument: Instrument, patch: Patch, note: number): Promise<void> {
    const asked = ++this.asked;
    this.measuring.set(true);
    try {
      const { facts } = await this.measurer.measure({ subject: { instrument, patch, note } });
      // While a control is turned only the newest measurement counts.
      if (asked !== this.asked) return;
      this.facts.set(tellFacts(facts));
      this.fault.set('');
    } catch (error) {
      this.fault.set(`It could not be measured: ${(error as Error).message}`);
    }
    this.measuring.set(false);
  }

  private async measureOther(): Promise<void> {
    const other = this.compare.other();
    this.otherTold.set(null);
    if (!other) return;
    const subject = other.recording ?? { ...other.patch!, note: this.note() };
    const { facts } = await this.measurer.measure({ subject });
    this.otherTold.set(new Map(tellFacts(facts).map((f) => [f.name, f.text])));
  }

  private async readChoices(): Promise<void> {
    try {
      const { items } = await answer<{ items: PatchSummary[] }>(
        this.api.patches.$get({ query: {} }),
      );
      this.choices.set(items.filter((p) => p.id !== this.state().id));
    } catch {
      // Without the server there is nothing to compare with; recordings can be opened all the same.
      this.choices.set([]);
    }
  }

  protected otherRevisions(): { id: string; name: string }[] {
    const now = this.patch()?.revision;
    return (this.instrument()?.revisions ?? []).filter((r) => r.id !== now);
  }

  protected versions(): number[] {
    const now = this.state().stored?.version ?? 1;
    return Array.from({ length: Math.min(12, now - 1) }, (_, i) => now - 1 - i);
  }
}
