import type { Context } from 'hono';
import { getCookie } from 'hono/cookie';
import { streamSSE } from 'hono/streaming';
import { DEVICE_COOKIE } from '../security';
import type { Services } from './shared';

/** Ms between two signs of life on a line that says nothing. */
const BEAT_MS = 5000;

/**
 * An endless answer that says things as they happen, until nobody listens, all has been said, or the device that listens is
 * let in no more.
 * @param listen begins to listen; gives what stops it
 */
export async function streamOf(
  c: Context,
  { devices }: Pick<Services, 'devices'>,
  listen: (say: (event: string, data: string) => void, end: () => void) => (() => void)[],
): Promise<Response> {
  const token = getCookie(c, DEVICE_COOKIE);
  const device = token ? await devices.knows(token) : undefined;
  return streamSSE(c, async (stream) => {
    let end: () => void = () => undefined;
    const over = new Promise<void>((ended) => (end = ended));
    const say = (event: string, data: string): void => void stream.writeSSE({ event, data });
    const deaf = listen(say, end);
    if (device) deaf.push(devices.withdrawn.listen(device.id, end));
    const beat = setInterval(() => say('beat', ''), BEAT_MS);
    stream.onAbort(end);
    await stream.writeSSE({ event: 'open', data: '' });
    await over;
    clearInterval(beat);
    for (const stop of deaf) stop();
  });
}
