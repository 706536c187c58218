/** Phones that may tap on one run sheet: each has a secret, of which only the hash is kept, and which can be revoked. */
import { createHash, randomBytes } from 'node:crypto';
import { store } from './database';

const hashOf = (secret: string) => createHash('sha256').update(secret).digest('hex');

export interface Pairing {
  id: number;
  createdAt: Date;
  /** When the phone was last heard of. */
  seenAt: Date | null;
}

/** Makes a secret for a session's run sheet; it can't be read again. */
export async function makePairing(sessionId: string): Promise<string> {
  const secret = randomBytes(24).toString('base64url');
  await store().models.Pairing.create({ sessionId, secretHash: hashOf(secret) });
  return secret;
}

/** Pairings of a session that hold. */
export async function listPairings(sessionId: string): Promise<Pairing[]> {
  const rows = await store().models.Pairing.findAll({
    where: { sessionId, revokedAt: null },
    order: [['id', 'ASC']],
  });
  return rows.map(({ id, createdAt, seenAt }) => ({ id, createdAt, seenAt }));
}

/** From now on the phone is not answered any more. */
export async function revokePairing(sessionId: string, id: number): Promise<void> {
  await store().models.Pairing.update({ revokedAt: new Date() }, { where: { sessionId, id } });
}

/** The session whose sheet a secret opens; `null` where it opens none. */
export async function sessionOfSecret(secret: string): Promise<string | null> {
  if (secret.length > 200) return null;
  const { Pairing, Session } = store().models;
  const row = await Pairing.findOne({ where: { secretHash: hashOf(secret), revokedAt: null } });
  if (!row) return null;
  const session = await Session.findOne({ where: { id: row.sessionId, deletedAt: null }, attributes: ['id'] });
  if (!session) return null;
  await Pairing.update({ seenAt: new Date() }, { where: { id: row.id } });
  return row.sessionId;
}
