// npm run test:unit: Jest over core and server, then over the interface.
import { modules, run } from './lib.mjs';

const args = process.argv.slice(2);
for (const config of ['jest.config.mjs', 'web/jest.config.mjs']) {
  const code = await run('npx', ['--no-install', 'jest', '--config', config, ...args], {
    env: modules,
  });
  if (code !== 0) process.exit(code);
}
