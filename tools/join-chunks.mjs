import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { rolldown } from 'rolldown';

/** Rooms that must need a piece before it comes with the pieces that as many need: of nearly all, of several. */
const [NEARLY_ALL, SEVERAL] = [12, 4];
const OURS = /^(main|polyfills|chunk)-[A-Z0-9]{8}\.js$/;

/**
 * Joins the pieces that the build of the interface left: it makes one for each set of rooms that share something, a hundred for
 * a page, most of them smaller than what it costs to ask for them. What is needed first comes as one, what nearly all rooms
 * need as another, what several need as a third; what is left is a room's own. Wider ones never import narrower ones.
 *
 * @param folder with the built interface; its files are replaced, its page and its list for working with no network written anew
 * @param config of that list
 */
export async function joinChunks(folder, config) {
  const names = readdirSync(folder).filter((name) => OURS.test(name));
  const entries = names.filter((name) => !name.startsWith('chunk-'));
  const bundle = await rolldown({
    input: Object.fromEntries(entries.map((name) => [name.split('-')[0], resolve(folder, name)])),
    // What is left out at the end of its own files has been left out by the build.
    treeshake: false,
    logLevel: 'warn',
  });
  const { output } = await bundle.generate({
    entryFileNames: '[name]-[hash].js',
    chunkFileNames: 'chunk-[hash].js',
    hashCharacters: 'base36',
    minify: { mangle: false, compress: false },
    codeSplitting: {
      groups: [
        { name: 'first', test: isFirst(folder, entries), priority: 3 },
        { name: 'nearly-all', minShareCount: NEARLY_ALL, priority: 2 },
        { name: 'several', minShareCount: SEVERAL, priority: 1 },
      ],
    },
  });
  await bundle.close();
  for (const name of names) rmSync(join(folder, name));
  for (const { fileName, code } of output) writeFileSync(join(folder, fileName), code);
  writePage(folder, output);
  // It would name itself.
  rmSync(join(folder, 'ngsw.json'));
  execFileSync('npx', ['--no-install', 'ngsw-config', folder, config], { stdio: 'inherit' });
}

/** Whether a piece is needed before any room is; entries stay by themselves, as they begin one after the other. */
function isFirst(folder, entries) {
  const first = new Set();
  const add = (name) => {
    if (first.has(name)) return;
    first.add(name);
    const said = readFileSync(join(folder, name), 'utf8');
    for (const [, found] of said.matchAll(/(?:from|import)"\.\/(chunk-[A-Z0-9]{8}\.js)"/g))
      add(found);
  };
  entries.forEach(add);
  for (const name of entries) first.delete(name);
  const paths = new Set([...first].map((name) => resolve(folder, name)));
  return (id) => paths.has(id);
}

/** The page names its entries, and what they will ask for. */
function writePage(folder, output) {
  const path = join(folder, 'index.html');
  const entries = output.filter((chunk) => chunk.isEntry);
  const imported = [...new Set(entries.flatMap((chunk) => chunk.imports))];
  const scripts = [
    ...imported.map((name) => `<link rel="modulepreload" href="${name}">`),
    ...['polyfills', 'main'].map((entry) => {
      const { fileName } = entries.find((chunk) => chunk.name === entry);
      return `<script src="${fileName}" type="module"></script>`;
    }),
  ];
  const page = readFileSync(path, 'utf8')
    .replaceAll(/<link rel="modulepreload"[^>]*>/g, '')
    .replaceAll(/<script src="(main|polyfills)-[^>]*><\/script>/g, '');
  writeFileSync(path, page.replace('</body>', `${scripts.join('')}</body>`));
}

// `node tools/join-chunks.mjs FOLDER CONFIG` joins those of another build, for a test.
if (process.argv[1] === fileURLToPath(import.meta.url)) await joinChunks(...process.argv.slice(2));
