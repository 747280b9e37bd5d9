import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { isOld } from './newer-node.mjs';

/** A script that runs another one in its place, and what that one says. */
function standIn(script) {
  const tool = new URL('./newer-node.mjs', import.meta.url).href;
  const code = `import { runInstead } from '${tool}'; await runInstead(process.execPath, ['-e', ${JSON.stringify(script)}]);`;
  return spawn(process.execPath, ['--input-type=module', '-e', code], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
}

describe('a newer Node in place of an old one', () => {
  it('is asked for below 22', () => {
    expect(['18.20.0', '20.20.2', '22.0.0', '24.1.0', '100.0.0'].map(isOld)).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
  });

  it('ends as what it runs ends', async () => {
    expect(await once(standIn('process.exit(7)'), 'exit')).toEqual([7, null]);
  });

  it('hands on who wants it to stop, and waits until it has', async () => {
    const script = `process.on('SIGTERM', () => { console.log('put away'); process.exit(3); });
      setInterval(() => 0, 1000); console.log('runs');`;
    const child = standIn(script);
    let said = '';
    child.stdout.on('data', (data) => {
      said += data;
      if (said === 'runs\n') child.kill('SIGTERM');
    });
    expect(await once(child, 'close')).toEqual([3, null]);
    expect(said).toBe('runs\nput away\n');
  });
});
