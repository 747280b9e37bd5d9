import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { type ActionReducer, createFeature, provideState, provideStore, Store } from '@ngrx/store';
import { ApiError } from '../api/client';
import type { DocumentKind, DocumentState, Stored } from './document';
import { documentActions } from './document.actions';
import { documentEffects } from './document.effects';
import { documentReducer } from './document.reducer';
import { Drafts } from './drafts';
import { News } from './news';
import { Subject } from 'rxjs';

/** A kind of document for the tests: lines of text. */
interface Lines {
  lines: string[];
}

const actions = documentActions<Lines, string>('Lines');
type LinesState = DocumentState<Lines, string>;
const reducer: ActionReducer<LinesState> = documentReducer(actions);
const feature = createFeature({ name: 'lines', reducer });

/** A server of some documents, as much of it as the effects speak to. */
class FakeServer implements DocumentKind<Lines, string> {
  merge?: (base: Lines, mine: Lines, theirs: Lines) => Lines | null;
  readonly name = 'lines';
  readonly versions: Record<string, Lines[]> = { a: [{ lines: ['first'] }], b: [{ lines: [] }] };
  away = false;
  refuses = false;
  /** Stores what it is sent, and then its answer is lost. */
  losesAnswer = false;
  writes = 0;
  /** What waits before an answer comes. */
  slow = Promise.resolve();

  parse(source: unknown): Lines {
    if (!Array.isArray((source as Lines).lines)) throw new Error('no lines');
    return source as Lines;
  }

  newest(id: string): Stored<Lines> {
    const all = this.versions[id]!;
    return { id, version: all.length, updatedAt: '', document: all.at(-1)! };
  }

  async read(id: string) {
    if (this.away) throw new ApiError(0, 'The server does not answer.');
    return { stored: this.newest(id), context: 'shown with this' };
  }

  async readVersion(id: string, version: number): Promise<Lines> {
    return this.versions[id]![version - 1]!;
  }

  async write({ id, version }: Stored<Lines>, document: Lines): Promise<Stored<Lines>> {
    await this.slow;
    if (this.away) throw new ApiError(0, 'The server does not answer.');
    this.writes++;
    if (this.refuses) throw new ApiError(422, '/lines: too many');
    if (version !== this.versions[id]!.length) {
      throw new ApiError(412, 'changed', { current: this.newest(id) });
    }
    this.versions[id]!.push(document);
    if (this.losesAnswer) throw new ApiError(0, 'The server does not answer.');
    return this.newest(id);
  }

  newer(refusal: unknown): Stored<Lines> | undefined {
    return refusal instanceof ApiError
      ? (refusal.body.current as Stored<Lines> | undefined)
      : undefined;
  }
}

/** Says that there is a newer version. */
let heard: Subject<number>;
let server: FakeServer;
let store: Store;
let drafts: Drafts;
const state = (): LinesState => store.selectSignal(feature.selectLinesState)();
const write = (...lines: string[]) => store.dispatch(actions.edit({ next: { lines } }));
const draftOf = (id: string) => drafts.find('lines', id, (source) => server.parse(source));

/** Lets timers and promises run until something holds. */
async function until(holds: () => boolean): Promise<void> {
  for (let i = 0; i < 400 && !holds(); i++) await jest.advanceTimersByTimeAsync(50);
  expect(holds()).toBe(true);
}

function begin(): void {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      { provide: News, useValue: { of: () => heard } },
      provideStore(),
      provideState(feature),
      provideEffects(
        documentEffects({ kind: () => server, actions, select: feature.selectLinesState }),
      ),
    ],
  });
  store = TestBed.inject(Store);
  drafts = TestBed.inject(Drafts);
}

/** Lines that only one side has changed are that side's; a line that both have changed somebody has to decide. */
const byLine = (base: Lines, mine: Lines, theirs: Lines): Lines | null => {
  const count = Math.max(...[base, mine, theirs].map((d) => d.lines.length));
  const lines: string[] = [];
  for (let i = 0; i < count; i++) {
    const [was, a, b] = [base, mine, theirs].map((d) => d.lines[i] ?? '') as [
      string,
      string,
      string,
    ];
    if (a !== was && b !== was && a !== b) return null;
    lines.push(a === was ? b : a);
  }
  return { lines };
};

beforeEach(() => {
  heard = new Subject();
  jest.useFakeTimers();
  localStorage.clear();
  sessionStorage.clear();
  server = new FakeServer();
  begin();
});
afterEach(() => jest.useRealTimers());

const open = async (id = 'a'): Promise<void> => {
  store.dispatch(actions.open({ id }));
  await until(() => state().present !== null);
};

