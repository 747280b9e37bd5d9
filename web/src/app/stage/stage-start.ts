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
import type { Evening, WalkKind } from '@hurrel/core';
import { format } from 'date-fns';
import { type Walk, WALK_API } from './walk.api';
import { WalkStore } from './walk-store';

/** Before a walk: which one goes on or begins, and whose screen this is. */
@Component({
  selector: 'hur-stage-start',
  imports: [RouterLink],
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
          <button type="button" class="act main" (click)="opened.emit(walk.id)">
            Go on: begun {{ time(walk) }}
          </button>
          <button type="button" class="act" (click)="end(walk)">That one is over</button>
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
    @if (rehearsals().length > 0) {
      <h2>Rehearsed</h2>
      <ul>
        @for (walk of rehearsals(); track walk.id) {
          <li>
            <button type="button" class="act small" (click)="opened.emit(walk.id)">
              {{ time(walk) }}
            </button>
          </li>
        }
      </ul>
    }
    <p>
      <a [routerLink]="['/set', setId()]">Back to the set</a> ·
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
  readonly opened = output<string>();

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

  protected time(walk: Walk): string {
    return format(new Date(walk.createdAt), 'd MMMM, H:mm');
  }

  protected async begin(kind: WalkKind): Promise<void> {
    this.busy.set(true);
    try {
      this.opened.emit((await this.api.begin(this.setId(), kind, this.before())).id);
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
