import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  beforeDoors,
  callFaults,
  type CallKind,
  callNames,
  type Calls,
  callsInOrder,
  formatDuration,
} from '@hurrel/core';
import { SetDesk } from './set-desk';

/** When an evening calls whom: load in, sound check, doors, the first song. */
@Component({
  selector: 'hur-call-times',
  template: `
    @if (desk.evening(); as evening) {
      <details>
        <summary>
          Call times
          @for (call of known(); track call.kind) {
            <span class="known"
              >{{ names[call.kind] }} <strong class="mono">{{ call.at }}</strong></span
            >{{ ' ' }}
          }
        </summary>
        <div class="fields">
          @for (kind of kinds; track kind) {
            <label>
              {{ names[kind] }}
              <input
                #at
                type="time"
                class="form-control mono"
                [value]="evening.calls[kind] ?? ''"
                (change)="say(kind, at)"
              />
            </label>
          }
        </div>
        @if (fault()) {
          <p class="bad" role="alert">{{ fault() }}</p>
        }
        @if (tight(); as text) {
          <p class="near">{{ text }}</p>
        }
        @if (!evening.calls.begins) {
          <p class="quiet">Say when the first song begins, and each song says when it does.</p>
        }
      </details>
    }
  `,
  styles: `
    .known {
      margin-left: 14px;
      font-weight: 500;
    }
    .fields {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 14px;
      margin: 6px 0;
    }
    label {
      display: flex;
      gap: 6px;
      align-items: center;
    }
    input {
      width: 136px;
    }
    p {
      margin: 2px 0;
    }
    .bad {
      color: var(--bad);
    }
    .near {
      color: var(--near);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CallTimes {
  protected readonly desk = inject(SetDesk);
  protected readonly names = callNames;
  protected readonly kinds = Object.keys(callNames) as CallKind[];
  protected readonly fault = signal('');
  protected readonly known = computed(() => callsInOrder(this.desk.evening()?.calls ?? {}));
  /** More is counted on before doors than there is from sound check on. */
  protected readonly tight = computed(() => {
    const evening = this.desk.evening();
    const there = evening && beforeDoors(evening.calls);
    const counted = evening?.songs[0]?.pause ?? 0;
    return there === null || there === undefined || counted <= there
      ? ''
      : `From sound check to doors there are ${formatDuration(there)}, and ${formatDuration(counted)} are counted on before doors.`;
  });

  protected say(kind: CallKind, field: HTMLInputElement): void {
    const evening = this.desk.evening();
    if (!evening) return;
    const { [kind]: _, ...others } = evening.calls;
    const calls: Calls = field.value === '' ? others : { ...others, [kind]: field.value };
    // What goes round in a circle is told, and not kept.
    const [fault] = callFaults(calls);
    this.fault.set(fault?.message ?? '');
    if (fault) field.value = evening.calls[kind] ?? '';
    else this.desk.change({ calls });
  }
}
