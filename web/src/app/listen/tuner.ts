import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { midiToNote } from '@hurrel/core';
import { signedCents, TunerService } from './tuner.service';

/** A tuner on what sounds, or on what comes in from outside. */
@Component({
  selector: 'hur-tuner',
  template: `
    <h2>Tuner</h2>
    <div class="row">
      <button
        type="button"
        class="btn"
        [class.on]="tuner.on()"
        [attr.aria-pressed]="tuner.on()"
        (click)="tuner.toggle()"
      >
        {{ tuner.on() ? 'Stop' : 'Listen' }}
      </button>
      <select
        #inputField
        class="form-select"
        aria-label="What the tuner listens to"
        (change)="tuner.input.set(inputField.value === 'in')"
      >
        <option value="out" [selected]="!tuner.input()">to what sounds</option>
        <option value="in" [selected]="tuner.input()">to what comes in</option>
      </select>
    </div>
    <svg viewBox="0 0 240 46" role="img" [attr.aria-label]="words()">
      <line class="scale" x1="10" x2="230" y1="34" y2="34" />
      @for (tick of [-50, -25, 0, 25, 50]; track tick) {
        <line
          class="scale"
          [attr.x1]="120 + tick * 2.2"
          [attr.x2]="120 + tick * 2.2"
          y1="28"
          y2="40"
        />
      }
      @if (tuner.reading(); as r) {
        <rect
          class="needle"
          [class.true]="tuner.isTrue()"
          [attr.x]="117 + r.cents * 2.2"
          y="22"
          width="6"
          height="22"
        />
        <text x="120" y="16">{{ tuner.says() }}</text>
      } @else {
        <text class="none" x="120" y="16">{{ tuner.on() ? tuner.says() : '' }}</text>
      }
    </svg>
    @if (tuner.reading(); as r) {
      <p role="status">
        @if (r.semitones !== undefined) {
          <strong class="mono">{{ signedSemitones(r.semitones) }}</strong> semitones from
          {{ referenceName() }}
        }
      </p>
      <div class="row">
        <button type="button" class="btn" (click)="tuner.refer()">This is the reference</button>
        <button type="button" class="btn" (click)="record()">Record it</button>
      </div>
    }
  `,
  styles: `
    h2 {
      margin: 0 0 8px;
      font-weight: 680;
      font-size: 16px;
    }
    .row {
      display: flex;
      gap: 6px;
      margin-bottom: 6px;
    }
    .form-select {
      width: auto;
      padding-top: 3px;
      padding-bottom: 3px;
    }
    .on {
      background: var(--ink);
      color: var(--paper);
    }
    svg {
      display: block;
      width: 240px;
      max-width: 100%;
    }
    .scale {
      stroke: var(--rule);
      stroke-width: 1.5;
    }
    .needle {
      fill: var(--near);
    }
    .needle.true {
      fill: var(--good);
    }
    text {
      fill: var(--ink);
      font: 650 15px var(--mono);
      text-anchor: middle;
    }
    .none {
      fill: var(--ink-3);
      font-weight: 450;
    }
    p {
      margin: 0 0 6px;
      font-size: 13.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Tuner {
  protected readonly tuner = inject(TunerService);
  /** What was found, as a sentence: to be kept with the patch. */
  readonly recorded = output<{ note: number; hear: string }>();

  protected readonly referenceName = computed(() => {
    const from = this.tuner.from();
    if (from === undefined) return '';
    return this.tuner.reference() === null
      ? `the key held, ${midiToNote(from)}`
      : midiToNote(Math.round(from));
  });
  protected readonly words = computed(() => {
    const r = this.tuner.reading();
    return r ? `${midiToNote(r.note)}, ${signedCents(r.cents)} cents` : 'No clear pitch';
  });

  protected record(): void {
    const r = this.tuner.reading();
    if (!r) return;
    const from = this.tuner.from();
    const tuned =
      r.semitones === undefined
        ? ''
        : `, ${this.signedSemitones(r.semitones)} semitones from ${this.referenceName()}`;
    this.recorded.emit({
      note: from === undefined ? r.note : Math.round(from),
      hear: `${midiToNote(r.note)} ${signedCents(r.cents)} cents by the tuner${tuned}`,
    });
  }

  protected signedSemitones(semitones: number): string {
    return `${semitones >= 0 ? '+' : '−'}${Math.abs(semitones).toFixed(2)}`;
  }
}
