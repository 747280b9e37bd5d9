import type { LiveMessage } from '@hurrel/core';

/** Whether a message is about the first sound and what runs on it. */
export function ofThePatch(message: LiveMessage): boolean {
  switch (message.type) {
    case 'graph':
    case 'turn':
    case 'tempo':
      return message.side === 'a';
    case 'run':
    case 'run-stop':
    case 'play':
    case 'stop':
    case 'queue':
    case 'mute':
    case 'band':
      return true;
    default:
      return false;
  }
}
