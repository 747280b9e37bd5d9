import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { midiToNote, type OpenWork, withoutSteps, type Work } from '@hurrel/core';
import { ask, Cancelled } from '../workers/ask';
import type { StageWorker, Telling } from './messages';
import { MadeAhead } from './made-ahead';
import { StageChecks } from './stage-checks';
import { StageDesk } from './stage-desk';
import { StageSound } from './stage-sound';
import { startWorker } from '../workers/start';

/** The one key that tells whether a panel is right, how it should sound, and what was forgotten if it does not. */
@Component({
  selector: 'hur-stage-check',
  template: `
    <section>
      <h3>{{ stage.panelName(panel()) }}</h3>
      @if (told(); as note) {
        <p class="play">
          Play <strong class="mono">{{ name(note.note) }}</strong>
          <button type="button" class="act small" (click)="hear(note)">
            <i class="bi bi-ear" aria-hidden="true"></i>
            {{ sound.playing(panel()) ? 'Stop' : 'Hear how it should sound' }}
          </button>
        </p>
        @if (sound.unheard(panel()); as why) {
          <p class="finding" role="alert">{{ why }}</p>
        }
        @if (wrong()) {
          @for (finding of findings(); track finding) {
            <p class="finding">
              <i class="bi bi-exclamation-triangle" aria-hidden="true"></i> {{ finding }}
            </p>
          }
          <p>It sounds wrong? Look here first:</p>
          <ol>
            @for (work of suspects(); track work.key) {
              <li>
                <strong>{{ stage.says(work) }}</strong>
                <span class="quiet">{{ why(work) }}</span>
                <button type="button" class="act small" (click)="again(work)">
                  Do it once more
                </button>
              </li>
            } @empty {
              <li class="quiet">Nothing was moved here in this break.</li>
            }
          </ol>
        } @else {
          <p class="quiet">
            It tells of {{ note.heard.length }} of
            {{ note.heard.length + note.unheard.length }} movements of this break.
            @if (note.unheard.length > 0) {
              Not heard in it: {{ unheard(note) }}.
            }
            @if (note.hiding.length > 0) {
              Forgotten together they hide each other: {{ hiding(note) }}. Look at these.
            }
          </p>
        }
      } @else if (error()) {
        <p role="alert">{{ error() }}</p>
      } @else {
        <p class="quiet">Working out which key tells most …</p>
      }
    </section>
  `,
  styleUrl: './stage-parts.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageCheck {
  readonly panel = input.required<string>();
  readonly work = input.required<readonly OpenWork[]>();
  /** Somebody says that it sounds wrong. */
  readonly wrong = input(false);

  protected readonly stage = inject(StageDesk);
  private readonly checks = inject(StageChecks);
  private readonly made = inject(MadeAhead);
  protected readonly sound = inject(StageSound);
  protected readonly told = signal<Telling | null>(null);
  /** What the doctor says of what stands now. */
  protected readonly findings = signal<readonly string[]>([]);
  protected readonly error = signal('');
  protected readonly name = midiToNote;
  private readonly steps = computed(() => this.work().map((w) => w.step), {
    equal: (a, b) => a.length === b.length && a.every((s, i) => s.id === b[i]!.id),
  });

  private readonly asked = computed(() =>
    this.checks.asked(this.stage.song()?.id ?? '', this.panel(), this.steps()),
  );

  /** What is likeliest to be wrong: what was left open, then what would be heard the most. */
  protected readonly suspects = computed((): OpenWork[] => {
    const heard = this.told()?.heard ?? [];
    const distance = (w: OpenWork): number =>
      heard.find((f) => f.step.id === w.step.id)?.distance ?? 0;
    const open = (w: OpenWork): number => (w.state === 'done' ? 0 : 1);
    return [...this.work()]
      .sort((a, b) => open(b) - open(a) || distance(b) - distance(a))
      .slice(0, 3);
  });

  constructor() {
    effect((onCleanup) => {
      const [asked, patch] = [this.asked(), this.stands()];
      if (!this.wrong() || !asked || !patch) return;
      const stop = new AbortController();
      onCleanup(() => stop.abort());
      ask<StageWorker, string[]>(
        worker(),
        (of) => of.doctor({ face: asked.face, patch }),
        stop.signal,
      ).then(
        (findings) => this.findings.set(findings),
        // Without a doctor there are still the likeliest movements.
        () => undefined,
      );
    });
    effect((onCleanup) => {
      const asked = this.asked();
      if (!asked) return;
      let over = false;
      onCleanup(() => (over = true));
      untracked(() => this.told.set(null));
      this.made.tell(asked).then(
        (told) => over || this.told.set(told),
        (error: unknown) => {
          if (!over && !(error instanceof Cancelled)) this.error.set((error as Error).message);
        },
      );
    });
  }

  /** The panel as it stands, with what was not moved. */
  private readonly stands = computed(() => {
    const asked = this.asked();
    const open = this.work().filter((w) => w.state !== 'done');
    return (
      asked &&
      withoutSteps(
        asked.patch,
        open.map((w) => w.step),
        asked.stood,
      )
    );
  });

  protected hear({ sound }: Telling): void {
    this.sound.toggle(this.panel(), sound, 'As it is recorded nothing sounds at this key.');
  }

  protected why(work: OpenWork): string {
    if (work.state === 'later') return 'was put off';
    if (work.state !== 'done') return 'is not done yet';
    const heard = this.told()?.heard.find((f) => f.step.id === work.step.id);
    return heard
      ? `would be ${heard.distance.toFixed(1)} dB off`
      : 'would not be heard in this key';
  }

  protected unheard({ unheard }: Telling): string {
    const words = unheard
      .slice(0, 3)
      .flatMap((step) => this.work().find((w) => w.step.id === step.id) ?? [])
      .map((w) => this.stage.says(w));
    const more = unheard.length - words.length;
    return words.join('; ') + (more > 0 ? ` and ${more} more` : '');
  }

  protected hiding({ hiding }: Telling): string {
    return hiding
      .slice(0, 2)
      .map((pair) => pair.map((step) => this.saysOf(step)).join(' and '))
      .join('; ');
  }

  private saysOf(step: Work): string {
    const work = this.work().find((w) => w.step.id === step.id);
    return work ? this.stage.says(work) : step.id;
  }

  protected again(work: OpenWork): void {
    this.stage.settle([work], new Set());
  }
}

const worker = (): Worker => startWorker('stage');
