// npm run format: scripts by oxfmt, which is twenty times as fast, all else by Prettier, in one style; `--check` only looks.
import { fail, root, run } from './lib.mjs';

process.chdir(root);
const check = process.argv.includes('--check');
const npx = async (args) => {
  if ((await run('npx', ['--no-install', ...args])) !== 0) {
    throw new Error(check ? 'Formats differ: npm run format writes them.' : 'Not formatted.');
  }
};
try {
  await npx(['oxfmt', check ? '--check' : '--write', '**/*.{ts,mjs,cjs}', '!**/node_modules/**']);
  await npx([
    'prettier',
    check ? '--check' : '--write',
    '--log-level',
    'warn',
    '**/*.{html,scss,css,md,json,yml}',
  ]);
} catch (error) {
  fail(error);
}
