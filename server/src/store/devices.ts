import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { Database } from '../db/database';
import { DeviceEntity } from '../db/entities';
import { notFound } from '../problem';
import { Listeners } from './listeners';

/** A device that was let in. */
export interface Device {
  id: string;
  name: string;
  createdAt: string;
  seenAt: string;
}

/** How often it is written down that a device was here, in ms. */
const SEEN_MS = 3_600_000;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Devices that gave the passcode once. Of their tokens only hashes are kept. */
export class DeviceStore {
  private readonly known = new Map<string, Device>();
  /** Tells by its id that a device is not let in any more: what it listens to is closed. */
  readonly withdrawn = new Listeners<true>();

  constructor(private readonly database: Database) {}

  /** Lets a device in. @returns the token that it shows from then on */
  async admit(name: string): Promise<{ token: string; device: Device }> {
    const token = randomBytes(32).toString('base64url');
    const now = new Date().toISOString();
    const device: Device = { id: randomUUID(), name, createdAt: now, seenAt: now };
    await this.database.write((manager) =>
      manager.insert(DeviceEntity, { ...device, tokenHash: hashOf(token) }),
    );
    return { token, device };
  }

  /** The device that shows a token; undefined when there is none, or its access was withdrawn. */
  async knows(token: string): Promise<Device | undefined> {
    const tokenHash = hashOf(token);
    const known = this.known.get(tokenHash);
    if (known) return this.saw(tokenHash, known);
    const row = await this.database.source.getRepository(DeviceEntity).findOneBy({ tokenHash });
    if (!row) return undefined;
    const { id, name, createdAt, seenAt } = row;
    return this.saw(tokenHash, { id, name, createdAt, seenAt });
  }

  /** The last seen first. */
  async list(): Promise<Device[]> {
    const rows = await this.database.source
      .getRepository(DeviceEntity)
      .find({ order: { seenAt: 'DESC', id: 'ASC' } });
    return rows.map(({ id, name, createdAt, seenAt }) => ({ id, name, createdAt, seenAt }));
  }

  /** From now on it is not let in. */
  async withdraw(id: string): Promise<void> {
    const { affected } = await this.database.write((manager) =>
      manager.delete(DeviceEntity, { id }),
    );
    for (const [hash, device] of this.known) if (device.id === id) this.known.delete(hash);
    this.withdrawn.say(id, true);
    if (affected === 0) throw notFound('device', id);
  }

  private async saw(tokenHash: string, device: Device): Promise<Device> {
    if (Date.now() - Date.parse(device.seenAt) < SEEN_MS) {
      this.known.set(tokenHash, device);
      return device;
    }
    const seenAt = new Date().toISOString();
    const seen = { ...device, seenAt };
    this.known.set(tokenHash, seen);
    await this.database.write((manager) =>
      manager.update(DeviceEntity, { id: device.id }, { seenAt }),
    );
    return seen;
  }
}
