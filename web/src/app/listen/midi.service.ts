import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { CLOCKS, ClockFollower } from '@hurrel/core';
import { LiveService } from '../sound/live.service';
import { KeysService } from './keys.service';

export interface ClockSource {
  tempo: number;
  /** Largest deviation of a clock in ms, either way. */
  jitter: number;
}

/** MIDI keyboards where the browser has them, and a simulated clock. */
@Injectable()
export class MidiService implements OnDestroy {
  private readonly keys = inject(KeysService);
  private readonly live = inject(LiveService);

  readonly supported = typeof navigator !== 'undefined' && 'requestMIDIAccess' in navigator;
  readonly inputs = signal<string[]>([]);
  readonly fault = signal('');
  /** Tempo that a clock gives, in bpm. */
  readonly tempo = signal<number | null>(null);
  readonly running = signal(false);

  private access: MIDIAccess | null = null;
  private follower = new ClockFollower();
  private timer: ReturnType<typeof setTimeout> | undefined;

  async connect(): Promise<void> {
    try {
      this.access = await navigator.requestMIDIAccess();
      this.access.onstatechange = () => this.listen();
      this.listen();
    } catch {
      this.fault.set(
        'The browser did not let MIDI in. Allow it for this page, or play the keys on the screen.',
      );
    }
  }

  take(bytes: ArrayLike<number>, seconds: number): void {
    const event = this.keys.midi(bytes);
    if (event?.type === 'start' || event?.type === 'continue') this.follower = new ClockFollower();
    if (event?.type !== 'clock') return;
    const tempo = this.follower.tick(seconds);
    if (tempo === undefined || tempo === this.tempo()) return;
    this.tempo.set(tempo);
    this.live.setTempo(tempo);
  }

  /** Starts the simulated clock: 24 messages a quarter note, as late or early as it jitters. */
  startClock(source: () => ClockSource): void {
    this.stopClock();
    this.running.set(true);
    this.take([0xfa], performance.now() / 1000);
    let due = performance.now();
    const tick = (): void => {
      const { tempo, jitter } = source();
      const step = 60000 / tempo / CLOCKS;
      // A timer that was held up sends what it owes: each clock carries the time at which it was due.
      while (due <= performance.now()) {
        this.take([0xf8], (due + jitter * (2 * Math.random() - 1)) / 1000);
        due += step;
      }
      this.timer = setTimeout(tick, Math.max(1, due - performance.now()));
    };
    tick();
  }

  /** Stops it; what was tied to it goes on at a tempo. */
  stopClock(tempo?: number): void {
    clearTimeout(this.timer);
    this.running.set(false);
    if (tempo === undefined) return;
    this.tempo.set(null);
    this.live.setTempo(tempo);
  }

  ngOnDestroy(): void {
    this.stopClock();
    for (const input of this.access?.inputs.values() ?? []) input.onmidimessage = null;
  }

  private listen(): void {
    const inputs = [...(this.access?.inputs.values() ?? [])];
    for (const input of inputs) {
      input.onmidimessage = ({ data, timeStamp }) => data && this.take(data, timeStamp / 1000);
    }
    this.inputs.set(inputs.map((i) => i.name ?? 'A keyboard without a name'));
  }
}
