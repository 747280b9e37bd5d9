import { toString } from 'qrcode';
import { localAddresses } from './addresses';

/** Tells on the terminal where other devices find this server, with a picture of the address for a camera. */
export async function tellNetwork(
  scheme: string,
  port: number,
  passcode: string | undefined,
): Promise<void> {
  for (const address of localAddresses()) {
    const url = `${scheme}://${address}:${port}`;
    console.log(`Other devices: ${url}`);
    console.log(await toString(url, { type: 'terminal', small: true }));
  }
  if (passcode) console.log(`The passcode, once on each device: ${passcode}`);
}
