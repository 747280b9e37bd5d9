import type {
  Finding,
  Instrument,
  PanelBefore,
  Patch,
  RebuildPlan,
  TimedNote,
  Unit,
  WavFormat,
} from '@hurrel/core';
import type { BookletContent } from '../sheet/booklet';
import type { SheetContent } from '../sheet/content';

/** A patch while notes are played. */
export interface PlayedJob {
  instrument: Instrument;
  patch: Patch;
  /** What it is fed with, as a WAV file. */
  wav?: Uint8Array;
  notes: TimedNote[];
}

/** A sound to be rendered. */
export interface RenderJob extends PlayedJob {
  seconds: number;
  sampleRate: number;
  format: WavFormat;
  seed: number;
}

/** What takes long enough to be done beside the server's own thread: jobs by name, with what they are given and give. */
export interface Jobs {
  render(job: RenderJob): Uint8Array;
  check(job: PlayedJob): Finding[];
  rebuild(job: {
    instrument: Instrument;
    before: PanelBefore;
    patch: Patch;
    /** Before which one stands, for what its memory holds. */
    unit?: Unit;
  }): RebuildPlan;
  sheet(content: SheetContent): Promise<Uint8Array>;
  booklet(content: BookletContent): Promise<Uint8Array>;
}
export type JobName = keyof Jobs;
export type Given<N extends JobName> = Parameters<Jobs[N]>[0];
export type Gives<N extends JobName> = Awaited<ReturnType<Jobs[N]>>;
