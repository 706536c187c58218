'use server';

import QRCode from 'qrcode';
import { z } from 'zod';
import { listPairings, loadSession, makeCode, revokePairing } from '@/store';
import { AskedError, attempt, idSchema, taken, type ActionResult } from './asked';
import { deskRoot, lanAddresses } from './lan';

export interface PairedPhone {
  id: number;
  name: string;
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
  /** When it holds no more. */
  until: string;
  /** What a phone has to trust before it opens the address without a warning; `null` where it does already, or nothing is signed. */
  root: { address: string; fingerprint: string } | null;
}

/** Phones that are paired with a session's run sheet. */
export async function phonesAction(sessionId: string): Promise<PhonesOfSheet> {
  const phones = await listPairings(taken(idSchema, sessionId));
  return {
    lan: process.env.GLADE_LAN_PORT !== undefined,
    phones: phones.map(({ id, name, createdAt, seenAt }) => ({
      id,
      name,
      made: createdAt.toISOString(),
      seen: seenAt?.toISOString() ?? null,
    })),
  };
}

/** Makes a code that pairs one phone with a session's sheet, within ten minutes. */
export async function pairAction(
  sessionId: string,
): Promise<({ ok: true } & PairingCode) | { ok: false; error: string }> {
  return attempt(async () => {
    const id = taken(idSchema, sessionId);
    if (process.env.GLADE_LAN_PORT === undefined)
      throw new AskedError('Phones are not let in: start the desk with ./glade up --lan.');
    const hosts = lanAddresses();
    if (hosts.length === 0) throw new AskedError('This machine is on no network that a phone could be on.');
    await loadSession(id);
    const { code, until } = await makeCode(id);
    const [address, ...others] = hosts.map((host) => `${host}/pair/${code}`);
    const svg = await QRCode.toString(address, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
    const trusted = deskRoot();
    const root =
      trusted && trusted.addresses[0] ? { address: trusted.addresses[0], fingerprint: trusted.fingerprint } : null;
    return { address, others, svg, until: until.toISOString(), root };
  });
}

/** From now on a phone is not answered any more. */
export async function revokeAction(sessionId: string, id: number): Promise<ActionResult> {
  return attempt(() => revokePairing(taken(idSchema, sessionId), taken(z.number().int().positive(), id)));
}
