import { inject, Injectable, signal } from '@angular/core';
import { decodeWav, type Instrument, type Patch, type Recording, WavError } from '@hurrel/core';
import { LiveService } from '../sound/live.service';
import { type Matched, MatchService } from '../sound/match.service';

export interface Other {
  name: string;
  /** LU by which it is louder than this patch; they are played equally loud. */
  difference: number;
  /** What remains where a single key is struck. */
  remains: Matched['remains'];
  recording?: Recording;
  patch?: { instrument: Instrument; patch: Patch };
}

/** The second sound: another patch, an older version, or a recording, beside the patch that is open. */
@Injectable({ providedIn: 'root' })
export class CompareService {
  private readonly live = inject(LiveService);
  private readonly match = inject(MatchService);

  readonly other = signal<Other | null>(null);
  readonly busy = signal(false);
  readonly fault = signal('');
  /** Nobody is told which of the two is heard. */
  readonly blind = signal(false);
  /** In blind listening: the sound called X is this patch. */
  readonly xIsThis = signal(true);

  async withPatch(
    first: { instrument: Instrument; patch: Patch },
    second: { instrument: Instrument; patch: Patch },
    name: string,
  ): Promise<void> {
    await this.attempt(async () => {
      const { gain, ...told } = await this.match.match({ first, second });
      this.live.compareWith(second.instrument, second.patch, gain);
      this.other.set({ name, ...told, patch: second });
    });
  }

  async withFile(first: { instrument: Instrument; patch: Patch }, file: File): Promise<void> {
    await this.attempt(async () => {
      const recording = decodeWav(new Uint8Array(await file.arrayBuffer()));
      const { gain, ...told } = await this.match.match({ first, second: recording });
      this.live.compareWithRecording(recording.channels, recording.sampleRate, gain);
      this.other.set({ name: file.name, ...told, recording });
    });
  }

  clear(): void {
    this.live.compareNothing();
    this.other.set(null);
    this.blind.set(false);
    this.fault.set('');
  }

  setBlind(blind: boolean): void {
    this.blind.set(blind);
    if (!blind) return;
    // A coin decides which is X; listening begins with X.
    this.xIsThis.set(Math.random() < 0.5);
    this.live.hear(this.xIsThis() ? 'a' : 'b');
  }

  swap(): void {
    if (this.other()) this.live.hear(this.live.side() === 'a' ? 'b' : 'a');
  }

  private async attempt(work: () => Promise<void>): Promise<void> {
    this.fault.set('');
    this.busy.set(true);
    try {
      await work();
    } catch (error) {
      this.fault.set(
        error instanceof WavError || error instanceof Error ? error.message : String(error),
      );
    } finally {
      this.busy.set(false);
    }
  }
}
