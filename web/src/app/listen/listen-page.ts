import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import {
  Act,
  decodeWav,
  type Instrument,
  levelCaution,
  type Patch,
  pitchHeardAfter,
} from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { MidiIn } from '../midi/midi-in';
import { useShortcuts } from '../keys/shortcuts';
import { LiveService } from '../sound/live.service';
import { MeasureService } from '../sound/measure.service';
import { download, fileName, svgToPng } from '../ui/download';
import { ToastService } from '../ui/toasts';
import { AwayPanel } from './away-panel';
import { ComparePanel } from './compare-panel';
import { CompareService, type Other } from './compare.service';
import { type Drawn, drawSound } from './drawing';
import { tellFacts } from './facts';
import { Keybed } from './keybed';
import { ChordPads } from '../sound/chord-pads';
import { KeysService } from '../sound/keys.service';
import { Tuner } from './tuner';

/** The sound under the hands: played, compared with another, taken apart and measured. */
@Component({
  selector: 'hur-listen-page',
  imports: [AwayPanel, ChordPads, ComparePanel, Keybed, MidiIn, Tuner],
  providers: [MeasureService],
  templateUrl: './listen-page.html',
  styleUrl: './listen-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ListenPage {
  private readonly store = inject(Store);
  private readonly measurer = inject(MeasureService);
  protected readonly live = inject(LiveService);
  protected readonly keys = inject(KeysService);
  protected readonly compare = inject(CompareService);

  private readonly toasts = inject(ToastService);
  protected readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  protected readonly patch = this.store.selectSignal(patchFeature.selectShown);
  protected readonly instrument = computed(() => this.state().instrument);
  protected readonly Act = Act;
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
  protected readonly modelled = this.store.selectSignal(patchFeature.selectModelled);
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
    useShortcuts('Listen', [
      {
        keys: 'F4',
        says: 'Put back all that was taken away',
        act: () => this.live.setAway(new Set()),
      },
    ]);
    effect(() => {
      const other = this.compare.other();
      untracked(() => void this.measureOther(other));
    });
    effect((cleanup) => {
      const [instrument, patch, note] = [this.instrument(), this.patch(), this.note()];
      if (!instrument || !patch || !this.modelled()) return;
      // Measured once the hand rests.
      const timer = setTimeout(() => void this.measure(instrument, patch, note), 250);
      cleanup(() => clearTimeout(timer));
    });
  }

  /** What the tuner found becomes a place to listen behind the oscillators. */
  protected recordPitch({ note, hear }: { note: number; hear: string }): void {
    const [instrument, present] = [this.instrument(), this.state().present];
    if (!instrument || !present) return;
    const after = pitchHeardAfter(instrument)!.id;
    const checkpoints = [...present.checkpoints, { after, note, hear }];
    this.store.dispatch(PatchActions.change({ changes: { checkpoints } }));
    this.toasts.show(`Kept as a place to listen: ${hear}.`);
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
      const [samples = new Float32Array()] = decodeWav(wav ?? new Uint8Array()).channels;
      const svg = drawSound(patch.name, kind as Drawn, samples);
      const name = `${patch.name} ${kind === 'wave' ? 'waveform' : 'spectrum'}`;
      if (png) download(fileName(name, 'png'), await svgToPng(svg), 'image/png');
      else download(fileName(name, 'svg'), svg, 'image/svg+xml');
    } catch (error) {
      this.fault.set(`It could not be saved: ${(error as Error).message}`);
    } finally {
      this.measuring.set(false);
    }
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

  private async measureOther(other: Other | null): Promise<void> {
    this.otherTold.set(null);
    const subject = other?.recording ?? (other?.patch && { ...other.patch, note: this.note() });
    if (!subject) return;
    const { facts } = await this.measurer.measure({ subject });
    if (other === this.compare.other())
      this.otherTold.set(new Map(tellFacts(facts).map((f) => [f.name, f.text])));
  }
}
