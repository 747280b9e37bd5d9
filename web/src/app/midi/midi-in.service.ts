import { effect, inject, Injectable, type OnDestroy, signal, untracked } from '@angular/core';
import {
  type ChosenProgram,
  CLOCK_GONE,
  ClockLock,
  CLOCKS,
  type MovedController,
  ProgramReader,
  readController,
} from '@hurrel/core';
import { Subject } from 'rxjs';
import { KeysService } from '../sound/keys.service';
import { LiveService } from '../sound/live.service';

export interface ClockSource {
  tempo: number;
  /** Largest deviation of a clock in ms, either way. */
  jitter: number;
}

/** Where messages come in. */
export interface MidiInput {
  /** Stays the same from one visit to the next. */
  id: string;
  name: string;
}

/** A controller that was moved, and where that came in. */
export type MovedAt = MovedController & { input: MidiInput };

/** A program that was chosen, and where that came in. */
export type ChosenAt = ChosenProgram & { input: MidiInput };

/** What a clock may start and stop. */
export interface Transport {
  start(): void;
  stop(): void;
}

/** Keyboards and clocks that come in over MIDI, where the browser has it, and a simulated clock. */
@Injectable({ providedIn: 'root' })
export class MidiInService implements OnDestroy {
  private readonly keys = inject(KeysService);
  private readonly live = inject(LiveService);

  readonly supported = typeof navigator !== 'undefined' && 'requestMIDIAccess' in navigator;
  readonly inputs = signal<string[]>([]);
  readonly fault = signal('');
  /** Tempo of the clock that is followed, in bpm to a tenth; it stays when the clock goes. */
  readonly tempo = signal<number | null>(null);
  /** A clock was there and sends no more. */
  readonly gone = signal(false);
  /** Controllers that are moved, whatever they are for: every message, also of two knobs at once. */
  readonly moved = new Subject<MovedAt>();
  /** Programs that are chosen: places of a memory. */
  readonly chosen = new Subject<ChosenAt>();
  /** The simulated clock runs. */
  readonly running = signal(false);
  /** What the clock's start and stop reach. */
  transport: Transport | null = null;

  private access: MIDIAccess | null = null;
  private readonly lock = new ClockLock();
  /** By input: each has banks of its own. */
  private readonly programs = new Map<string, ProgramReader>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private watch: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    // What runs comes into step with the clock, each time it tells where it is.
    effect(() => {
      const { beat } = this.live.meter();
      untracked(() => this.steer(beat));
    });
  }

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

  /** Connects where the browser has been told before that it may. */
  async connectIfAllowed(): Promise<void> {
    if (!this.supported || this.access) return;
    const asked = await navigator.permissions
      ?.query({ name: 'midi' as PermissionName })
      .catch(() => null);
    if (asked?.state === 'granted') await this.connect();
  }

  take(bytes: ArrayLike<number>, seconds: number, input = SIMULATED): void {
    if (bytes[0] === 0xfc) this.transport?.stop();
    const event = this.keys.midi(bytes);
    const moved = readController(bytes);
    if (moved) this.moved.next({ ...moved, input });
    const chosen = this.programsOf(input).take(bytes);
    if (chosen) this.chosen.next({ ...chosen, input });
    if (event?.type === 'start' || event?.type === 'continue') {
      this.lock.start();
      this.transport?.start();
    }
    if (event?.type === 'clock') this.tick(seconds);
  }

  /** Starts the simulated clock: 24 messages a quarter note, as late or early as it jitters. */
  startClock(source: () => ClockSource): void {
    this.cutClock();
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

  /** Stops it, as its stop key would. */
  stopClock(): void {
    this.cutClock();
    this.take([0xfc], performance.now() / 1000);
    this.leave();
  }

  /** No more clocks, and nobody said stop: as when its cable is pulled. */
  cutClock(): void {
    clearTimeout(this.timer);
    this.running.set(false);
  }

  /** Back to the patch's own tempo. */
  leave(): void {
    clearTimeout(this.watch);
    this.gone.set(false);
    this.tempo.set(null);
    this.live.followClock(null);
  }

  ngOnDestroy(): void {
    this.cutClock();
    this.leave();
    for (const input of this.access?.inputs.values() ?? []) input.onmidimessage = null;
  }

  private programsOf({ id }: MidiInput): ProgramReader {
    const known = this.programs.get(id) ?? new ProgramReader();
    this.programs.set(id, known);
    return known;
  }

  private tick(seconds: number): void {
    this.lock.tick(seconds);
    clearTimeout(this.watch);
    this.watch = setTimeout(() => this.gone.set(true), 1000 * CLOCK_GONE);
    this.gone.set(false);
    const { tempo } = this.lock;
    if (tempo === undefined) return;
    const shown = Math.round(10 * tempo) / 10;
    if (shown === this.tempo()) return;
    this.tempo.set(shown);
    this.live.followClock(tempo);
  }

  private steer(beat: number): void {
    if (beat < 0 || this.tempo() === null || this.gone()) return;
    const tempo = this.lock.steer(beat, performance.now() / 1000);
    if (tempo !== undefined) this.live.followClock(tempo);
  }

  private listen(): void {
    const inputs = [...(this.access?.inputs.values() ?? [])];
    const names = numbered(inputs.map((i) => i.name ?? 'A keyboard without a name'));
    inputs.forEach((input, i) => {
      const from = { id: input.id, name: names[i]! };
      input.onmidimessage = ({ data, timeStamp }) =>
        data && this.take(data, timeStamp / 1000, from);
    });
    this.inputs.set(names);
  }
}

/** What no device has sent. */
const SIMULATED: MidiInput = { id: '', name: '' };

/** Names of which every one is told apart: what there is twice is numbered. */
const numbered = (names: readonly string[]): string[] =>
  names.map((name, i) => {
    const before = names.slice(0, i).filter((other) => other === name).length;
    return before > 0 ? `${name} ${before + 1}` : name;
  });
