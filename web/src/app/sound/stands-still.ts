/** Milliseconds in which a machine's sound begins to run; longer, and it is said to stand still. */
export const BEGINS_WITHIN = 2000;

const HELD_BACK = 'The browser holds sound back: click on this page, or press a key.';
const NO_SOUND = 'This machine lets no sound out: look at what it plays to, then try again.';

/** Why a machine's sound does not run: a browser waits for a hand on the page, or nothing takes what is played. */
export const whyStill = (context: Pick<BaseAudioContext, 'state'>): string =>
  context.state === 'suspended' ? HELD_BACK : NO_SOUND;
