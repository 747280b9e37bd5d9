import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { type Evening, eveningSchema } from '@hurrel/core';
import { format } from 'date-fns';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';
import { SetsService, type StoredEvening } from './sets.service';

/** All sets: evenings on stage. */
@Component({
  selector: 'hur-sets-page',
  imports: [RouterLink, MainPages],
  template: `
    <hur-main-pages here="/sets" />
    <main>
      <h1>Sets</h1>
      <p class="quiet">
        An evening on stage: songs in order, what each plays on which panel, and how long the breaks
        between them are. The plan says what is moved when, by whom, and where there is too little
        time.
      </p>
      @if (error(); as text) {
        <p role="alert">{{ text }}</p>
      }
      <form class="new" (submit)="$event.preventDefault(); add(name)">
        <label class="visually-hidden" for="set-name">Name of a new set</label>
        <input
          #name
          id="set-name"
          class="form-control"
          maxlength="80"
          placeholder="Hallow Staithe, the first night"
        />
        <button type="submit" class="btn btn-main">New set</button>
      </form>
      <ul>
        @for (s of sets(); track s.id) {
          <li>
            <a [routerLink]="['/set', s.id]">
              <strong>{{ s.evening.name }}</strong>
              <span class="quiet">{{ facts(s.evening) }}</span>
            </a>
          </li>
        } @empty {
          @if (read()) {
            <li class="quiet">None yet. Name one, and put songs and patches into it.</li>
          }
        }
      </ul>
    </main>
  `,
  styleUrl: '../sessions/session.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SetsPage {
  private readonly service = inject(SetsService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  protected readonly sets = signal<StoredEvening[]>([]);
  protected readonly read = signal(false);
  protected readonly error = signal('');

  constructor() {
    this.service.all().then(
      (all) => {
        this.sets.set(all);
        this.read.set(true);
      },
      (error: Error) => this.error.set(error.message),
    );
  }

  protected facts({ place, date, songs, panels, people }: Evening): string {
    const count = (n: number, one: string, many = `${one}s`): string =>
      `${n} ${n === 1 ? one : many}`;
    return [
      place,
      date ? format(new Date(`${date}T12:00:00`), 'd MMMM yyyy') : '',
      count(songs.length, 'song'),
      count(panels.length, 'panel'),
      count(people.length, 'person', 'people'),
    ]
      .filter(Boolean)
      .join(' · ');
  }

  protected async add(field: HTMLInputElement): Promise<void> {
    const name = field.value.trim();
    if (name === '') return field.focus();
    try {
      const made = await this.service.add(
        eveningSchema.parse({ format: 'hurrel-set', version: 1, name }),
      );
      void this.router.navigate(['/set', made.id]);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }
}
