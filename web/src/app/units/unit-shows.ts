import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { HeardAt } from '../midi/heard-at';
import { hearKnobs } from '../midi/hear-knobs';
import { shownId } from '@hurrel/core';
import { ShownPanel } from '../shown/shown-panel';
import { UnitDesk } from './unit-desk';

/** What the panel of a unit shows now, as far as anybody knows. */
@Component({
  selector: 'hur-unit-shows',
  imports: [HeardAt, RouterLink],
  template: `
    <section aria-label="What its panel shows">
      <h2>What its panel shows</h2>
      @if (shown.now(); as now) {
        <p>
          {{ shown.says() }}
          @if (now.uncertain.length > 0) {
            <strong>{{ now.uncertain.length }} controls may stand elsewhere.</strong>
          }
        </p>
        <div class="acts">
          @if (now.patch) {
            <a class="btn" [routerLink]="['/patch', now.patch, 'rebuild']">To its rebuild</a>
          }
          <button type="button" class="btn" [disabled]="unsure()" (click)="turned()">
            Somebody has turned things
          </button>
        </div>
      } @else {
        <p class="quiet">Unknown: nothing was rebuilt on it yet.</p>
      }
      @if (speaks(); as instrument) {
        <div class="heard">
          <hur-heard-at [panel]="shown.panel()" [instrument]="instrument" [tells]="true" />
        </div>
      }
    </section>
  `,
  styles: `
    section {
      margin: 14px 0;
    }
    h2 {
      font-size: 18px;
    }
    p {
      margin: 4px 0 8px;
    }
    .heard {
      margin-top: 8px;
    }
    .acts {
      display: flex;
      gap: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UnitShows {
  readonly unit = input.required<string>();
  protected readonly shown = inject(ShownPanel);
  private readonly desk = inject(UnitDesk);
  /** All of it may stand elsewhere already. */
  protected readonly unsure = computed(() => {
    const all = this.desk.instrument()?.controls.length ?? 0;
    return all > 0 && this.shown.now()?.uncertain.length === all;
  });

  /** The instrument, where it says over MIDI where it stands. */
  protected readonly speaks = computed(() => {
    const instrument = this.desk.instrument();
    const memory = instrument?.memory;
    const tells = memory?.kind === 'slots' && memory.programs !== undefined;
    return instrument && (tells || instrument.controls.some((c) => c.cc !== undefined))
      ? instrument
      : null;
  });

  constructor() {
    hearKnobs(
      this.shown.panel,
      () => this.speaks()?.controls ?? [],
      // Of what is known all is heard by itself.
      () => undefined,
    );
    effect(() => {
      const [unit, instrument] = [this.unit(), this.desk.unit()?.instrument];
      if (instrument) untracked(() => this.shown.stand(shownId(instrument, unit), '', ''));
    });
  }

  protected turned(): void {
    const instrument = this.desk.instrument();
    if (instrument) this.shown.turned(instrument);
  }
}
