/** Where machines on the local network reach what they are let in to. */
import { networkInterfaces } from 'node:os';

/** Addresses of the gate, the likeliest first; none where the desk answers itself alone. */
export function lanAddresses(): string[] {
  const port = process.env.GLADE_LAN_PORT;
  if (!port) return [];
  return Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((one) => one.family === 'IPv4' && !one.internal)
    .map((one) => `http://${one.address}:${port}`);
}
