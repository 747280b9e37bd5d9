// Before what needs more than building and serving: installs the packages of checks and tests. `packages`: SQLite is not needed.
import { ensureInstalled, ensurePackages, fail } from './lib.mjs';

try {
  await (process.argv[2] === 'packages' ? ensurePackages() : ensureInstalled());
} catch (error) {
  fail(error);
}
