import { effect, inject, Injectable, type OnDestroy, signal, untracked } from '@angular/core';
import { ClockFollower, MidiSender, readMidi } from '@hurrel/core';
import { LiveService } from '../sound/live.service';
import { RunnerService } from './runner.service';

/** Seconds ahead of the sound that messages are handed over. */
const AHEAD = 0.25;
/** The simulated instrument, under which id it listens. */
export const SIMULATED = 'simulated';
const simulated = { id: SIMULATED, name: 'a simulated instrument' };

/** Outputs under names that differ: the second of one name is called so with a 2 behind it. */
export function toldApart(
  outputs: readonly { id: string; name: string | null }[],
): { id: string; name: string }[] {
  const met = new Map<string, number>();
  return outputs.map(({ id, name }) => {
    const called = name ?? 'without a name';
    const count = (met.get(called) ?? 0) + 1;
    met.set(called, count);
    return { id, name: count === 1 ? called : `${called} (${count})` };
  });
}

/** Sends what runs to a listening instrument, real or simulated: notes and clock, each with the time at which it is due. */
@Injectable({ providedIn: 'root' })
export class MidiOutService implements OnDestroy {
  private readonly live = inject(LiveService);
  private readonly runner = inject(RunnerService);

  /** Instruments that can listen; two of one name are told apart by a number. */
  readonly outputs = signal<readonly { id: string; name: string }[]>([simulated]);
  /** Id of the one that it is sent to; empty for nowhere. */
  readonly to = signal('');
  readonly fault = signal('');
  /** What the simulated instrument has heard. */
  readonly heard = signal<{ notes: number; tempo: number | null }>({ notes: 0, tempo: null });

  private access: MIDIAccess | null = null;
  private sender: MidiSender | null = null;
  private follower = new ClockFollower();

  constructor() {
    effect(() => {
      const [running, to, line] = [this.runner.running(), this.to(), this.runner.line()];
      untracked(() => {
        this.end();
        if (!running || to === '' || line.length === 0) return;
        this.sender = new MidiSender(line, this.runner.seed());
        this.heard.set({ notes: 0, tempo: null });
        this.follower = new ClockFollower();
        // What has gone by already is not sent after it.
        const beat = this.runner.beat();
        if (beat > 0) this.sender.advance(beat);
      });
    });
    effect(() => {
      const beat = this.runner.beat();
      const [fill, moved] = [this.runner.filling(), this.live.moved()];
      if (beat < 0) return;
      untracked(() => this.send(beat, fill, moved));
    });
  }

  ngOnDestroy(): void {
    this.end();
  }

  async look(): Promise<void> {
    try {
      this.access = await navigator.requestMIDIAccess();
      this.outputs.set([simulated, ...toldApart([...this.access.outputs.values()])]);
    } catch {
      this.fault.set('The browser did not let MIDI out. Allow it for this page and try again.');
    }
  }

  private send(beat: number, fill: boolean, moved: number): void {
    const tempo = this.live.bpm;
    const { sender } = this;
    if (!sender) return;
    sender.run.fill = fill;
    sender.run.moved = moved;
    const now = performance.now();
    for (const message of sender.advance(beat + (AHEAD * tempo) / 60)) {
      this.deliver(message.bytes, now + ((message.beat - beat) * 60_000) / tempo);
    }
  }

  private end(): void {
    const { sender } = this;
    this.sender = null;
    if (!sender) return;
    for (const { bytes } of sender.stop(Math.max(0, this.runner.beat()))) {
      this.deliver(bytes, performance.now());
    }
  }

  private deliver(bytes: number[], due: number): void {
    if (this.to() === SIMULATED) {
      const said = readMidi(bytes);
      if (said?.type === 'clock') {
        const tempo = this.follower.tick(due / 1000);
        if (tempo !== undefined) this.heard.update((h) => ({ ...h, tempo }));
      } else if (bytes[0] === 0x90) this.heard.update((h) => ({ ...h, notes: h.notes + 1 }));
      return;
    }
    this.access?.outputs.get(this.to())?.send(bytes, due);
  }
}
