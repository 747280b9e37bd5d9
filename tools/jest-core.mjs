// Before tests of the server and the interface: the core as one file. Each of their files would load its four hundred modules
// anew, which takes longer than most of what is tested there.
import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const file = join(root, '.cache', 'jest', 'core.mjs');

const written = () => {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    return null;
  }
};

export default async function coreAsOneFile() {
  const { outputFiles } = await build({
    absWorkingDir: root,
    entryPoints: ['core/src/index.ts'],
    bundle: true,
    packages: 'external',
    platform: 'node',
    target: 'es2022',
    format: 'esm',
    write: false,
    logLevel: 'warning',
  });
  const [{ text }] = outputFiles;
  if (text === written()) return;
  mkdirSync(dirname(file), { recursive: true });
  // Two runs may begin at once: neither reads what the other has half written.
  writeFileSync(`${file}.${process.pid}`, text);
  renameSync(`${file}.${process.pid}`, file);
}
