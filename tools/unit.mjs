// npm run test:unit: Jest over core and server, then over the interface. `--long` tries properties many times.
import './under-newer-node.mjs';
import { modules, propertySeed, run } from './lib.mjs';

const long = process.argv.includes('--long');
const args = process.argv.slice(2).filter((arg) => arg !== '--long');
const seed = String(propertySeed());
console.log(`Property tests run with HURREL_SEED=${seed}`);
for (const config of ['jest.config.mjs', 'web/jest.config.mjs']) {
  const code = await run('npx', ['--no-install', 'jest', '--config', config, ...args], {
    env: { ...modules, HURREL_SEED: seed, ...(long ? { HURREL_LONG: '1' } : {}) },
  });
  if (code !== 0) process.exit(code);
}
