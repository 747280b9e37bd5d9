import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { formatDuration, partStarts, type Session, sessionSchema } from '@hurrel/core';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';
import { SessionsService, type StoredSession } from './sessions.service';

/** All sessions: songs that are recorded in passes. */
@Component({
  selector: 'hur-sessions-page',
  imports: [RouterLink, MainPages],
  template: `
    <hur-main-pages here="/sessions" />
    <main>
      <h1>Recordings</h1>
      <p class="quiet">
        A track made of passes: one patch after another, each playing its pattern through the parts
        of a song, recorded one by one.
      </p>
      @if (error(); as text) {
        <p role="alert">{{ text }}</p>
      }
      <form class="new" (submit)="$event.preventDefault(); add(name)">
        <label class="visually-hidden" for="session-name">Name of a new recording</label>
        <input
          #name
          id="session-name"
          class="form-control"
          maxlength="80"
          placeholder="Night Lock, at Hallow Staithe"
        />
        <button type="submit" class="btn btn-main">New recording</button>
      </form>
      <ul>
        @for (s of sessions(); track s.id) {
          <li>
            <a [routerLink]="['/session', s.id]">
              <strong>{{ s.session.name }}</strong>
              <span class="quiet">{{ facts(s.session) }}</span>
            </a>
          </li>
        } @empty {
          @if (read()) {
            <li class="quiet">None yet. Name one, and put patches of the library into it.</li>
          }
        }
      </ul>
    </main>
  `,
  styleUrl: './session.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SessionsPage {
  private readonly service = inject(SessionsService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  protected readonly sessions = signal<StoredSession[]>([]);
  protected readonly read = signal(false);
  protected readonly error = signal('');

  constructor() {
    this.service.all().then(
      (all) => {
        this.sessions.set(all);
        this.read.set(true);
      },
      (error: Error) => this.error.set(error.message),
    );
  }

  protected facts({ passes, parts, song, tempo }: Session): string {
    const { bars } = partStarts(parts);
    const open = passes.filter((p) => p.take === undefined).length;
    return [
      song,
      `${passes.length} passes, ${open} to be recorded`,
      `${bars} bars at ${tempo} bpm, ${formatDuration((bars * 240) / tempo)}`,
    ]
      .filter(Boolean)
      .join(' · ');
  }

  protected async add(field: HTMLInputElement): Promise<void> {
    const name = field.value.trim();
    if (name === '') return field.focus();
    const session = sessionSchema.parse({
      format: 'hurrel-session',
      version: 1,
      name,
      parts: [
        { id: 'intro', name: 'introduction', bars: 4 },
        { id: 'drop', name: 'drop', bars: 8 },
      ],
    });
    try {
      const made = await this.service.add(session);
      void this.router.navigate(['/session', made.id]);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }
}
