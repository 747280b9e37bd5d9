import { computed, Injectable, signal } from '@angular/core';
import { type Control, isSwitched, isTimed, parseReading, type Setting } from '@hurrel/core';

/** What is being written for a control, and why it is not a reading yet. */
export interface Draft {
  control: Control;
  text: string;
  error: { message: string; expected: string } | null;
}

/** Writing a reading: begun by the first key, ended by Tab, Enter or Escape. */
@Injectable()
export class Entry {
  readonly draft = signal<Draft | null>(null);
  readonly open = computed(() => this.draft() !== null);

  write(control: Control, text: string): void {
    this.draft.set({ control, text, error: null });
  }

  type(control: Control, key: string): void {
    const draft = this.draft();
    this.write(control, draft && draft.control.id === control.id ? draft.text + key : key);
  }

  backspace(): void {
    const draft = this.draft();
    if (!draft) return;
    if (draft.text.length <= 1) this.cancel();
    else this.write(draft.control, draft.text.slice(0, -1));
  }

  cancel(): void {
    this.draft.set(null);
  }

  /**
   * Ends the writing. Gives the setting that was read (null for not recorded); undefined when there was nothing to read
   * or it was not understood, which then stands with the draft.
   */
  commit(current: Setting | undefined, tempo: number): Setting | null | undefined {
    const draft = this.draft();
    if (!draft) return undefined;
    const parsed = parseReading(draft.text, draft.control, current, tempo);
    if (!parsed.ok) {
      this.draft.set({ ...draft, error: { message: parsed.message, expected: parsed.expected } });
      return undefined;
    }
    this.draft.set(null);
    return parsed.setting;
  }

  /**
   * Whether a stroke goes on with the reading: a note length, where one can be set or is a position's name. Everywhere else
   * it begins a jump.
   */
  takesStroke(): boolean {
    const draft = this.draft();
    if (!draft || !/^\d{1,2}$/.test(draft.text)) return false;
    const { control, text } = draft;
    return isSwitched(control)
      ? control.positions.some((p) => p.name.startsWith(`${text}/`))
      : isTimed(control);
  }

  /** A jump that looked like a note length: `1/6b` is 1, and then the control 6b. The keys of the jump; undefined when it is none. */
  jumpInside(key: string): string | undefined {
    const draft = this.draft();
    const [, number, begun] = /^(\d{1,2})\/(\d{0,2})$/.exec(draft?.text ?? '') ?? [];
    if (!draft || number === undefined || !/^[a-z]$/.test(key) || (begun && /[dt]/.test(key))) {
      return undefined;
    }
    this.write(draft.control, number);
    return `${begun}${key}`;
  }

  /** True when what has been written so far is a reading already. The words of a target never end by themselves. */
  complete(current: Setting | undefined): boolean {
    const draft = this.draft();
    return (
      draft !== null &&
      !draft.text.startsWith('~') &&
      parseReading(draft.text, draft.control, current).ok
    );
  }
}
