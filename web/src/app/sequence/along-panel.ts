import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { chainFrom, panelOf } from '@hurrel/core';
import { Store } from '@ngrx/store';
import { answer, API, type StoredPatch } from '../api/client';
import { descriptionFor } from '../api/description';
import { MidiIn } from '../midi/midi-in';
import { patchFeature } from '../patch/patch.reducer';
import { PatchPicker } from '../picker/patch-picker';
import { MidiOutService, SIMULATED } from './midi-out.service';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';

/** Who plays along: other patches of the library with their patterns, and instruments that listen to MIDI. */
@Component({
  selector: 'hur-along-panel',
  imports: [MidiIn, PatchPicker],
  template: `
    <h2>Plays along</h2>
    <p class="quiet">
      Other instruments with their own patterns, at this tempo: from the start, or from the next bar
      when it runs already.
    </p>
    <ul>
      @for (part of runner.along(); track part.key) {
        <li>
          <span
            ><strong>{{ part.patch.name }}</strong>
            <span class="quiet">{{ part.patterns[0]?.name }}</span></span
          >
          <input
            class="form-range"
            type="range"
            min="0"
            max="1"
            step="0.05"
            [attr.aria-label]="'Level of ' + part.patch.name"
            #gain
            [value]="part.gain"
            (change)="level($index, gain.valueAsNumber)"
          />
          <button
            type="button"
            class="btn btn-plain"
            [attr.aria-label]="'Leave ' + part.patch.name + ' out'"
            (click)="drop($index)"
          >
            <i class="bi bi-x-lg" aria-hidden="true"></i>
          </button>
        </li>
      }
    </ul>
    <hur-patch-picker
      label="Patch that plays along"
      placeholder="add a patch of the library"
      [without]="own() ?? ''"
      (picked)="join($event.id)"
    />
    @if (fault()) {
      <p class="bad" role="alert">{{ fault() }}</p>
    }
    <h2>Keys and clock that come in</h2>
    @if (sequence.patch(); as patch) {
      <hur-midi-in [own]="patch.tempo" />
    }
    <h2>Sent as MIDI</h2>
    <div class="row">
      <select
        class="form-select"
        aria-label="Instrument that listens"
        #to
        (change)="out.to.set(to.value)"
      >
        <option value="" [selected]="out.to() === ''">to nobody</option>
        @for (output of out.outputs(); track output.id) {
          <option [value]="output.id" [selected]="output.id === out.to()">
            to {{ output.name }}
          </option>
        }
      </select>
      <button type="button" class="btn" (click)="out.look()">Look for more</button>
    </div>
    @if (out.fault()) {
      <p class="bad" role="alert">{{ out.fault() }}</p>
    }
    @if (out.to() === simulated) {
      <p role="status">
        It has heard <strong class="mono">{{ out.heard().notes }}</strong> notes
        @if (out.heard().tempo; as tempo) {
          and follows a clock at <strong class="mono">{{ tempo }} bpm</strong>
        }
      </p>
    }
  `,
  styles: `
    h2 {
      margin: 4px 0 6px;
      font-size: 16px;
    }
    h2:not(:first-child) {
      margin-top: 18px;
    }
    p {
      margin: 0 0 6px;
      font-size: 13.5px;
    }
    ul {
      margin: 0 0 6px;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 80px auto;
      gap: 6px;
      align-items: center;
      font-size: 13.5px;
    }
    li .quiet {
      display: block;
      font-size: 12.5px;
    }
    hur-patch-picker {
      width: 100%;
    }
    .row {
      display: flex;
      gap: 6px;
      margin-bottom: 6px;
    }
    .row .btn {
      flex: none;
    }
    .bad {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AlongPanel {
  private readonly api = inject(API);
  protected readonly own = inject(Store).selectSignal(patchFeature.selectId);
  protected readonly sequence = inject(SequenceService);
  protected readonly runner = inject(RunnerService);
  protected readonly out = inject(MidiOutService);
  protected readonly simulated = SIMULATED;
  protected readonly fault = signal('');
  private asked = 0;

  protected async join(id: string): Promise<void> {
    try {
      const { patch } = await answer<StoredPatch>(this.api.patches[':id'].$get({ param: { id } }));
      const definition = await descriptionFor(this.api, patch);
      const [first] = patch.patterns;
      if (!first) {
        return this.fault.set(`${patch.name} has no pattern: record one in its own Sequence room.`);
      }
      this.fault.set('');
      const patterns = chainFrom(patch.patterns, first.id);
      const instrument = panelOf(definition, patch);
      const key = `${id}-${++this.asked}`;
      const seed = this.runner.seed();
      const part = { key, instrument, patch, patterns, gain: 0.7, pan: 0, seed };
      this.runner.along.update((all) => [...all, part]);
    } catch (error) {
      this.fault.set((error as Error).message);
    }
  }

  protected level(index: number, gain: number): void {
    this.runner.along.update((all) => all.map((p, i) => (i === index ? { ...p, gain } : p)));
  }

  protected drop(index: number): void {
    this.runner.along.update((all) => all.filter((_, i) => i !== index));
  }
}
