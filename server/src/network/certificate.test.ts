import { X509Certificate } from 'node:crypto';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { createServer, request } from 'node:https';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { temporary } from '../testing/harness';
import { localAddresses } from './addresses';
import { secureFor } from './certificate';

describe('the certificate', () => {
  it('is trusted by who trusts its authority, and by nobody else', async () => {
    const secure = await secureFor(temporary(), ['localhost', '127.0.0.1']);
    const server = createServer(secure, (_, response) => response.end('in'));
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    const { port } = server.address() as AddressInfo;
    const ask = (ca?: string): Promise<string> =>
      new Promise((told) => {
        request({ host: '127.0.0.1', port, ...(ca ? { ca } : {}) }, (response) => {
          response.on('data', (data: Buffer) => told(data.toString()));
        })
          .on('error', (error: NodeJS.ErrnoException) => told(error.code ?? error.message))
          .end();
      });
    expect(await ask(secure.authority)).toBe('in');
    expect(await ask()).not.toBe('in');
    await new Promise((closed) => server.close(closed));
  });

  it('stays as it is, is made anew for other addresses, and its authority stays', async () => {
    const folder = temporary();
    const first = await secureFor(folder, ['localhost', '127.0.0.1']);
    expect(await secureFor(folder, ['localhost', '127.0.0.1'])).toEqual(first);
    const moved = await secureFor(folder, ['localhost', '192.168.7.9']);
    expect(moved.authority).toBe(first.authority);
    expect(moved.cert).not.toBe(first.cert);
    expect(new X509Certificate(moved.cert).checkIP('192.168.7.9')).toBe('192.168.7.9');
    // Whoever reads the key can be this server.
    expect(statSync(join(folder, 'authority.key')).mode & 0o077).toBe(0);
    expect(statSync(join(folder, 'server.key')).mode & 0o077).toBe(0);
  });

  it('that cannot be read is made anew', async () => {
    const folder = temporary();
    const first = await secureFor(folder, ['localhost']);
    writeFileSync(join(folder, 'server.pem'), 'nothing');
    const again = await secureFor(folder, ['localhost']);
    expect(again.authority).toBe(first.authority);
    expect(readFileSync(join(folder, 'server.pem'), 'utf8')).toBe(again.cert);
  });
});

it('finds the addresses that others can reach', () => {
  const one = (address: string, family: 'IPv4' | 'IPv6', internal: boolean) =>
    ({ address, family, internal }) as never;
  expect(
    localAddresses({
      lo: [one('127.0.0.1', 'IPv4', true)],
      wifi: [one('fe80::1', 'IPv6', false), one('192.168.7.9', 'IPv4', false)],
    }),
  ).toEqual(['192.168.7.9']);
});
