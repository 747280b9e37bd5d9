import { computed, inject, Injectable, signal } from '@angular/core';
import { midiToNote, pitchOf, readTuner } from '@hurrel/core';
import { LiveService } from '../sound/live.service';

/** Milliseconds between two readings, and how sure a pitch must be to be shown. */
const EVERY_MS = 200;
const SURE = 0.85;

/** What the tuner hears of what sounds, or of what comes in; it goes on from room to room. */
@Injectable({ providedIn: 'root' })
export class TunerService {
  private readonly live = inject(LiveService);

  readonly on = signal(false);
  /** It listens to what comes in. */
  readonly input = signal(false);
  private readonly hz = signal<number | null>(null);
  /** Pitch that intervals are told from, as a MIDI number; the key held, when there is one. */
  readonly reference = signal<number | null>(null);
  readonly from = computed(() => this.reference() ?? [...this.live.held()][0]);
  readonly reading = computed(() => {
    const hz = this.hz();
    return hz === null ? null : readTuner(hz, this.from());
  });
  readonly isTrue = computed(() => Math.abs(this.reading()?.cents ?? 50) <= 3);
  /** The note and its cents. */
  readonly says = computed(() => {
    const r = this.reading();
    return r ? `${midiToNote(r.note)} ${signedCents(r.cents)} ¢` : 'no clear pitch';
  });
  private timer: ReturnType<typeof setInterval> | undefined;

  toggle(): void {
    this.on.update((on) => !on);
    clearInterval(this.timer);
    this.hz.set(null);
    if (!this.on()) return;
    if (this.input()) void this.live.openInput();
    this.timer = setInterval(() => this.listen(), EVERY_MS);
  }

  /** What sounds now is what intervals are told from; the key held again, when something was. */
  refer(): void {
    const r = this.reading();
    if (r) this.reference.set(this.reference() === null ? r.note + r.cents / 100 : null);
  }

  private listen(): void {
    const sound = this.live.recent(this.input());
    const pitch = sound && pitchOf(sound.samples, sound.sampleRate);
    this.hz.set(pitch && pitch.confidence >= SURE ? pitch.hz : null);
  }
}

export function signedCents(cents: number): string {
  const whole = Math.round(cents);
  return `${whole > 0 ? '+' : whole < 0 ? '−' : ''}${Math.abs(whole)}`;
}
