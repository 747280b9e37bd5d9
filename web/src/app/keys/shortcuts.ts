import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { createKeybindingsHandler, tinykeys } from 'tinykeys';
import { isField, isPressable, isSlid } from './targets';

/** What some keys do, and what the sheet of keys says of it. */
export interface Shortcut {
  /** As tinykeys writes them; each of them does it. */
  keys: string | readonly string[];
  says: string;
  /** Absent: what has the focus takes the key itself, and it is only told. */
  act?: (event: KeyboardEvent) => void;
  /** Whether it does anything just now. */
  when?: () => boolean;
}

export interface ShortcutGroup {
  title: string;
  shortcuts: readonly Shortcut[];
}

/** All keys that do something where one is: what is bound is also told. */
@Injectable({ providedIn: 'root' })
export class ShortcutsService {
  private readonly shown = signal<readonly ShortcutGroup[]>([]);
  readonly groups = this.shown.asReadonly();

  add(group: ShortcutGroup): () => void {
    this.shown.update((all) => [...all, group]);
    return () => this.shown.update((all) => all.filter((g) => g !== group));
  }
}

export const keysOf = ({ keys }: Shortcut): readonly string[] =>
  typeof keys === 'string' ? [keys] : keys;

/**
 * Binds keys for as long as what calls it lives, wherever the focus is but in fields and dialogs, and tells them on the
 * sheet of keys. Space and Enter stay with a button that has the focus. In an injection context.
 */
export function useShortcuts(title: string, shortcuts: readonly Shortcut[]): void {
  const destroyed = inject(DestroyRef);
  const unbind = tinykeys(window, bindings(shortcuts, isElsewhere));
  destroyed.onDestroy(inject(ShortcutsService).add({ title, shortcuts }));
  destroyed.onDestroy(unbind);
}

/** Tells keys that something else binds, for as long as what calls it lives. In an injection context. */
export function tellShortcuts(title: string, shortcuts: readonly Shortcut[]): void {
  inject(DestroyRef).onDestroy(inject(ShortcutsService).add({ title, shortcuts }));
}

/** A listener for the keys of an element that has the focus. What it takes goes no further. */
export function shortcutListener(shortcuts: readonly Shortcut[]): (event: KeyboardEvent) => void {
  const taken = shortcuts.map((s) => ({
    ...s,
    act: (event: KeyboardEvent) => {
      event.stopPropagation();
      s.act?.(event);
    },
  }));
  return createKeybindingsHandler(bindings(taken, () => false));
}

/** Whether a key belongs to what has the focus, and not to the page. */
function isElsewhere(event: KeyboardEvent): boolean {
  if (event.defaultPrevented || document.body.classList.contains('modal-open')) return true;
  // Nothing is written with function keys.
  if (/^F\d+$/.test(event.key)) return false;
  if (isField(event.target)) return true;
  if (/^(Arrow|Page|Home|End)/.test(event.key)) return isSlid(event.target);
  return (event.key === ' ' || event.key === 'Enter') && isPressable(event.target);
}

function bindings(
  shortcuts: readonly Shortcut[],
  elsewhere: (event: KeyboardEvent) => boolean,
): Record<string, (event: KeyboardEvent) => void> {
  const entries = shortcuts.flatMap((shortcut) => {
    const { act, when } = shortcut;
    if (!act) return [];
    const take = (event: KeyboardEvent): void => {
      if (elsewhere(event) || when?.() === false) return;
      event.preventDefault();
      act(event);
    };
    return keysOf(shortcut)
      .flatMap(layouts)
      .map((key) => [key, take] as const);
  });
  return Object.fromEntries(entries);
}

/** A sign stands on other keys on other keyboards: with shift, or with the third level. */
const layouts = (key: string): string[] =>
  /^[^A-Za-z0-9]$/.test(key) ? [key, `Shift+${key}`, `AltGraph+${key}`] : [key];
