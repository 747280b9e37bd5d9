const PRESSED = 'input[type="checkbox"], input[type="radio"]';

/** Whether keys belong to what is being written. */
export const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  target.matches('input, textarea, select, [contenteditable]') &&
  !target.matches(`${PRESSED}, input[type="range"]`);

/** Whether space and Enter belong to what has the focus. */
export const isPressable = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  target.matches(`button, a, [role="button"], summary, ${PRESSED}`);

/** Whether arrows belong to what has the focus. */
export const isSlid = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.matches('input[type="range"], input[type="radio"]');