describe('undo', () => {
  const type = (text: string) =>
    store.dispatch(actions.edit({ next: { lines: [text] }, gesture: 'words' }));

  it('takes back what was typed in one go, and not what was typed before a pause', async () => {
    await open();
    for (const text of ['a', 'ab', 'abc']) type(text);
    await jest.advanceTimersByTimeAsync(1000);
    for (const text of ['abcd', 'abcde']) type(text);
    store.dispatch(actions.undo());
    expect(state().present).toEqual({ lines: ['abc'] });
    store.dispatch(actions.undo());
    expect(state().present).toEqual({ lines: ['first'] });
  });

  it('of a drag that rests is one step', async () => {
    await open();
    store.dispatch(actions.edit({ next: { lines: ['a'] }, gesture: 'drag-7' }));
    await jest.advanceTimersByTimeAsync(1000);
    store.dispatch(actions.edit({ next: { lines: ['b'] }, gesture: 'drag-7' }));
    store.dispatch(actions.undo());
    expect(state().present).toEqual({ lines: ['first'] });
  });

  it('through many steps makes one version', async () => {
    await open();
    for (let i = 0; i < 20; i++) {
      write(`${i}`);
      await until(() => state().save.kind === 'saved');
    }
    const before = server.writes;
    for (let i = 0; i < 15; i++) {
      store.dispatch(actions.undo());
      await jest.advanceTimersByTimeAsync(600);
    }
    await until(() => state().save.kind === 'saved');
    expect(server.writes - before).toBe(1);
    expect(server.newest('a').document).toEqual({ lines: ['4'] });
  });
});

describe('what another window saves', () => {
  beforeEach(async () => {
    server.merge = byLine;
    server.versions['a'] = [{ lines: ['one', 'two', 'three'] }];
    begin();
    await open();
  });
  const elsewhere = (...lines: string[]) => server.versions['a']!.push({ lines });

  it('is here when it is heard of, and undo takes back only what was done here', async () => {
    write('mine', 'two', 'three');
    await until(() => state().save.kind === 'saved');
    elsewhere('mine', 'two', 'theirs');
    heard.next(3);
    await until(() => state().stored?.version === 3);
    expect(state().present).toEqual({ lines: ['mine', 'two', 'theirs'] });
    store.dispatch(actions.undo());
    expect(state().present).toEqual({ lines: ['one', 'two', 'theirs'] });
    await until(() => state().save.kind === 'saved');
    expect(server.newest('a').document).toEqual({ lines: ['one', 'two', 'theirs'] });
  });

  it('is looked for after a line that was cut, and is nothing when nothing is newer', async () => {
    elsewhere('one', 'two', 'theirs');
    heard.next(0);
    await until(() => state().stored?.version === 2);
    const before = state();
    heard.next(0);
    await jest.advanceTimersByTimeAsync(1000);
    expect(state()).toBe(before);
  });

  it('of something else is taken together with what is edited here, without a question', async () => {
    elsewhere('one', 'theirs', 'three');
    write('mine', 'two', 'three');
    await until(() => state().save.kind === 'saved');
    expect(server.newest('a')).toMatchObject({
      version: 3,
      document: { lines: ['mine', 'theirs', 'three'] },
    });
    expect(state().present).toEqual({ lines: ['mine', 'theirs', 'three'] });
  });

  it('of the same is asked', async () => {
    elsewhere('theirs', 'two', 'three');
    write('mine', 'two', 'three');
    await until(() => state().save.kind === 'conflict');
    expect(state().present).toEqual({ lines: ['mine', 'two', 'three'] });
  });

  it('while a draft waited is taken together with it when it is opened', async () => {
    store.dispatch(actions.close());
    drafts.keep('lines', 'a', { version: 1, document: { lines: ['mine', 'two', 'three'] } });
    elsewhere('one', 'two', 'theirs');
    await open();
    await until(() => state().save.kind === 'saved');
    expect(server.newest('a').document).toEqual({ lines: ['mine', 'two', 'theirs'] });
  });
});

describe('opening', () => {
  it('reads the document and what it is shown with', async () => {
    await open();
    expect(state()).toMatchObject({
      present: { lines: ['first'] },
      context: 'shown with this',
      save: { kind: 'saved' },
    });
  });

  it('says why it cannot', async () => {
    server.away = true;
    store.dispatch(actions.open({ id: 'a' }));
    await until(() => state().error !== null);
    expect(state().error).toBe('The server does not answer.');
  });

  it('is done as soon as the server is back, unless the document was left', async () => {
    server.away = true;
    store.dispatch(actions.open({ id: 'a' }));
    await until(() => state().error !== null);
    server.away = false;
    await until(() => state().present !== null);
    expect(state()).toMatchObject({ present: { lines: ['first'] }, error: null });
    server.away = true;
    store.dispatch(actions.open({ id: 'b' }));
    await until(() => state().error !== null);
    store.dispatch(actions.close());
    server.away = false;
    await jest.advanceTimersByTimeAsync(10_000);
    expect(state().present).toBeNull();
  });

  it('takes up what had not been saved, and saves it', async () => {
    drafts.keep('lines', 'a', { version: 1, document: { lines: ['kept'] } });
    await open();
    expect(state().present!.lines).toEqual(['kept']);
    await until(() => server.newest('a').document.lines[0] === 'kept');
    await until(() => state().save.kind === 'saved');
    expect(await draftOf('a')).toBeUndefined();
  });

  it('asks when somebody else went on meanwhile, and knows what both began from', async () => {
    drafts.keep('lines', 'a', { version: 1, document: { lines: ['mine'] } });
    server.versions['a']!.push({ lines: ['theirs'] });
    await open();
    await until(() => state().save.kind === 'conflict');
    expect(server.writes).toBe(0);
    expect(state().present!.lines).toEqual(['mine']);
    expect(state().stored).toMatchObject({ version: 1, document: { lines: ['first'] } });
  });
});

