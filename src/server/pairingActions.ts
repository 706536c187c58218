'use server';

import { networkInterfaces } from 'node:os';
import QRCode from 'qrcode';
import { z } from 'zod';
import { listPairings, loadSession, makePairing, revokePairing } from '@/store';
import { AskedError, attempt, idSchema, taken, type ActionResult } from './asked';

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
  const phones = await listPairings(taken(idSchema, sessionId));
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
export async function pairAction(
  sessionId: string,
): Promise<({ ok: true } & PairingCode) | { ok: false; error: string }> {
  return attempt(async () => {
    const id = taken(idSchema, sessionId);
    const port = process.env.GLADE_LAN_PORT;
    if (!port) throw new AskedError('Phones are not let in: start the desk with ./glade up --lan.');
    const hosts = Object.values(networkInterfaces())
      .flatMap((list) => list ?? [])
      .filter((one) => one.family === 'IPv4' && !one.internal)
      .map((one) => one.address);
    if (hosts.length === 0) throw new AskedError('This machine is on no network that a phone could be on.');
    await loadSession(id);
    const secret = await makePairing(id);
    const [address, ...others] = hosts.map((host) => `http://${host}:${port}/pair/${secret}`);
    const svg = await QRCode.toString(address, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
    return { address, others, svg };
  });
}

/** From now on a phone is not answered any more. */
export async function revokeAction(sessionId: string, id: number): Promise<ActionResult> {
  return attempt(() => revokePairing(taken(idSchema, sessionId), taken(z.number().int().positive(), id)));
}
