import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Memory } from '@hurrel/core';
import { NumberField } from '../../ui/number-field';
import { InstrumentDesk } from '../instrument-desk';

type Slots = Extract<Memory, { kind: 'slots' }>;
type Programs = NonNullable<Slots['programs']>;
/** As many keep their sounds; what is otherwise is said. */
const USUAL: Slots = {
  ...{ kind: 'slots', banks: 4, slots: 16, nameLength: 12 },
  characters: ' ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-',
};

/** Whether an instrument keeps sounds by itself, in how many places, under which names. */
@Component({
  selector: 'hur-memory-form',
  imports: [NumberField],
  template: `
    <section aria-label="Memory">
      <h2>Memory</h2>
      <div class="choices">
        <label>
          <input
            #keeps
            type="checkbox"
            class="form-check-input"
            [checked]="memory()"
            (change)="set(keeps.checked ? usual : none)"
          />
          It keeps sounds by itself
        </label>
      </div>
      @if (memory(); as memory) {
        <div class="fields">
          @for (field of fields; track field.key) {
            <hur-number-field
              [label]="field.says"
              [whole]="true"
              [min]="field.min"
              [max]="field.max"
              [value]="memory[field.key]"
              (taken)="say(field.key, $event)"
            />
          }
        </div>
        <div class="choices">
          <label>
            <input
              #tells
              type="checkbox"
              class="form-check-input"
              [checked]="memory.programs"
              (change)="setPrograms(tells.checked ? usualPrograms : undefined)"
            />
            It says over MIDI which place was chosen on it
          </label>
        </div>
        @if (memory.programs; as programs) {
          <div class="fields">
            <label>
              Programs are counted
              <select
                #counted
                class="form-select"
                (change)="
                  setPrograms({ counted: asCounted(counted.value), select: programs.select })
                "
              >
                <option value="bank" [selected]="programs.counted === 'bank'">
                  in each bank from its first place
                </option>
                <option value="through" [selected]="programs.counted === 'through'">
                  through all banks
                </option>
              </select>
            </label>
            <label>
              A bank is selected by
              <select
                #select
                class="form-select"
                (change)="
                  setPrograms({ counted: programs.counted, select: asSelect(select.value) })
                "
              >
                <option value="coarse" [selected]="programs.select === 'coarse'">
                  controller 0
                </option>
                <option value="fine" [selected]="programs.select === 'fine'">controller 32</option>
              </select>
            </label>
          </div>
        }
        @if (memory.nameLength > 0) {
          <label class="wide">
            Characters of a name, in the order in which its encoder steps through them
            <input
              #characters
              class="form-control mono"
              maxlength="256"
              [value]="memory.characters ?? ''"
              (change)="setCharacters(characters.value)"
            />
          </label>
        }
      } @else {
        <p class="quiet">Without one, everything is set by hand at each changeover.</p>
      }
    </section>
  `,
  styleUrl: './form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MemoryForm {
  private readonly desk = inject(InstrumentDesk);
  protected readonly usual = USUAL;
  protected readonly none: Memory = { kind: 'none' };
  protected readonly usualPrograms: Programs = { counted: 'bank', select: 'coarse' };
  protected readonly fields = [
    { key: 'banks', says: 'Banks', min: 1, max: 128 },
    { key: 'slots', says: 'Places in each', min: 1, max: 1024 },
    { key: 'nameLength', says: 'Letters of a name', min: 0, max: 64 },
  ] as const;
  protected readonly memory = computed((): Slots | null => {
    const memory = this.desk.instrument()?.memory;
    return memory?.kind === 'slots' ? memory : null;
  });

  protected set(memory: Memory): void {
    this.desk.edit((i) => ({ ...i, memory }));
  }

  protected say(key: 'banks' | 'slots' | 'nameLength', value: number): void {
    const memory = this.memory();
    if (memory) this.set({ ...memory, [key]: value });
  }

  protected setPrograms(programs: Programs | undefined): void {
    const memory = this.memory();
    if (!memory) return;
    const { programs: _, ...rest } = memory;
    this.set(programs ? { ...rest, programs } : rest);
  }

  protected asCounted = (value: string): Programs['counted'] =>
    value === 'through' ? 'through' : 'bank';
  protected asSelect = (value: string): Programs['select'] =>
    value === 'fine' ? 'fine' : 'coarse';

  /** Each character once; fewer than two are no choice. */
  protected setCharacters(text: string): void {
    const memory = this.memory();
    if (!memory) return;
    const { characters: _, ...rest } = memory;
    const once = [...new Set(text)].join('');
    this.set(once.length < 2 ? rest : { ...rest, characters: once });
  }
}
