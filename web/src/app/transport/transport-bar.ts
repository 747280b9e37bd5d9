import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { RouterLink } from '@angular/router';
import { hasCircuit, midiToNote } from '@hurrel/core';
import { CompareService } from '../listen/compare.service';
import { TunerService } from '../listen/tuner.service';
import { MidiInService } from '../midi/midi-in.service';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { RunnerService } from '../sequence/runner.service';
import { ChordPads } from '../sound/chord-pads';
import { KeysService } from '../sound/keys.service';
import type { KeysUse } from '../sound/heard';
import { LiveService } from '../sound/live.service';
import { type Played, TransportService } from './transport.service';

/** Under every page, once a patch is open or something sounds: what plays, and everything that is done to it. */
const uses: readonly { id: KeysUse; label: string }[] = [
  { id: 'sound', label: 'sound too' },
  { id: 'move', label: 'move it' },
  { id: 'interrupt', label: 'pause it' },
  { id: 'arpeggio', label: 'are its chord' },
];

@Component({
  selector: 'hur-transport-bar',
  imports: [ChordPads, RouterLink],
  templateUrl: './transport-bar.html',
  styleUrl: './transport-bar.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TransportBar {
  private readonly store = inject(Store);
  protected readonly transport = inject(TransportService);
  protected readonly live = inject(LiveService);
  protected readonly keys = inject(KeysService);
  protected readonly runner = inject(RunnerService);
  protected readonly compare = inject(CompareService);
  protected readonly tuner = inject(TunerService);
  protected readonly midi = inject(MidiInService);
  protected readonly name = midiToNote;
  protected readonly chords = signal(false);

  private readonly present = this.store.selectSignal(patchFeature.selectPresent);
  protected readonly shown = computed(
    () =>
      !!this.present() ||
      this.transport.trying() ||
      this.live.sounds() ||
      this.keys.on() ||
      this.tuner.on(),
  );
  protected readonly played: { id: Played; label: string; says: string }[] = [
    { id: 'phrase', label: 'Phrase', says: 'The phrase, once' },
    { id: 'round', label: 'Again', says: 'The phrase again and again' },
    { id: 'pattern', label: 'Pattern', says: 'The pattern that is shown, and what follows it' },
  ];
  /** What keys can do to the pattern. Rows of voltages step by their own clock: keys can't pause them. */
  protected readonly uses = computed(() =>
    this.live.runsRows() || this.runner.isRows() ? uses.slice(0, 2) : uses,
  );
  /** Where the pattern is. */
  protected readonly where = computed(() => {
    const beat = this.runner.beat();
    if (beat < 0) return '';
    const at = `bar ${Math.floor(beat / 4) + 1}.${(Math.floor(beat) % 4) + 1}`;
    return this.runner.strikes() ? at : `${at}, no step strikes a note`;
  });
  protected readonly level = computed(() => {
    const db = 20 * Math.log10(Math.max(1e-4, this.live.meter().peak));
    return Math.max(0, Math.min(100, (100 * (db + 60)) / 60));
  });
  protected readonly limited = computed(() => this.live.meter().taken > 0.01);
  /** What would be heard is only recorded. */
  protected readonly unmodelled = computed(() => {
    const heard = this.live.heard();
    return heard !== null && !hasCircuit(heard.instrument);
  });
  /** Tempo of the open patch; of what is heard, when none is. */
  protected readonly tempo = computed(() => {
    const heard = this.transport.elsewhere();
    return (heard?.patch ?? this.present() ?? this.live.heard()?.patch)?.tempo ?? 120;
  });

  protected setTempo(text: string): void {
    const tempo = Number(text.replace(',', '.'));
    if (tempo >= 20 && tempo <= 400)
      this.store.dispatch(PatchActions.change({ changes: { tempo }, gesture: 'tempo' }));
  }

  protected useKeys(use: string): void {
    this.live.useKeys(use as KeysUse);
  }

  protected leaveClock(): void {
    if (this.midi.running()) this.midi.stopClock();
    else this.midi.leave();
  }
}
