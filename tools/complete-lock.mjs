// npm run lock: completes package-lock.json after an install from a registry that lacks packages of other platforms.
// npm leaves those out of the lock file, and npm ci then refuses it everywhere. They are optional and never fetched on a
// platform that is not theirs: an entry with version, os and cpu is all that npm ci wants.
import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { root } from './lib.mjs';

const file = join(root, 'package-lock.json');
const lock = JSON.parse(readFileSync(file, 'utf8'));
const packages = lock.packages;

const SYSTEMS = [
  'darwin',
  'linux',
  'win32',
  'freebsd',
  'openbsd',
  'netbsd',
  'android',
  'sunos',
  'aix',
  'openharmony',
];
const PROCESSORS = [
  'arm64',
  'arm',
  'x64',
  'ia32',
  'ppc64',
  's390x',
  'riscv64',
  'loong64',
  'mips64el',
  'wasm32',
];
/** What a package of one platform is made for, as its name tells it. */
const platformOf = (name) => {
  const words = name.split(/[-/]/).flatMap((w) => (w === 'universal' ? [] : [w]));
  const libc = words.some((w) => w.startsWith('musl'))
    ? ['musl']
    : words.some((w) => w.startsWith('gnu'))
      ? ['glibc']
      : [];
  return {
    libc: words.includes('linux') ? libc : [],
    os: SYSTEMS.filter((s) => words.includes(s)),
    cpu: PROCESSORS.filter((c) =>
      words.some((w) => w === c || (c === 'arm' && w.startsWith('arm') && w !== 'arm64')),
    ),
  };
};

/** Where Node would look for a package from another one's folder, nearest first. */
function* places(from, name) {
  for (let at = from; ;) {
    yield `${at ? `${at}/` : ''}node_modules/${name}`;
    if (!at) return;
    const cut = at.lastIndexOf('node_modules/');
    at = cut <= 0 ? '' : at.slice(0, cut - 1);
  }
}

let added = 0;
for (const [path, entry] of Object.entries(packages)) {
  for (const [name, range] of Object.entries(entry.optionalDependencies ?? {})) {
    if ([...places(path, name)].some((place) => packages[place])) continue;
    const version = range.replace(/^[\^~>=v ]+/, '');
    const home = dirname(`${path}/x`).replace(/(^|\/)node_modules\/(@[^/]+\/)?[^/]+$/, '');
    const { os, cpu, libc } = platformOf(name);
    packages[`${home ? `${home}/` : ''}node_modules/${name}`] = {
      version,
      ...(cpu.length > 0 ? { cpu } : {}),
      ...(entry.dev ? { dev: true } : {}),
      ...(libc.length > 0 ? { libc } : {}),
      optional: true,
      ...(os.length > 0 ? { os } : {}),
    };
    added++;
  }
}
lock.packages = Object.fromEntries(Object.entries(packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} optional packages of other platforms added to package-lock.json`);
