// Several files of tests in one: each would load the framework anew, which takes longer than most of what is tested there.
import { jest } from '@jest/globals';

const SAYING = ['beforeAll', 'beforeEach', 'afterAll', 'afterEach', 'describe', 'it', 'test'];

/**
 * One of Jest's functions, found when it is wanted, whose calls are kept for later; so are those of what hangs at it
 * (`it.each`, `describe.skip`).
 */
const later = (find, said) =>
  new Proxy(() => undefined, {
    apply: (_, __, args) => void said.push(() => find()(...args)),
    get: (_, part) =>
      part === 'each'
        ? (...table) => later(() => find().each(...table), said)
        : later(() => find()[part], said),
  });

/** Remembers the world as a file of tests finds it. Gives what puts it back, as if the next one had a page of its own. */
function worldAsFound() {
  const places = [globalThis, globalThis.document, globalThis.navigator].filter(Boolean);
  const found = places.map((place) => Object.getOwnPropertyDescriptors(place));
  return () => {
    jest.useRealTimers();
    jest.restoreAllMocks();
    places.forEach((place, i) => putBack(place, found[i]));
    globalThis.localStorage?.clear();
    globalThis.sessionStorage?.clear();
    globalThis.document?.body.replaceChildren();
  };
}

function putBack(place, found) {
  for (const name of Reflect.ownKeys(place)) {
    if (!Object.hasOwn(found, name)) delete place[name];
  }
  for (const name of Reflect.ownKeys(found)) {
    const is = Object.getOwnPropertyDescriptor(place, name);
    const was = found[name];
    const same = is && is.value === was.value && is.get === was.get && is.set === was.set;
    if (!same && (is?.configurable ?? true)) Object.defineProperty(place, name, was);
  }
}

/** Makes a file of tests one of a group: what it says stands below its name, its hooks are its own. */
export async function takeIn(name, load) {
  const own = Object.fromEntries(SAYING.map((saying) => [saying, globalThis[saying]]));
  const said = [];
  for (const saying of SAYING) {
    globalThis[saying] = later(() => globalThis[saying], said);
  }
  try {
    await load();
  } finally {
    Object.assign(globalThis, own);
  }
  describe(name, () => {
    let leaveNothing;
    beforeAll(() => {
      leaveNothing = worldAsFound();
    });
    for (const say of said) say();
    // Behind the file's own.
    afterAll(() => leaveNothing());
  });
}
