import { DestroyRef, effect, inject, Injectable, signal } from '@angular/core';
import {
  type Control,
  controlCodes,
  isSwitched,
  nudge,
  readingText,
  soundingValue,
} from '@hurrel/core';
import type { Shortcut } from '../keys/shortcuts';
import { ChartDesk } from './chart-desk';
import { KeysService } from '../sound/keys.service';
import { Entry } from './entry';

const STEPS: Record<string, number> = {
  ArrowUp: 1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowLeft: -1,
  PageUp: 10,
  PageDown: -10,
};

/** What the keys do while a control has the focus. */
export const controlShortcuts: readonly Shortcut[] = [
  { keys: ['6', '.', '5'], says: 'Any letter or figure begins a reading' },
  { keys: 'Enter', says: 'Take the reading and go on; on a reading: write it anew' },
  { keys: ['Tab', 'Shift+Tab'], says: 'Take it, and on in working order, or back' },
  { keys: ['ArrowUp', 'ArrowDown'], says: 'Turn by what the panel resolves; with shift by five' },
  { keys: ['PageUp', 'PageDown'], says: 'Turn by ten' },
  { keys: ['Home', 'End'], says: 'To its ends' },
  { keys: ['*', '?', '~'], says: 'Does not matter, not recorded, by ear' },
  { keys: 'Delete', says: 'Not recorded' },
  { keys: '/', says: 'Two keys that stand on the panel go to any control' },
];

/** Keys and the wheel on the panel: typing starts a reading at once, arrows turn, two keys go to any control. */
@Injectable()
export class ChartKeys {
  private readonly desk = inject(ChartDesk);
  private readonly entry = inject(Entry);
  private readonly keys = inject(KeysService);
  /** Keys of a jump that are typed so far; null while there is none. */
  readonly jump = signal<string | null>(null);

  constructor() {
    // What is begun is gone on with: letters are no notes until it is taken or given up.
    effect(() => this.keys.writing.set(this.entry.open() || this.jump() !== null));
    inject(DestroyRef).onDestroy(() => this.keys.writing.set(false));
  }

  /** Takes a key that is pressed on a control, or while a jump is under way. */
  press(event: KeyboardEvent, onControl: boolean): void {
    const control = this.desk.control();
    if (this.jump() !== null) this.jumpKey(event);
    else if (onControl && control) this.controlKey(event, control);
    else if (event.key === '/') this.startJump(event);
  }

  /** Keys while a control has the focus. Typing starts a reading at once. */
  private controlKey(event: KeyboardEvent, control: Control): void {
    const draft = this.entry.open();
    const setting = this.desk.settingOf(control.id);
    const done = (): void => event.preventDefault();
    switch (event.key) {
      case 'Tab':
        if (!this.desk.commit()) done();
        return;
      case 'Enter':
        done();
        if (!draft) this.entry.write(control, this.keys.on() ? '' : readingText(control, setting));
        else if (this.entry.draft()?.text === '') this.entry.cancel();
        else if (this.desk.commit()) this.desk.step(event.shiftKey ? -1 : 1);
        return;
      case 'Escape':
        this.entry.cancel();
        return done();
      case 'Backspace':
        if (draft) this.entry.backspace();
        return done();
      case 'Delete':
        if (!draft) this.desk.set(control.id, null);
        return done();
    }
    if (!draft && this.nudgeKey(event, control)) return done();
    const jump = draft ? this.entry.jumpInside(event.key.toLowerCase()) : undefined;
    if (jump !== undefined) {
      this.startJump(event);
      for (const key of jump) this.jumpWith(key);
      return;
    }
    const stroke = event.key === '/' && !this.entry.takesStroke();
    if (stroke && (!draft || this.entry.complete(setting))) return this.startJump(event);
    // While keys play, a reading is begun by Enter alone: no note and no chord is taken for one.
    if (!draft && this.keys.on()) return;
    if (event.key.length === 1 && (event.key !== ' ' || draft)) {
      this.entry.type(control, event.key);
      done();
    }
  }

  private nudgeKey(event: KeyboardEvent, control: Control): boolean {
    const setting = this.desk.settingOf(control.id);
    const value = soundingValue(control, setting);
    const by = STEPS[event.key];
    if (event.key === 'Home' || event.key === 'End') {
      const end = event.key === 'End';
      const position = isSwitched(control) ? control.positions.at(end ? -1 : 0)?.id : undefined;
      this.desk.turn(control, position ?? Number(end));
      return true;
    }
    if (by === undefined) return false;
    // Words stand below one another: down is the next.
    const down =
      isSwitched(control) && (event.key === 'ArrowUp' || event.key === 'ArrowDown') ? -1 : 1;
    this.desk.turn(control, nudge(control, value, by * down * (event.shiftKey ? 5 : 1)));
    return true;
  }

  /** @param scrolls the wheel scrolls the panel, unless it is over the control that is chosen */
  wheel(event: WheelEvent, scrolls: boolean): void {
    const id = (event.target as Element).closest('[data-control]')?.getAttribute('data-control');
    const control = this.desk.find(id ?? null);
    if (!control || (scrolls && this.desk.chosen() !== control.id)) return;
    event.preventDefault();
    const up = event.deltaY < 0 ? 1 : -1;
    const steps = isSwitched(control) ? -up : up * (event.shiftKey ? 1 : 3);
    this.desk.turn(
      control,
      nudge(control, soundingValue(control, this.desk.settingOf(control.id)), steps),
      `wheel-${control.id}`,
    );
  }

  private startJump(event: KeyboardEvent): void {
    if (!this.desk.commit()) return;
    event.preventDefault();
    this.jump.set('');
  }

  /** Keys of a jump: the two that name a control. */
  private jumpKey(event: KeyboardEvent): void {
    event.preventDefault();
    if (event.key.length !== 1) return this.jump.set(null);
    this.jumpWith(event.key.toLowerCase());
  }

  private jumpWith(key: string): void {
    const instrument = this.desk.instrument();
    const keys = (this.jump() ?? '') + key;
    const codes = instrument ? [...controlCodes(instrument)] : [];
    const hit = codes.find(([, code]) => code === keys);
    if (hit) {
      this.jump.set(null);
      this.desk.focus(hit[0]);
    } else {
      this.jump.set(codes.some(([, code]) => code.startsWith(keys)) ? keys : null);
    }
  }
}
