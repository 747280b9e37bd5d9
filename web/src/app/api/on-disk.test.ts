import { jest } from '@jest/globals';
import * as fake from 'fake-indexeddb';
import { OnDisk } from './on-disk';

/** The application started, on a browser whose disk holds what it holds. */
const start = async (): Promise<OnDisk> => {
  const made = new OnDisk();
  await made.ready;
  return made;
};
const written = async (disk: OnDisk): Promise<void> => {
  while (disk.behind() > 0) await new Promise((done) => setTimeout(done));
};
/** A browser that is killed before it has written its quick store out. */
const killed = (store: Record<string, string> = {}): void => {
  localStorage.clear();
  for (const [key, text] of Object.entries(store)) localStorage.setItem(key, text);
};

beforeAll(() => {
  const { default: _, forceCloseDatabase: __, ...classes } = fake;
  Object.assign(globalThis, classes);
});
beforeEach(() => {
  globalThis.indexedDB = new fake.IDBFactory();
  localStorage.clear();
});

describe('what is kept on the disk', () => {
  it('is there again when the browser was killed, the last of each', async () => {
    const disk = await start();
    disk.put('hurrel.draft.patch.a.one', 'first');
    disk.put('hurrel.draft.patch.a.one', 'second');
    disk.put('hurrel.walk.w', 'ticks');
    expect(disk.behind()).toBe(2);
    await written(disk);
    killed({ 'hurrel.draft.patch.a.one': 'first' });
    await start();
    expect({ ...localStorage }).toEqual({
      'hurrel.draft.patch.a.one': 'second',
      'hurrel.walk.w': 'ticks',
    });
  });

  it('is what the browser holds, where a page was left before it was written', async () => {
    const disk = await start();
    const [a, b] = ['hurrel.draft.patch.a.one', 'hurrel.draft.patch.b.one'];
    for (const key of [a, b]) disk.put(key, 'first');
    await written(disk);
    await new Promise((done) => setTimeout(done, 5));
    disk.put(a, 'second');
    disk.remove(b);
    // Not a moment for the disk: this is what a page that comes next finds in the browser.
    const left = Object.fromEntries(Object.entries({ ...localStorage }));
    expect(Object.keys(left).some((key) => key.startsWith('hurrel.ahead.'))).toBe(true);
    globalThis.indexedDB = new fake.IDBFactory();
    killed();
    const before = await start();
    jest.spyOn(Date, 'now').mockReturnValue(1);
    for (const key of [a, b]) before.put(key, 'first');
    await written(before);
    jest.restoreAllMocks();
    killed(left);
    await start();
    expect([localStorage.getItem(a), localStorage.getItem(b)]).toEqual(['second', null]);
  });

  it('is what the disk holds, where the browser kept an older mark of being ahead', async () => {
    const disk = await start();
    disk.put('hurrel.walk.w', 'first');
    const old = { ...localStorage };
    await written(disk);
    await new Promise((done) => setTimeout(done, 5));
    disk.put('hurrel.walk.w', 'second');
    await written(disk);
    // The quick store as it was written out last: with the mark, and the older text.
    killed(old);
    await start();
    expect(localStorage.getItem('hurrel.walk.w')).toBe('second');
  });

  it('stays away when it was removed, though the browser still holds it', async () => {
    const disk = await start();
    disk.put('hurrel.draft.patch.a.one', 'mine');
    await written(disk);
    disk.remove('hurrel.draft.patch.a.one');
    await written(disk);
    killed({ 'hurrel.draft.patch.a.one': 'mine' });
    await start();
    expect(localStorage.length).toBe(0);
  });

  it('takes over what was kept before there was a disk, and nothing that is not its own', async () => {
    killed({ 'hurrel.draft.patch.a.one': 'old', 'hurrel.light': 'dark' });
    await start();
    killed();
    await start();
    expect({ ...localStorage }).toEqual({ 'hurrel.draft.patch.a.one': 'old' });
  });

  it('is said to be behind until it is committed', async () => {
    const disk = await start();
    disk.put('hurrel.walk.w', 'a');
    expect(disk.behind()).toBe(1);
    await written(disk);
    expect(disk.behind()).toBe(0);
    disk.remove('hurrel.nothing');
    expect(disk.behind()).toBe(0);
  });

  it('where there is none is told, and what the browser holds is still there', async () => {
    Reflect.deleteProperty(globalThis, 'indexedDB');
    const disk = await start();
    disk.put('hurrel.walk.w', 'a');
    expect(localStorage.getItem('hurrel.walk.w')).toBe('a');
    expect(disk.behind()).toBe(1);
  });
});
