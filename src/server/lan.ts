/** Where machines on the local network reach what they are let in to. */
import { X509Certificate } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';

/** Addresses of the gate, the likeliest first; none where the desk answers itself alone. */
export function lanAddresses(): string[] {
  const port = process.env.GLADE_LAN_PORT;
  if (!port) return [];
  const certified = certifiedName();
  if (certified !== null) return [`https://${certified}:${port}`];
  const scheme = process.env.GLADE_LAN_TLS ? 'https' : 'http';
  return networkAddresses().map((address) => `${scheme}://${address}:${port}`);
}

/** The name that a certificate which was given is for, its first one; of one for a whole domain this machine's name there. */
function certifiedName(): string | null {
  const path = process.env.GLADE_CERT;
  if (!path) return null;
  try {
    const { subjectAltName = '' } = new X509Certificate(readFileSync(/* turbopackIgnore: true */ path));
    const names = [...subjectAltName.matchAll(/DNS:([\w*.-]+)/g)].map(([, name]) => name);
    const name = names.find((one) => !one.startsWith('*')) ?? names[0];
    return name?.replace(/^\*/, hostname().split('.')[0].toLowerCase()) ?? null;
  } catch {
    return null;
  }
}

function networkAddresses(): string[] {
  return Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((one) => one.family === 'IPv4' && !one.internal)
    .map((one) => one.address);
}

export interface DeskRoot {
  /** SHA-256 of the certificate, as phones show it. */
  fingerprint: string;
  /** Where a phone fetches it, by plain http; none where this machine is on no network. */
  addresses: string[];
}

/** The root that signs this desk's addresses; `null` where it has none. */
export function deskRoot(): DeskRoot | null {
  const port = process.env.GLADE_TRUST_PORT;
  if (!port) return null;
  try {
    const folder = join(/* turbopackIgnore: true */ process.env.GLADE_VAR ?? 'var', 'tls');
    const { fingerprint256 } = new X509Certificate(readFileSync(join(folder, 'root.crt')));
    return { fingerprint: fingerprint256, addresses: networkAddresses().map((one) => `http://${one}:${port}`) };
  } catch {
    return null;
  }
}
