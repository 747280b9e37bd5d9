import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { encodeWav, type Pass, peakOf, type Take } from '@hurrel/core';
import { download, fileName } from '../ui/download';
import { ToastService } from '../ui/toasts';
import { MixService } from './mix.service';
import { SessionDesk } from './session-desk';
import { SessionsService, type StoredTake } from './sessions.service';

const SAMPLE_RATE = 48000;
/** Level that nothing of what is heard together goes over. */
const CEILING = 0.7;

type Sides = [Float32Array, Float32Array];
const wavOf = (sides: Sides): Uint8Array<ArrayBuffer> =>
  encodeWav(sides, SAMPLE_RATE, '24') as Uint8Array<ArrayBuffer>;

/** The sound of a session: heard and saved as a whole, and the takes of its passes. */
@Injectable()
export class SessionTakes {
  private readonly desk = inject(SessionDesk);
  private readonly mix = inject(MixService);
  private readonly service = inject(SessionsService);
  private readonly toasts = inject(ToastService);
  private readonly takes = signal<StoredTake[]>([]);

  constructor() {
    effect(() => {
      const id = this.desk.id();
      if (id !== null) untracked(() => void this.read(id));
    });
  }

  of(pass: Pass): StoredTake | undefined {
    return this.takes().find((t) => t.id === pass.take);
  }

  /** Takes that no pass plays. */
  readonly idle = computed(() => {
    const played = new Set(this.desk.session()?.passes.map((p) => p.take));
    return this.takes().filter((t) => !played.has(t.id));
  });
  /** Their size together, in megabytes. */
  readonly idleSize = computed(() => this.idle().reduce((sum, t) => sum + t.size, 0) / 1e6);

  /** Removes for good what no pass plays. What is open must be stored: a pass may have let go of a take just now. */
  async clear(): Promise<void> {
    const id = this.desk.id();
    if (id === null) return;
    try {
      for (const take of this.idle()) {
        await this.service.removeTake(id, take.id);
        this.takes.update((all) => all.filter((t) => t.id !== take.id));
      }
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  /** Renders the whole and plays it; stops what plays. */
  async hear(): Promise<void> {
    if (this.mix.playing()) return this.mix.stop();
    const sides = await this.render(this.desk.session()?.passes ?? []);
    if (!sides) return;
    const peak = Math.max(peakOf(sides[0]), peakOf(sides[1]));
    this.mix.play(sides, SAMPLE_RATE, peak > 0 ? Math.min(1, CEILING / peak) : 1);
  }

  async saveMix(): Promise<void> {
    const session = this.desk.session();
    const sides = session && (await this.render(session.passes));
    if (sides) download(fileName(session.name, 'wav'), wavOf(sides), 'audio/wav');
  }

  /** What the model plays becomes the pass's take. */
  async renderTake(pass: Pass): Promise<void> {
    // Level and place belong to the mix, not to the take.
    const alone: Pass = { ...pass, level: 0, pan: 0, muted: false };
    delete alone.take;
    const sides = await this.render([alone]);
    if (sides) await this.keep(pass, `${pass.name}, by the model`, wavOf(sides));
  }

  async importTake(pass: Pass, field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    field.value = '';
    if (file) await this.keep(pass, file.name, new Uint8Array(await file.arrayBuffer()));
  }

  private async keep(pass: Pass, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    const id = this.desk.id();
    if (id === null) return;
    try {
      const take = await this.service.addTake(id, name, bytes);
      this.takes.update((all) => [...all, take]);
      this.desk.changePass(pass.id, { take: take.id });
    } catch (error) {
      this.toasts.show(`${name}: ${(error as Error).message}`);
    }
  }

  private async render(passes: readonly Pass[]): Promise<Sides | null> {
    const [session, id] = [this.desk.session(), this.desk.id()];
    const subjects = passes.flatMap((pass) => {
      const own = this.desk.subjectOf(pass);
      return own ? [{ ...own, pass }] : [];
    });
    if (!session || id === null || subjects.length === 0) {
      this.toasts.show('There is nothing to hear yet: put a patch of the library into it.');
      return null;
    }
    const takes: [string, Take][] = [];
    try {
      for (const { take } of passes) {
        if (take !== undefined) takes.push([take, await this.service.take(id, take)]);
      }
    } catch (error) {
      this.toasts.show((error as Error).message);
      return null;
    }
    const wanted = { ...session, passes: [...passes] };
    return this.mix.render({ session: wanted, subjects, takes, sampleRate: SAMPLE_RATE });
  }

  private async read(id: string): Promise<void> {
    try {
      this.takes.set(await this.service.takes(id));
    } catch (error) {
      this.toasts.show(`The takes could not be read: ${(error as Error).message}`);
    }
  }
}
