import { ChangeDetectionStrategy, Component, computed, inject, model } from '@angular/core';
import { Store } from '@ngrx/store';
import { KeysService } from '../sound/keys.service';
import { MidiInService } from '../midi/midi-in.service';
import { PatchActions } from '../patch/patch.actions';
import { LiveService } from '../sound/live.service';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';

/** Starts and stops what runs, at which tempo; fill, keys that move it, play over it or write into it. */
@Component({
  selector: 'hur-transport',
  templateUrl: './transport.html',
  styleUrl: './transport.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Transport {
  private readonly store = inject(Store);
  protected readonly live = inject(LiveService);
  protected readonly keys = inject(KeysService);
  protected readonly midi = inject(MidiInService);
  protected readonly sequence = inject(SequenceService);
  protected readonly runner = inject(RunnerService);
  protected readonly pattern = this.sequence.pattern;
  /** Keys that are played write notes where one stands, or where the pattern runs. */
  readonly playIn = model.required<boolean>();

  protected readonly bar = computed(() => Math.floor(Math.max(0, this.runner.beat()) / 4));
  protected readonly beatOfBar = computed(() => Math.floor(Math.max(0, this.runner.beat())) % 4);

  protected setTempo(text: string): void {
    const tempo = Number(text.replace(',', '.'));
    if (tempo >= 20 && tempo <= 400)
      this.store.dispatch(PatchActions.change({ changes: { tempo }, gesture: 'tempo' }));
  }
}
