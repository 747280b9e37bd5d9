import { createRoute, z } from '@hono/zod-openapi';
import { getCookie, setCookie } from 'hono/cookie';
import { toString } from 'qrcode';
import type { Config } from '../config';
import { localAddresses } from '../network/addresses';
import { isLoopback } from '../config';
import { Problem } from '../problem';
import { DEVICE_COOKIE, type Door } from '../security';
import { body, idParam, json, router, type Services } from './shared';

const YEAR_S = 365 * 86_400;

const deviceSchema = z
  .object({
    id: z.string(),
    name: z.string(),
    createdAt: z.string(),
    seenAt: z.string(),
    /** Whether it is the one that asks. */
    here: z.boolean(),
  })
  .openapi('Device');
const networkSchema = z.object({
  /** Where other devices find this server, each with a picture of its address. */
  addresses: z.array(z.object({ url: z.string(), picture: z.string() })),
  /** Whether it answers over HTTPS, which is what keeps the application on a device. */
  secure: z.boolean(),
  /** Whether there is an authority that devices have to be told to trust. */
  authority: z.boolean(),
});

/** Devices of the band: let in by the passcode, listed, and shut out again; and where they find this server. */
export const deviceRoutes = (services: Services, config: Config, door: Door | undefined) =>
  router()
    .openapi(
      createRoute({
        method: 'post',
        path: '/devices',
        request: {
          body: body(
            z.strictObject({
              passcode: z.string().max(200),
              name: z.string().trim().min(1).max(60),
            }),
          ),
        },
        responses: json(z.object({ name: z.string() }), 'This device is let in'),
      }),
      async (c) => {
        const { passcode, name } = c.req.valid('json');
        if (!door) throw new Problem(409, 'Open', 'This server asks for no passcode.');
        if (!door.opens(c, passcode))
          throw new Problem(403, 'Refused', 'That is not the passcode of this server.');
        const { token } = await services.devices.admit(name);
        setCookie(c, DEVICE_COOKIE, token, {
          httpOnly: true,
          sameSite: 'Strict',
          secure: config.tls !== undefined,
          path: '/',
          maxAge: YEAR_S,
        });
        return c.json({ name }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/devices',
        responses: json(z.object({ items: z.array(deviceSchema) }), 'Devices, the last seen first'),
      }),
      async (c) => {
        const token = getCookie(c, DEVICE_COOKIE);
        const here = token ? await services.devices.knows(token) : undefined;
        const items = await services.devices.list();
        return c.json({ items: items.map((d) => ({ ...d, here: d.id === here?.id })) }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'delete',
        path: '/devices/{id}',
        request: { params: idParam },
        responses: json(z.object({}), 'It is not let in any more'),
      }),
      async (c) => {
        await services.devices.withdraw(c.req.valid('param').id);
        return c.json({}, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/network',
        responses: json(networkSchema, 'Where other devices find this server'),
      }),
      async (c) => {
        const secure = config.tls !== undefined;
        const port = new URL(c.req.url).port;
        const reached = isLoopback(config.host) ? [] : localAddresses();
        const addresses = await Promise.all(
          reached.map(async (address) => {
            const url = `${secure ? 'https' : 'http'}://${address}${port ? `:${port}` : ''}`;
            return { url, picture: await toString(url, { type: 'svg', margin: 1 }) };
          }),
        );
        return c.json({ addresses, secure, authority: config.tls?.authority !== undefined }, 200);
      },
    );

/** What devices have to trust, open to everybody: it is no secret. */
export const authorityRoute = (config: Config) =>
  router().get('/authority.pem', (c) => {
    const authority = config.tls?.authority;
    if (!authority)
      throw new Problem(404, 'Not found', 'This server has no certificate of its own making.');
    return c.body(authority, 200, {
      'content-type': 'application/x-x509-ca-cert',
      'content-disposition': 'attachment; filename="hurrel.pem"',
    });
  });
