// npm run test:unit: Jest over core and server, then over the interface, which needs Node's ES modules.
import { run } from './lib.mjs';

const args = process.argv.slice(2);
const plain = await run('npx', ['--no-install', 'jest', '--config', 'jest.config.mjs', ...args]);
if (plain !== 0) process.exit(plain);
process.exit(
  await run('npx', ['--no-install', 'jest', '--config', 'web/jest.config.mjs', ...args], {
    env: { NODE_OPTIONS: '--experimental-vm-modules --no-warnings' },
  }),
);
