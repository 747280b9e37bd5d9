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
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import {
  type Difference,
  type Evening,
  eveningDifferences,
  type Instrument,
  instrumentDifferences,
  panelOf,
  type Session,
  sessionDifferences,
  type Unit,
  unitDifferences,
} from '@hurrel/core';
import { API } from '../api/client';
import { newestDescription } from '../api/description';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';
import { HistoryView } from './history-view';
import { type Answered, type DocumentName, versionsApi } from './versions-api';

type Kind = Exclude<DocumentName, 'patch'>;
interface Told {
  name: string;
}
const PLACES = {
  unit: '/instruments',
  instrument: '/instruments',
  session: '/sessions',
  evening: '/sets',
} as const;
/** Where a document itself is. */
const PAGES = {
  unit: '/unit',
  instrument: '/instrument',
  session: '/session',
  evening: '/set',
} as const;

/** The history of a unit, an instrument, a recording or a set, on a page of its own. */
@Component({
  selector: 'hur-document-history',
  imports: [HistoryView, MainPages, RouterLink],
  template: `
    <hur-main-pages [here]="place()" />
    <nav class="of" aria-label="What this is the history of">
      <a [routerLink]="[page(), id()]">{{ name() || 'Back' }}</a>
    </nav>
    @if (error(); as text) {
      <p class="of" role="alert">{{ text }}</p>
    } @else if (versions(); as versions) {
      <hur-history
        [versionsOf]="versions"
        [current]="current()"
        [documentOf]="documentOf()"
        [tell]="tell()"
        (returned)="took($event)"
      />
    }
  `,
  styles: `
    :host {
      display: grid;
      flex: 1;
      grid-template-rows: auto auto minmax(0, 1fr);
      min-height: 0;
    }
    .of {
      box-sizing: border-box;
      width: 100%;
      max-width: 1240px;
      margin: 10px auto 0;
      padding: 0 20px;
      font-size: 17px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DocumentHistory {
  readonly kind = input.required<Kind>();
  readonly id = input.required<string>();

  private readonly api = inject(API);
  private readonly toasts = inject(ToastService);
  private readonly title = inject(Title);
  private readonly apis = {
    unit: versionsApi('unit', () => this.id()),
    instrument: versionsApi('instrument', () => this.id()),
    session: versionsApi('session', () => this.id()),
    evening: versionsApi('evening', () => this.id()),
  };
  protected readonly page = computed(() => PAGES[this.kind()]);
  protected readonly place = computed(() => PLACES[this.kind()]);
  protected readonly current = signal(0);
  protected readonly name = signal('');
  protected readonly error = signal('');
  private readonly panel = signal<Instrument | null>(null);
  protected readonly versions = computed(() =>
    this.current() > 0 ? this.apis[this.kind()] : null,
  );
  protected readonly documentOf = computed(() => {
    const kind = this.kind();
    return (answered: Answered): Told => answered[kind] as Told;
  });
  protected readonly tell = computed(() => {
    const [kind, panel] = [this.kind(), this.panel()];
    const ways: Record<Kind, ((a: never, b: never) => Difference[]) | null> = {
      unit: panel && ((a: Unit, b: Unit) => unitDifferences(panel, a, b)),
      instrument: (a: Instrument, b: Instrument) => instrumentDifferences(a, b),
      session: (a: Session, b: Session) => sessionDifferences(a, b),
      evening: (a: Evening, b: Evening) => eveningDifferences(a, b),
    };
    return ways[kind] as ((a: Told, b: Told) => Difference[]) | null;
  });

  constructor() {
    effect(() => {
      this.id();
      untracked(() => void this.read());
    });
    effect(() => this.title.setTitle(`${this.name() || 'History'} · Hurrel`));
  }

  protected took({ answered, number }: { answered: Answered; number: number }): void {
    const before = this.current();
    this.take(answered);
    this.toasts.show(`Version ${number} is back, as version ${answered.version}.`, {
      label: 'Undo',
      run: () => void this.undo(before),
    });
  }

  private async undo(number: number): Promise<void> {
    try {
      this.take(await this.apis[this.kind()].goBack(number, this.current()));
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private take(answered: Answered): void {
    this.current.set(answered.version);
    this.name.set(this.documentOf()(answered).name);
  }

  private async read(): Promise<void> {
    const api = this.apis[this.kind()];
    try {
      const { items } = await api.list(1, 1);
      const newest = await api.read(items[0]!.number);
      if (this.kind() === 'unit') {
        const { instrument } = newest.unit as Unit;
        this.panel.set(panelOf(await newestDescription(this.api, instrument)));
      }
      this.take(newest);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }
}
