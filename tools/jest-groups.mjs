// Writes the files that hold groups of others. Where HURREL_GROUPS says how many, Jest runs those instead.
import fs, { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Other runs may be reading what is there already. */
function write(file, text) {
  if (!existsSync(file) || readFileSync(file, 'utf8') !== text) writeFileSync(file, text);
}

/**
 * Deals files of tests into groups.
 * @param {string} name of the project
 * @param {string[]} patterns of its files, from the project's root
 * @returns {string | null} the folder of the groups, or null where nobody asked for any
 */
export function groupsOf(name, patterns) {
  const count = Number(process.env.HURREL_GROUPS ?? 0);
  if (!(count > 0)) return null;
  const folder = join(root, '.cache', 'jest', 'groups', `${name}-${count}`);
  mkdirSync(folder, { recursive: true });
  // By the object: an old Node, which stands aside for a newer one, has no such export.
  const files = fs.globSync(patterns, { cwd: root }).sort();
  const from = (path) => JSON.stringify(join(root, path));
  for (let n = 0; n < count; n++) {
    const own = files.filter((_, i) => i % count === n);
    const lines = own.map((f) => `await takeIn(${JSON.stringify(f)}, () => import(${from(f)}));\n`);
    const head = `import { takeIn } from ${from('tools/jest-group.mjs')};\n`;
    write(join(folder, `group-${n + 1}.test.mjs`), head + lines.join(''));
  }
  return folder;
}
