/** Whether keys belong to what is being written. */
export const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.matches('input, textarea, select, [contenteditable]');

/** Whether space and Enter belong to what has the focus. */
export const isPressable = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.matches('button, a, [role="button"], summary');
