import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  type OnDestroy,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  compile,
  controlLabel,
  foldPath,
  formatSetting,
  type Layer,
  layersOf,
  type Path,
  type PathShape,
  phraseToNotes,
  shapesOf,
} from '@hurrel/core';
import { patchFeature } from '../patch/patch.reducer';
import { LiveService } from '../sound/live.service';
import { drawPath } from './layout';
import { PortVolts } from './port-volts';

const EMPTY: Path = { nodes: [], edges: [], graph: { nodes: [], edges: [], output: '' } };

/** The signal path of a patch: drawn from the compiled graph, folded into the shapes people know, heard by layers. */
@Component({
  selector: 'hur-path-page',
  imports: [RouterLink, PortVolts],
  templateUrl: './path-page.html',
  styleUrl: './path-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PathPage implements OnDestroy {
  private readonly store = inject(Store);
  protected readonly live = inject(LiveService);
  protected readonly patch = this.store.selectSignal(patchFeature.selectShown);
  protected readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  protected readonly chosen = signal<string | null>(null);
  protected readonly lit = signal<PathShape | null>(null);
  protected readonly signals = ['audio', 'pitch', 'modulation', 'gate', 'sync'] as const;
  protected readonly legend = [
    { wire: 'audio', name: 'audio' },
    { wire: 'pitch', name: 'pitch' },
    { wire: 'modulation', name: 'modulation' },
    { wire: 'gate', name: 'gate, trigger' },
    { wire: 'clock', name: 'sync' },
  ];

  protected readonly modelled = this.store.selectSignal(patchFeature.selectModelled);
  protected readonly path = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return EMPTY;
    return foldPath(compile(instrument, patch), phraseToNotes(patch.phrase, patch.tempo));
  });
  protected readonly drawing = computed(() => drawPath(this.path()));
  protected readonly shapes = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    return instrument && patch ? shapesOf(this.path(), instrument, patch) : [];
  });
  protected readonly layers = computed(() => layersOf(this.path()));
  protected readonly node = computed(() => this.path().nodes.find((n) => n.id === this.chosen()));
  /** Where the chosen module is on the panel. */
  protected readonly places = computed(() => {
    const [instrument, patch, id] = [this.instrument()!, this.patch()!, this.chosen()];
    const bound = instrument.controls.filter((c) => c.bindings.some((b) => b.module === id));
    const jacks = instrument.jacks.filter((j) => j.port.startsWith(`${id}.`));
    const all = [...bound, ...jacks];
    return {
      sections: new Set(all.map((c) => c.section)),
      dots: all.map((c) => ({ id: c.id, x: c.place.x, y: c.place.y })),
      controls: bound.map((c) => ({
        id: c.id,
        label: controlLabel(instrument, c.id),
        reading: formatSetting(c, patch.settings[c.id]),
      })),
    };
  });

  ngOnDestroy(): void {
    this.live.setAlone(null);
  }

  /** Sync is told like a clock: it starts things anew. */
  protected wire(signal: string): string {
    return signal === 'sync' ? 'clock' : signal;
  }

  protected dims(id: string): boolean {
    const lit = this.lit();
    return lit !== null && !lit.nodes.includes(id);
  }

  protected nameOf(id: string): string {
    return this.path().nodes.find((n) => n.id === id)?.name ?? id;
  }

  protected choose(id: string): void {
    this.chosen.set(this.chosen() === id ? null : id);
  }

  protected light(shape: PathShape): void {
    this.lit.set(this.lit() === shape ? null : shape);
  }

  protected isAlone(layer: Layer): boolean {
    const alone = this.live.alone();
    return alone?.meets === layer.meets && alone.from === layer.from;
  }

  protected hearAlone(layer: Layer): void {
    const again = this.isAlone(layer);
    this.live.setAlone(again ? null : layer);
    const patch = this.patch();
    if (!again && patch && !this.live.playing()) this.live.playPhrase(patch, patch.phrase, false);
  }
}
