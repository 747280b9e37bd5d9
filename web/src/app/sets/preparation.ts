import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { type CallKind, type Compromise, formatDuration, formatSetting } from '@hurrel/core';
import { SetDesk } from './set-desk';

/** What is done before the evening: sounds that are stored, settings that stand for several songs, and the first break. */
@Component({
  selector: 'hur-preparation',
  template: `
    @if (desk.plan(); as plan) {
      @if (plan.noPlaces.length > 0) {
        <p class="trouble" role="alert">
          @for (one of plan.noPlaces; track $index) {
            {{ desk.panelName(one.panel) }} has no place {{ one.place }}.
          }
        </p>
      }
      <h3>At home: store</h3>
      <ul>
        @for (kept of plan.kept; track kept.panel + kept.place) {
          <li>
            <strong class="mono">{{ kept.place }}</strong> on {{ desk.panelName(kept.panel) }}:
            {{ desk.patchName(kept.play.patch) }}
            <span class="quiet"
              >{{ kept.movements }} movements, {{ time(kept.seconds) }}; spares
              {{ time(kept.saves) }}</span
            >
          </li>
        } @empty {
          <li class="quiet">
            Nothing. Name the places that may be stored into, at a panel with a memory.
          </li>
        }
      </ul>
      @if (plan.worst >= 0 && !plan.keptSure) {
        <p class="quiet">Not every choice was tried: a better one may exist.</p>
      }
      <h3>At sound check{{ at('soundCheck') }}: let it stand</h3>
      <ul>
        @for (one of plan.compromises; track one.panel + one.control + one.from) {
          <li>
            {{ desk.panelName(one.panel) }} {{ says(one).name }}
            <strong class="mono">{{ says(one).at }}</strong>
            <span class="quiet">from {{ song(one.from) }} to {{ song(one.to) }}</span>
          </li>
        } @empty {
          <li class="quiet">No setting has to serve two songs.</li>
        }
      </ul>
      <h3>Before doors{{ at('doors') }}</h3>
      <p>
        {{ doors() }}
      </p>
      @if (desk.notSeen().start.length > 0) {
        <p>
          At their start, as you said:
          @for (panel of desk.notSeen().start; track panel.id; let last = $last) {
            {{ panel.name }}
            <button
              type="button"
              class="btn btn-plain"
              (click)="desk.changePanel(panel.id, { atStart: false })"
            >
              not so</button
            >{{ last ? '' : ',' }}
          }
        </p>
      }
    }
  `,
  styles: `
    h3 {
      margin: 8px 0 2px;
      font-size: 15px;
    }
    .quiet {
      margin-left: 6px;
    }
    ul {
      margin: 0;
      padding-left: 18px;
    }
    p {
      margin: 0;
    }
    .trouble {
      color: var(--bad);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Preparation {
  protected readonly desk = inject(SetDesk);
  protected readonly time = formatDuration;

  protected readonly doors = computed(() => {
    const first = this.desk.plan()?.breaks[0];
    const portions = first?.portions ?? [];
    if (!first || portions.length === 0) return 'Nothing to move.';
    const steps = portions.reduce((sum, p) => sum + p.steps.length, 0);
    const panels = new Set(portions.map((p) => p.panel)).size;
    const most = Math.max(...Object.values(first.loads));
    return `${steps} movements on ${panels} ${panels === 1 ? 'panel' : 'panels'}; whoever has the most needs ${formatDuration(most)} of ${formatDuration(first.length)}.`;
  });

  /** The call time, where it is known. */
  protected at(kind: CallKind): string {
    const at = this.desk.evening()?.calls[kind];
    return at === undefined ? '' : `, ${at}`;
  }

  protected song(id: string): string {
    return this.desk.evening()?.songs.find((s) => s.id === id)?.name ?? '';
  }

  protected says({ panel, control, from, setting }: Compromise): { name: string; at: string } {
    const play = this.desk
      .evening()
      ?.songs.find((s) => s.id === from)
      ?.plays.find((p) => p.panel === panel);
    const face = play && this.desk.face(play.patch);
    const found = face?.controls.find((c) => c.id === control);
    if (!face || !found) return { name: control, at: '' };
    const section = face.sections.find((s) => s.id === found.section)?.name ?? '';
    return { name: `${section} ${found.name}`, at: formatSetting(found, setting) };
  }
}
