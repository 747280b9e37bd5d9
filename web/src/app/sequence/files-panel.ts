import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  type OnDestroy,
  signal,
} from '@angular/core';
import {
  BAR,
  chainFrom,
  controllersIn,
  formatPattern,
  type MidiSong,
  parsePatternText,
  patternCsv,
  patternFromMidi,
  patternSchema,
  patternToMidi,
  readMidiFile,
  type StepRate,
  writeMidiFile,
} from '@hurrel/core';
import { download, fileName } from '../ui/download';
import { proxy } from 'comlink';
import { ask } from '../workers/ask';
import type { RunRequest, RunWorker } from './messages';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';
import { startWorker } from '../workers/start';

/** Files in and out: MIDI, text, tables, sound. What one cannot hold is said before it is lost. */
@Component({
  selector: 'hur-files-panel',
  templateUrl: './files-panel.html',
  styleUrl: './files-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilesPanel implements OnDestroy {
  protected readonly sequence = inject(SequenceService);
  private readonly runner = inject(RunnerService);
  protected readonly rounds = signal(1);
  protected readonly fault = signal('');
  protected readonly told = signal<string[]>([]);
  /** A file that has been read and waits to be taken. */
  protected readonly song = signal<{ name: string; song: MidiSong } | null>(null);
  protected readonly rates: readonly StepRate[] = ['1/8', '1/16', '1/16t', '1/32'];
  protected readonly rate = signal<StepRate>('1/16');
  protected readonly micro = signal(false);
  /** Controls by the number of the controller that turns them. */
  protected readonly bound = signal<Record<number, string>>({});
  protected readonly progress = signal<number | null>(null);
  private work: AbortController | null = null;

  protected readonly controllers = computed(() => {
    const song = this.song()?.song;
    return song ? controllersIn(song) : [];
  });
  /** A controller has numbers: it moves what has a travel, not the positions of a switch. */
  protected readonly movable = computed(() => this.sequence.movable().filter((c) => !c.switched));
  /** What the waiting file would become. */
  protected readonly taken = computed(() => {
    const song = this.song()?.song;
    return song ? patternFromMidi(song, this.rate(), this.bound(), this.micro()) : null;
  });
  private readonly line = computed(() => {
    const shown = this.sequence.pattern();
    return shown ? chainFrom(this.sequence.patterns(), shown.id) : [];
  });
  private readonly beats = computed(
    () => this.rounds() * this.line().reduce((sum, p) => sum + p.bars * BAR, 0),
  );
  /** How long the rounds are. */
  protected readonly lasts = computed(() => {
    const bars = this.beats() / BAR;
    const seconds = Math.round((this.beats() * 60) / (this.sequence.patch()?.tempo ?? 120));
    const time = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
    return `${bars} bar${bars === 1 ? '' : 's'}, ${time}`;
  });
  /** What a MIDI file cannot hold of what is shown. */
  protected readonly lost = computed(() => {
    const [instrument, patch] = [this.sequence.instrument(), this.sequence.patch()];
    if (!instrument || !patch || this.line().length === 0) return [];
    return patternToMidi(instrument, this.line(), patch.tempo, this.beats(), this.bound()).told;
  });

  ngOnDestroy(): void {
    this.work?.abort();
  }

  protected async open(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    this.fault.set('');
    this.song.set(null);
    const bytes = new Uint8Array(await file.arrayBuffer());
    const text = (): string => new TextDecoder().decode(bytes);
    if (/\.json$/i.test(file.name)) return this.openJson(file.name, text());
    if (/\.txt$/i.test(file.name)) return this.openText(file.name, text());
    const reading = readMidiFile(bytes);
    if (!reading.ok) this.fault.set(`${file.name}: ${reading.message} (byte ${reading.at})`);
    else this.song.set({ name: file.name, song: reading.song });
  }

  protected setRounds(text: string): void {
    this.rounds.set(Math.min(64, Math.max(1, Math.round(Number(text)) || 1)));
  }

  protected bind(number: number, control: string): void {
    this.bound.update(({ [number]: _, ...rest }) =>
      control ? { ...rest, [number]: control } : rest,
    );
  }

  protected take(): void {
    const [taken, waiting] = [this.taken(), this.song()];
    if (!taken || !waiting) return;
    const name = waiting.name.replace(/\.[^.]*$/, '').slice(0, 80) || 'From a file';
    this.sequence.take({ ...taken.pattern, name });
    this.told.set(taken.told);
    this.song.set(null);
  }

  protected saveMidi(type: 0 | 1): void {
    const [instrument, patch, shown] = this.subject();
    if (!instrument || !patch || !shown) return;
    const { song } = patternToMidi(
      instrument,
      this.line(),
      patch.tempo,
      this.beats(),
      this.bound(),
    );
    if (!song.tracks.some((t) => t.notes.length > 0)) {
      return this.fault.set('Nothing to save: no step of this pattern strikes a note.');
    }
    this.fault.set('');
    const bytes = writeMidiFile(song, type) as Uint8Array<ArrayBuffer>;
    download(fileName(`${patch.name} ${shown.name}`, 'mid'), bytes, 'audio/midi');
  }

  protected saveText(kind: 'json' | 'csv' | 'txt'): void {
    const [, patch, shown] = this.subject();
    if (!patch || !shown) return;
    const { text, type } = {
      json: { text: `${JSON.stringify(shown, null, 2)}\n`, type: 'application/json' },
      csv: { text: patternCsv(shown), type: 'text/csv' },
      txt: { text: formatPattern(shown), type: 'text/plain' },
    }[kind];
    download(fileName(`${patch.name} ${shown.name}`, kind), text, type);
  }

  /** Renders so many rounds in a worker. */
  protected async saveWav(): Promise<void> {
    const [instrument, patch, shown] = this.subject();
    if (!instrument || !patch || !shown || this.work) return;
    const work = (this.work = new AbortController());
    const worker = startWorker('run');
    this.progress.set(0);
    const progress = proxy((done: number) => {
      if (this.work === work) this.progress.set(done);
    });
    const request: RunRequest = {
      parts: [
        { instrument, patch, patterns: this.line(), gain: 1, pan: 0, seed: this.runner.seed() },
      ],
      tempo: patch.tempo,
      beats: this.beats(),
    };
    try {
      const wav = await ask<RunWorker, Uint8Array>(
        worker,
        (of) => of.render(request, progress),
        work.signal,
      );
      const bytes = wav as Uint8Array<ArrayBuffer>;
      download(fileName(`${patch.name} ${shown.name}`, 'wav'), bytes, 'audio/wav');
    } catch {
      if (work.signal.aborted) return;
      this.fault.set(
        'The sound could not be rendered. Open the chart and see what the patch lacks.',
      );
    }
    this.cancel();
  }

  protected cancel(): void {
    this.work?.abort();
    this.work = null;
    this.progress.set(null);
  }

  private subject() {
    return [this.sequence.instrument(), this.sequence.patch(), this.sequence.pattern()] as const;
  }

  private openText(name: string, text: string): void {
    const reading = parsePatternText(text);
    if (reading.ok) this.sequence.take(reading.pattern);
    else this.fault.set(`${name}, line ${reading.line}: ${reading.message}`);
  }

  private openJson(name: string, text: string): void {
    let json: unknown;
    try {
      json = JSON.parse(text);
    } catch (error) {
      return this.fault.set(`${name} is no JSON: ${(error as Error).message}.`);
    }
    const parsed = patternSchema.safeParse(json);
    if (parsed.success) this.sequence.take(parsed.data);
    else {
      const [issue] = parsed.error.issues;
      this.fault.set(`${name}, ${issue!.path.join('/') || 'the whole'}: ${issue!.message}.`);
    }
  }
}
