import { networkInterfaces } from 'node:os';

/** Addresses at which other devices of this network find this machine. */
export const localAddresses = (interfaces = networkInterfaces()): string[] =>
  Object.values(interfaces)
    .flatMap((all) => all ?? [])
    .filter(({ family, internal }) => family === 'IPv4' && !internal)
    .map(({ address }) => address);
