const NAMES: Readonly<Record<string, string>> = {
  $mod: 'Ctrl',
  Shift: '⇧',
  Space: 'space',
  Enter: 'Enter',
  Escape: 'Esc',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  PageUp: 'PgUp',
  PageDown: 'PgDn',
  Delete: 'Del',
  Backspace: '⌫',
};

/** Keys as they are printed on a keyboard, from what tinykeys is told: `$mod+KeyZ` is Ctrl and Z. */
export const keyNames = (keys: string): string[] =>
  keys.split('+').map((key) => NAMES[key] ?? named(key));

const named = (key: string): string => {
  const code = /^(?:Key|Digit)(.)$/.exec(key)?.[1] ?? key;
  return code.length === 1 ? code.toUpperCase() : code;
};
