import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { freeName, personSchema } from '@hurrel/core';
import { ToastService } from '../ui/toasts';
import { PanelHands } from './panel-hands';
import { alikeSays } from './alike-says';
import { PanelUnit } from './panel-unit';
import { SetDesk } from './set-desk';

/** Who is on stage, and who moves which panel. */
@Component({
  selector: 'hur-band',
  imports: [PanelHands, PanelUnit],
  template: `
    @if (desk.evening(); as evening) {
      <div class="people">
        <h2>People</h2>
        <div>
          @for (person of evening.people; track person.id) {
            <span class="one">
              <input
                #name
                class="form-control"
                maxlength="80"
                [attr.aria-label]="'Function of ' + person.name"
                [value]="person.name"
                (change)="rename(person.id, name)"
              />
              <input
                #stands
                class="form-control"
                maxlength="120"
                placeholder="where they stand"
                [attr.aria-label]="'Where ' + person.name + ' stands'"
                [value]="person.stands"
                (change)="stand(person.id, stands.value)"
              />
              <button
                type="button"
                class="btn btn-plain"
                [attr.aria-label]="'Remove ' + person.name"
                (click)="dropPerson(person.id)"
              >
                <i class="bi bi-x-lg" aria-hidden="true"></i>
              </button>
              @if (learned(person.id); as says) {
                <span class="quiet">{{ says }}</span>
              }
            </span>
          }
          <button type="button" class="btn" (click)="addPerson()">One more</button>
        </div>
      </div>
      <div class="panels">
        <h2>Panels</h2>
        <div>
          @for (panel of evening.panels; track panel.id) {
            <span class="one">
              <input
                #panelName
                class="form-control"
                maxlength="80"
                [attr.aria-label]="'Name of panel ' + panel.name"
                [value]="panel.name"
                (change)="renamePanel(panel.id, panelName)"
              />
              <hur-panel-unit [panel]="panel" />
              <select
                #by
                class="form-select"
                [attr.aria-label]="'Who moves ' + panel.name"
                (change)="desk.changePanel(panel.id, { by: by.value || undefined })"
              >
                <option value="">whoever is first</option>
                @for (person of evening.people; track person.id) {
                  <option [value]="person.id" [selected]="person.id === panel.by">
                    {{ person.name }}
                  </option>
                }
              </select>
              <input
                #places
                class="form-control"
                placeholder="places to store in"
                [attr.aria-label]="'Places of ' + panel.name + ' that may be stored into'"
                [value]="panel.places.join(' ')"
                (change)="store(panel.id, places.value)"
              />
              <button
                type="button"
                class="btn btn-plain"
                [attr.aria-label]="'Remove panel ' + panel.name"
                (click)="dropPanel(panel.id)"
              >
                <i class="bi bi-x-lg" aria-hidden="true"></i>
              </button>
            </span>
            <hur-panel-hands [panel]="panel" />
          } @empty {
            <span class="quiet">They come with the first patch that a song plays.</span>
          }
          @for (text of alike(); track text) {
            <p class="alike">{{ text }}</p>
          }
        </div>
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    .people,
    .panels {
      display: grid;
      grid-template-columns: 62px 1fr;

      > div {
        display: flex;
        flex-wrap: wrap;
        gap: 6px 10px;
        align-items: center;
      }
    }
    h2 {
      margin: 10px 0 0;
      font-size: 15px;
    }
    .one {
      display: flex;
      gap: 4px;
      align-items: center;
    }
    .one input {
      width: 150px;
    }
    .one select {
      width: 165px;
    }
    .alike {
      margin: 0;
      color: var(--near);
    }
    hur-panel-hands {
      flex: 1 1 100%;
      padding-left: 12px;
      margin-bottom: 6px;
      border-left: 2px solid var(--rule);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Band {
  protected readonly desk = inject(SetDesk);
  private readonly toasts = inject(ToastService);

  protected readonly alike = computed(() => alikeSays(this.desk.evening()));

  /** What movements take somebody, as far as it was learned: `knob 2.4 s, of 12`. */
  protected learned(person: string): string {
    const one = this.desk.learned()[person];
    if (!one) return '';
    return Object.entries(one.from)
      .map(([kind, count]) => `${kind} ${one.times[kind as 'knob'].toFixed(1)} s, of ${count}`)
      .join(' · ');
  }

  protected addPerson(): void {
    const people = this.desk.evening()!.people;
    const id = freeName('person', people);
    const person = personSchema.parse({ id, name: `person ${people.length + 1}` });
    this.desk.change({ people: [...people, person] });
  }

  protected rename(id: string, field: HTMLInputElement): void {
    const people = this.desk.evening()!.people;
    const name = field.value.trim();
    if (name === '') field.value = people.find((p) => p.id === id)!.name;
    else this.desk.change({ people: people.map((p) => (p.id === id ? { ...p, name } : p)) });
  }

  protected stand(id: string, stands: string): void {
    const people = this.desk
      .evening()!
      .people.map((p) => (p.id === id ? { ...p, stands: stands.trim() } : p));
    this.desk.change({ people });
  }

  /** Places by their names, apart by commas or spaces. What a panel does not have the plan tells. */
  protected store(id: string, text: string): void {
    const places = text.split(/[\s,;]+/).filter(Boolean);
    this.desk.changePanel(id, { places: places.slice(0, 128).map((p) => p.slice(0, 12)) });
  }

  /** What they moved goes to the first of those who are left. */
  protected dropPerson(id: string): void {
    const { people, panels, songs } = this.desk.evening()!;
    const without = <T extends { by?: string | undefined }>({ by, ...rest }: T) =>
      by === undefined || by === id ? rest : { ...rest, by };
    this.desk.change({
      people: people.filter((p) => p.id !== id),
      panels: panels.map((p) => ({
        ...without(p),
        also: p.also.filter((a) => a.by !== id),
      })),
      songs: songs.map((s) => ({ ...s, plays: s.plays.map(without) })),
    });
  }

  protected renamePanel(id: string, field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name === '') field.value = this.desk.panelName(id);
    else this.desk.changePanel(id, { name });
  }

  protected dropPanel(id: string): void {
    const { panels, songs } = this.desk.evening()!;
    if (songs.some((s) => s.plays.some((p) => p.panel === id)))
      return this.toasts.show('Songs play on it: take their patches off it first.');
    this.desk.change({ panels: panels.filter((p) => p.id !== id) });
  }
}
