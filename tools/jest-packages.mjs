// Before tests of the interface: the packages they use as a few files. Each test file would load their hundreds of modules anew,
// which takes longer than most of what is tested there.
import { createHash } from 'node:crypto';
import { readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import coreAsOneFile from './jest-core.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const folder = join(root, '.cache', 'jest', 'packages');

/** Those that stay as they are: Node's and Jest's own, and what is one file already. */
const LEFT = /^(node:|@jest\/|jest-|@hurrel\/|comlink\/dist)/;
/** What Jest's preset for Angular imports by itself. */
const PRESET = [
  '@angular/core',
  '@angular/core/testing',
  '@angular/platform-browser/testing',
  '@angular/compiler',
];

/** All packages that the interface and its tests import, by the name that stands there. */
async function imported() {
  const names = new Set(PRESET);
  const collect = {
    name: 'collect',
    setup: ({ onResolve }) =>
      onResolve({ filter: /^[^.]/ }, ({ path, kind }) => {
        if (kind === 'entry-point') return undefined;
        if (!LEFT.test(path)) names.add(path);
        return { path, external: true };
      }),
  };
  await build({
    absWorkingDir: root,
    entryPoints: ['web/src/**/*.ts'],
    bundle: true,
    write: false,
    outdir: folder,
    loader: { '.html': 'empty', '.css': 'empty', '.scss': 'empty' },
    logLevel: 'error',
    plugins: [collect],
  });
  return [...names].sort();
}

/** What is there already, as it was told when it was made. */
const written = () => {
  try {
    return JSON.parse(readFileSync(join(folder, 'index.json'), 'utf8'));
  } catch {
    return null;
  }
};

/** Of each package, by the name that is imported, the file that stands for it. */
async function packagesAsFewFiles() {
  const names = await imported();
  const lock = readFileSync(join(root, 'package-lock.json'), 'utf8');
  const made = createHash('sha256')
    .update(JSON.stringify([names, lock]))
    .digest('hex');
  if (written()?.made === made) return;
  const slug = (name) => name.replace(/\W+/g, '_').replace(/^_/, '');
  const fresh = `${folder}.${process.pid}`;
  await build({
    absWorkingDir: root,
    // As seen from where they are imported.
    entryPoints: names.map((name) => ({ in: name, out: slug(name) })),
    outdir: fresh,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'browser',
    target: 'es2022',
    legalComments: 'none',
    logLevel: 'warning',
  });
  const files = Object.fromEntries(names.map((name) => [name, `${slug(name)}.mjs`]));
  writeFileSync(join(fresh, 'index.json'), JSON.stringify({ made, files }));
  rmSync(folder, { recursive: true, force: true });
  renameSync(fresh, folder);
}

export default async function prepare() {
  await Promise.all([coreAsOneFile(), packagesAsFewFiles()]);
}
