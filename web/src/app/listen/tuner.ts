import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  type OnDestroy,
  output,
  signal,
} from '@angular/core';
import { midiToNote, pitchOf, readTuner } from '@hurrel/core';
import { LiveService } from '../sound/live.service';

/** Milliseconds between two readings, and how sure a pitch must be to be shown. */
const EVERY_MS = 200;
const SURE = 0.85;

/** A tuner on what sounds, or on what comes in from outside. */
@Component({
  selector: 'hur-tuner',
  template: `
    <h2>Tuner</h2>
    <div class="row">
      <button
        type="button"
        class="btn"
        [class.on]="on()"
        [attr.aria-pressed]="on()"
        (click)="toggle()"
      >
        {{ on() ? 'Stop' : 'Listen' }}
      </button>
      <select
        #inputField
        class="form-select"
        aria-label="What the tuner listens to"
        (change)="input.set(inputField.value === 'in')"
      >
        <option value="out">to what sounds</option>
        <option value="in">to what comes in</option>
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
      @if (reading(); as r) {
        <rect
          class="needle"
          [class.true]="isTrue()"
          [attr.x]="117 + r.cents * 2.2"
          y="22"
          width="6"
          height="22"
        />
        <text x="120" y="16">{{ name(r.note) }} {{ signed(r.cents) }} ¢</text>
      } @else {
        <text class="none" x="120" y="16">{{ on() ? 'no clear pitch' : '' }}</text>
      }
    </svg>
    @if (reading(); as r) {
      <p role="status">
        @if (r.semitones !== undefined) {
          <strong class="mono">{{ signedSemitones(r.semitones) }}</strong> semitones from
          {{ referenceName() }}
        }
      </p>
      <div class="row">
        <button type="button" class="btn" (click)="refer()">This is the reference</button>
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
export class Tuner implements OnDestroy {
  private readonly live = inject(LiveService);
  /** What was found, as a sentence: to be kept with the patch. */
  readonly recorded = output<{ note: number; hear: string }>();

  protected readonly on = signal(false);
  protected readonly input = signal(false);
  private readonly hz = signal<number | null>(null);
  /** Pitch that intervals are told from, as a MIDI number; the key held, when there is one. */
  private readonly reference = signal<number | null>(null);
  private readonly from = computed(() => this.reference() ?? [...this.live.held()][0]);
  protected readonly reading = computed(() => {
    const hz = this.hz();
    return hz === null ? null : readTuner(hz, this.from());
  });
  protected readonly referenceName = computed(() => {
    const from = this.from();
    if (from === undefined) return '';
    return this.reference() === null
      ? `the key held, ${midiToNote(from)}`
      : midiToNote(Math.round(from));
  });
  protected readonly isTrue = computed(() => Math.abs(this.reading()?.cents ?? 50) <= 3);
  protected readonly words = computed(() => {
    const r = this.reading();
    return r ? `${midiToNote(r.note)}, ${this.signed(r.cents)} cents` : 'No clear pitch';
  });
  protected readonly name = midiToNote;
  private timer: ReturnType<typeof setInterval> | undefined;

  ngOnDestroy(): void {
    clearInterval(this.timer);
  }

  protected toggle(): void {
    this.on.update((on) => !on);
    clearInterval(this.timer);
    this.hz.set(null);
    if (!this.on()) return;
    if (this.input()) void this.live.openInput();
    this.timer = setInterval(() => this.listen(), EVERY_MS);
  }

  protected refer(): void {
    const r = this.reading();
    if (r) this.reference.set(this.reference() === null ? r.note + r.cents / 100 : null);
  }

  protected record(): void {
    const r = this.reading();
    if (!r) return;
    const from = this.from();
    const tuned =
      r.semitones === undefined
        ? ''
        : `, ${this.signedSemitones(r.semitones)} semitones from ${this.referenceName()}`;
    this.recorded.emit({
      note: from === undefined ? r.note : Math.round(from),
      hear: `${midiToNote(r.note)} ${this.signed(r.cents)} cents by the tuner${tuned}`,
    });
  }

  protected signed(cents: number): string {
    const whole = Math.round(cents);
    return `${whole > 0 ? '+' : whole < 0 ? '−' : ''}${Math.abs(whole)}`;
  }

  protected signedSemitones(semitones: number): string {
    return `${semitones >= 0 ? '+' : '−'}${Math.abs(semitones).toFixed(2)}`;
  }

  private listen(): void {
    const sound = this.live.recent(this.input());
    const pitch = sound && pitchOf(sound.samples, sound.sampleRate);
    this.hz.set(pitch && pitch.confidence >= SURE ? pitch.hz : null);
  }
}
