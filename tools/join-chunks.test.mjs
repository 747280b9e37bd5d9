import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';

const ROOMS = 14;
const name = (kind, of) => `${kind}-${of.padEnd(8, 'X')}.js`;
const piece = (of) => name('chunk', of);

/** A build as it is left: rooms that are asked for later, over pieces that some, many or all of them need. */
function built(folder) {
  const write = (file, text) => writeFileSync(join(folder, file), text);
  write(piece('FIRST'), 'var a=["first"];export{a};');
  write(piece('ALL'), `import{a}from"./${piece('FIRST')}";var b=[...a,"all"];export{b};`);
  write(piece('SOME'), `import{b}from"./${piece('ALL')}";var c=[...b,"some"];export{c};`);
  write(piece('TWO'), `import{c as n}from"./${piece('SOME')}";var d=[...n,"two"];export{d};`);
  const rooms = Array.from({ length: ROOMS }, (_, i) => piece(`ROOM${i}`));
  rooms.forEach((room, i) => {
    const [from, what] = i < 2 ? ['TWO', 'd'] : i < 5 ? ['SOME', 'c'] : ['ALL', 'b'];
    write(room, `import{${what} as x}from"./${piece(from)}";var r=[...x,"room ${i}"];export{r};`);
  });
  write(name('polyfills', 'P'), `import"./${piece('FIRST')}";globalThis.before=true;`);
  const later = rooms.map((room) => `()=>import("./${room}")`).join(',');
  const worker = 'new URL("worker-ABCD1234.js",import.meta.url).href';
  write(
    name('main', 'M'),
    `import{a as s}from"./${piece('FIRST')}";export const rooms=[${later}],first=s,worker=()=>${worker};`,
  );
  write('worker-ABCD1234.js', 'alone');
  write('ngsw.json', '{}');
  write(
    'index.html',
    `<html><body><link rel="modulepreload" href="${piece('FIRST')}">` +
      `<script src="${name('polyfills', 'P')}" type="module"></script>` +
      `<script src="${name('main', 'M')}" type="module"></script></body></html>`,
  );
  const all = { name: 'all', resources: { files: ['/**'] } };
  write('config.json', JSON.stringify({ index: '/index.html', assetGroups: [all] }));
}

describe('the pieces of a built interface', () => {
  const folder = mkdtempSync(join(process.cwd(), '.cache/joined-'));
  const files = () => readdirSync(folder);
  beforeAll(() => {
    built(folder);
    const inside = relative(process.cwd(), folder);
    const asked = ['tools/join-chunks.mjs', inside, join(inside, 'config.json')];
    execFileSync('node', asked, { stdio: ['ignore', 'ignore', 'inherit'] });
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  const main = () =>
    import(
      join(
        folder,
        files().find((f) => f.startsWith('main-')),
      )
    );

  it('are fewer, and do what they did', async () => {
    const { rooms, first, worker } = await main();
    expect(first).toEqual(['first']);
    expect(worker()).toMatch(/\/worker-ABCD1234\.js$/);
    const said = [];
    for (const room of rooms) said.push((await room()).r.join(' '));
    expect(said[0]).toBe('first all some two room 0');
    expect(said[4]).toBe('first all some room 4');
    expect(said[ROOMS - 1]).toBe(`first all room ${ROOMS - 1}`);
    // First, nearly all, several, what two share, and the rooms.
    expect(files().filter((f) => f.startsWith('chunk-'))).toHaveLength(4 + ROOMS);
  });

  it('that are wide ask for none that is narrow', () => {
    const pieces = files().filter((f) => f.startsWith('chunk-'));
    const text = (file) => readFileSync(join(folder, file), 'utf8');
    const holds = (word) => pieces.find((f) => new RegExp(`["'\`]${word}["'\`]`).test(text(f)));
    const asks = (file) => text(file).match(/chunk-[a-z0-9]{8}\.js/g) ?? [];
    const [first, all, some, two] = ['first', 'all', 'some', 'two'].map(holds);
    expect(new Set([first, all, some, two]).size).toBe(4);
    expect(asks(first)).toEqual([]);
    for (const narrow of [some, two]) expect(asks(all)).not.toContain(narrow);
  });

  it('are named by the page and by the list for no network, and nothing else is', () => {
    const page = readFileSync(join(folder, 'index.html'), 'utf8');
    const named = [...page.matchAll(/(?:href|src)="([^"]+)"/g)].map((m) => m[1]);
    expect(named.map((n) => n.split('-')[0])).toEqual(['chunk', 'polyfills', 'main']);
    for (const file of named) expect(files()).toContain(file);
    const { hashTable } = JSON.parse(readFileSync(join(folder, 'ngsw.json'), 'utf8'));
    for (const [path, hash] of Object.entries(hashTable)) {
      const bytes = readFileSync(join(folder, path));
      expect([path, createHash('sha1').update(bytes).digest('hex')]).toEqual([path, hash]);
    }
    expect(Object.keys(hashTable)).toEqual(expect.arrayContaining(named.map((n) => `/${n}`)));
  });
});
