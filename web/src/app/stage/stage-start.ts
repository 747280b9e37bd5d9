import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  type OnInit,
  output,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { type DayOfPractice, type Evening, formatDuration, type WalkKind } from '@hurrel/core';
import { format } from 'date-fns';
import { bookletOf } from '../sets/sets.service';
import { Plot, type PlotAxis, type Trace } from '../ui/plot';
import { type Walk, WALK_API } from '../walk/walk.api';
import { WalkStore } from '../walk/walk-store';

/** A break with what it needs against what there is, in seconds. */
interface Hard {
  at: number;
  name: string;
  needs: number;
  length: number;
}

/** Before a walk: which one goes on or begins, and whose screen this is. */
@Component({
  selector: 'hur-stage-start',
  imports: [Plot, RouterLink],
  template: `
    <h1>{{ evening().name }}</h1>
    @if (evening().people.length > 1) {
      <h2 id="whose">Whose screen is this?</h2>
      <div class="choices" role="group" aria-labelledby="whose">
        <button
          type="button"
          class="choice"
          [attr.aria-pressed]="person() === ''"
          (click)="chosen.emit('')"
        >
          everybody’s
        </button>
        @for (one of evening().people; track one.id) {
          <button
            type="button"
            class="choice"
            [attr.aria-pressed]="person() === one.id"
            (click)="chosen.emit(one.id)"
          >
            {{ one.name }}
          </button>
        }
      </div>
    }
    @if (evening().songs.length === 0) {
      <p>This set has no songs yet.</p>
    } @else {
      <div class="choices">
        @if (goesOn(); as walk) {
          <button type="button" class="act main" (click)="opened.emit({ walk: walk.id })">
            Resume (started {{ time(walk) }})
          </button>
          <button type="button" class="act" (click)="end(walk)">End it</button>
        } @else {
          <button type="button" class="act main" [disabled]="busy()" (click)="begin('stage')">
            Begin the evening
          </button>
        }
        <button type="button" class="act" [disabled]="busy()" (click)="begin('rehearsal')">
          Rehearse against the clock
        </button>
      </div>
    }
    @if (error(); as text) {
      <p role="alert">{{ text }}</p>
    }
    @if (hardest().length > 0) {
      <h2>The hardest breaks, to drill</h2>
      <div class="choices">
        @for (one of hardest(); track one.at) {
          <button
            type="button"
            class="act small"
            [disabled]="busy()"
            (click)="begin('rehearsal', one.at)"
          >
            {{ one.at + 1 }} {{ one.name }}
            <span class="quiet">{{ length(one.needs) }} of {{ length(one.length) }}</span>
          </button>
        }
      </div>
    }
    @if (moves().length > 0) {
      <h2>Movements that were slow or went wrong</h2>
      <div class="choices">
        @for (one of moves(); track $index) {
          <button
            type="button"
            class="act small"
            [disabled]="busy()"
            (click)="begin('rehearsal', one.at)"
          >
            {{ one.says }} <span class="quiet">{{ one.why }}</span>
          </button>
        }
      </div>
    }
    @if (practice().length > 0) {
      <h2>How the hands do</h2>
      <p class="quiet">
        Day by day, against the stated times: {{ practiceSays() }}. Planned with since the third
        movement of a kind.
      </p>
      <hur-plot
        class="practice"
        [x]="days()"
        [y]="ratios"
        [traces]="traces()"
        [summary]="practiceSays()"
      />
    }
    @if (rehearsals().length > 0) {
      <h2>Rehearsed</h2>
      <ul>
        @for (walk of rehearsals(); track walk.id) {
          <li>
            <button type="button" class="act small" (click)="opened.emit({ walk: walk.id })">
              {{ time(walk) }}
            </button>
          </li>
        }
      </ul>
    }
    @if (sheets().length > 0) {
      <details>
        <summary>Sheets of what is played</summary>
        <ul>
          @for (sheet of sheets(); track sheet.url) {
            <li>
              <a [href]="sheet.url" target="_blank" rel="noopener">{{ sheet.name }}</a>
            </li>
          }
        </ul>
      </details>
    }
    <p>
      <a [routerLink]="['/set', setId()]">Back to the set</a> ·
      <a [href]="booklet()" target="_blank" rel="noopener">The booklet</a> ·
      <a routerLink="/devices">Screens for the others</a>
    </p>
  `,
  styleUrl: './stage-parts.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageStart implements OnInit {
  readonly setId = input.required<string>();
  readonly evening = input.required<Evening>();
  readonly person = input('');
  readonly before = input.required<Walk['before']>();
  readonly chosen = output<string>();
  readonly opened = output<{ walk: string; at?: number }>();
  /** Sheets of what is played, from the start. */
  readonly sheets = input<readonly { url: string; name: string }[]>([]);
  /** Breaks worth a drill, the hardest first. */
  readonly hardest = input<readonly Hard[]>([]);
  /** Movements worth a drill, the hardest first, with the break that each is in. */
  readonly moves = input<readonly { at: number; says: string; why: string }[]>([]);
  readonly practice = input<readonly DayOfPractice[]>([]);

  protected readonly booklet = computed(() => bookletOf(this.setId()));
  private readonly api = inject(WALK_API);
  private readonly store = inject(WalkStore);
  protected readonly walks = signal<readonly Walk[]>([]);
  protected readonly busy = signal(false);
  protected readonly error = signal('');
  protected readonly goesOn = computed(() =>
    this.walks().find((w) => w.kind === 'stage' && w.endedAt === null),
  );
  protected readonly rehearsals = computed(() =>
    this.walks()
      .filter((w) => w.kind === 'rehearsal')
      .slice(0, 5),
  );

  ngOnInit(): void {
    this.api.of(this.setId()).then(
      (walks) => this.walks.set(walks),
      // With no server there is what was opened on this device.
      () => this.walks.set(this.store.of(this.setId())),
    );
  }

  protected readonly length = formatDuration;
  protected readonly ratios: PlotAxis = {
    from: 0,
    to: 3,
    ticks: [0, 1, 2, 3],
    label: (v) => `×${v}`,
  };
  protected readonly days = computed((): PlotAxis => {
    const all = this.practice();
    const last = Math.max(1, all.length - 1);
    return {
      from: 0,
      to: last,
      ticks: all.map((_, i) => i),
      label: (i) => format(new Date(`${all[i]?.day ?? '2000-01-01'}T12:00:00`), 'd MMM'),
    };
  });
  protected readonly traces = computed((): Trace[] => {
    const points = this.practice().map((d, i): [number, number] => [i, Math.min(3, d.ratio)]);
    const [one] = points;
    const line = points.length > 1 || !one ? points : [one, [1, one[1]] as [number, number]];
    const stated: [number, number][] = [
      [0, 1],
      [Math.max(1, points.length - 1), 1],
    ];
    return [
      { points: stated, style: 'dashed' },
      { points: line, style: 'line' },
    ];
  });
  protected readonly practiceSays = computed(() => {
    const [first, last] = [this.practice()[0], this.practice().at(-1)];
    if (!first || !last) return '';
    const now = `×${last.ratio.toFixed(1)} over ${last.movements} movements`;
    return first === last ? now : `${now}, ×${first.ratio.toFixed(1)} on the first day`;
  });

  protected time(walk: Walk): string {
    return format(new Date(walk.createdAt), 'd MMMM, H:mm');
  }

  protected async begin(kind: WalkKind, at?: number): Promise<void> {
    this.busy.set(true);
    try {
      const { id } = await this.api.begin(this.setId(), kind, this.before());
      this.opened.emit({ walk: id, ...(at === undefined ? {} : { at }) });
    } catch (error) {
      this.error.set(`${(error as Error).message} A walk begins where there is a server.`);
    } finally {
      this.busy.set(false);
    }
  }

  protected async end(walk: Walk): Promise<void> {
    try {
      await this.api.end(walk.id);
      this.walks.update((all) => all.filter((w) => w !== walk));
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }
}