describe('saving', () => {
  it('gathers quick edits into one version, kept on this device at once', async () => {
    await open();
    for (const line of ['1', '2', '3']) write(line);
    expect((await draftOf('a'))!.document.lines).toEqual(['3']);
    await until(() => state().save.kind === 'saved');
    expect([server.writes, server.newest('a').version]).toEqual([1, 2]);
    expect(await draftOf('a')).toBeUndefined();
  });

  it('goes on with what was edited while it saved, one save at a time', async () => {
    await open();
    let answer = (): void => undefined;
    server.slow = new Promise((done) => (answer = done));
    write('1');
    await jest.advanceTimersByTimeAsync(400);
    write('1', '2');
    await jest.advanceTimersByTimeAsync(400);
    write('1', '2', '3');
    await jest.advanceTimersByTimeAsync(400);
    expect(state().save.kind).toBe('saving');
    answer();
    await until(() => state().save.kind === 'saved');
    expect(server.newest('a').document.lines).toEqual(['1', '2', '3']);
    expect(server.writes).toBe(2);
  });

  it('waits while the server is away, and tries again', async () => {
    await open();
    server.away = true;
    write('1');
    await until(() => state().save.kind === 'offline');
    write('1', '2');
    expect(state()).toMatchObject({ save: { kind: 'offline' }, changes: 2 });
    server.away = false;
    await until(() => state().save.kind === 'saved');
    expect(server.newest('a').document.lines).toEqual(['1', '2']);
  });

  it('says what the server refused, and keeps it', async () => {
    await open();
    server.refuses = true;
    write('1');
    await until(() => state().save.kind === 'refused');
    expect(state().save).toEqual({ kind: 'refused', message: '/lines: too many' });
    expect(await draftOf('a')).toBeDefined();
  });

  it('never writes over what is newer; the decision is saved on top of it', async () => {
    await open();
    server.versions['a']!.push({ lines: ['theirs'] });
    write('mine');
    await until(() => state().save.kind === 'conflict');
    expect(server.newest('a').version).toBe(2);
    const { save } = state();
    if (save.kind !== 'conflict') throw new Error('no conflict');
    const next = { lines: ['mine', 'theirs'] };
    store.dispatch(actions.resolveConflict({ next, theirs: save.theirs }));
    await until(() => state().save.kind === 'saved');
    expect(server.newest('a')).toMatchObject({ version: 3, document: next });
  });

  it('knows its own write again when only the answer was lost', async () => {
    await open();
    server.losesAnswer = true;
    write('1');
    await until(() => state().save.kind === 'offline');
    server.losesAnswer = false;
    await until(() => state().save.kind === 'saved');
    expect(server.newest('a')).toMatchObject({ version: 2, document: { lines: ['1'] } });
    expect(state().stored!.version).toBe(2);
  });
});

describe('leaving', () => {
  it('sends what was not saved yet, whatever is opened next', async () => {
    await open('a');
    write('last word');
    await open('b');
    await until(() => server.newest('a').document.lines[0] === 'last word');
    await until(() => localStorage.length === 0);
    expect(state()).toMatchObject({ id: 'b', present: { lines: [] }, save: { kind: 'saved' } });
  });

  it('sends it after the save that is under way, on top of that', async () => {
    await open('a');
    let answer = (): void => undefined;
    server.slow = new Promise((done) => (answer = done));
    write('1');
    await jest.advanceTimersByTimeAsync(400);
    write('1', '2');
    store.dispatch(actions.close());
    answer();
    await until(() => server.newest('a').version === 3);
    expect(server.newest('a').document.lines).toEqual(['1', '2']);
  });

  it('keeps it as a draft while the server is away', async () => {
    await open('a');
    server.away = true;
    write('1');
    store.dispatch(actions.close());
    await jest.advanceTimersByTimeAsync(5000);
    server.away = false;
    await open('a');
    expect(state().present!.lines).toEqual(['1']);
    await until(() => state().save.kind === 'saved');
  });
});
