'use server';

import { networkInterfaces } from 'node:os';
import QRCode from 'qrcode';
import { listPairings, loadSession, makePairing, revokePairing } from '@/store';

export interface PairedPhone {
  id: number;
  made: string;
  seen: string | null;
}

export interface PhonesOfSheet {
  /** Whether the desk answers on the local network at all. */
  lan: boolean;
  phones: PairedPhone[];
}

export interface PairingCode {
  address: string;
  /** The address as a QR code, SVG. */
  svg: string;
  /** Other addresses of this machine, where phones are on another network. */
  others: string[];
}

/** Phones that are paired with a session's run sheet. */
export async function phonesAction(sessionId: string): Promise<PhonesOfSheet> {
  const phones = await listPairings(sessionId);
  return {
    lan: process.env.GLADE_LAN_PORT !== undefined,
    phones: phones.map(({ id, createdAt, seenAt }) => ({
      id,
      made: createdAt.toISOString(),
      seen: seenAt?.toISOString() ?? null,
    })),
  };
}

/** Makes a code that pairs one phone, or several that scan it, with a session's sheet. */
export async function pairAction(sessionId: string): Promise<PairingCode | { error: string }> {
  const port = process.env.GLADE_LAN_PORT;
  if (!port) return { error: 'Phones are not let in: start the desk with ./glade up --lan.' };
  const hosts = Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((one) => one.family === 'IPv4' && !one.internal)
    .map((one) => one.address);
  if (hosts.length === 0) return { error: 'This machine is on no network that a phone could be on.' };
  await loadSession(sessionId);
  const secret = await makePairing(sessionId);
  const [address, ...others] = hosts.map((host) => `http://${host}:${port}/pair/${secret}`);
  return {
    address,
    others,
    svg: await QRCode.toString(address, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' }),
  };
}

/** From now on a phone is not answered any more. */
export async function revokeAction(sessionId: string, id: number): Promise<void> {
  await revokePairing(sessionId, id);
}
