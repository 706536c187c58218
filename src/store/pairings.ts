/**
 * Phones that may tap on one run sheet. The desk shows a code that pairs one phone, once, within ten minutes; the phone gets a secret for it.
 * Of both only the hash is kept, and each phone can be revoked.
 */
import { createHash, randomBytes } from 'node:crypto';
import { Op } from 'sequelize';
import { store } from './database';

const hashOf = (secret: string) => createHash('sha256').update(secret).digest('hex');
const fresh = () => randomBytes(24).toString('base64url');

/** A code holds so long. */
export const CODE_MINUTES = 10;
/** Longest name of a phone. */
export const MOST_NAME = 60;

export interface Pairing {
  id: number;
  name: string;
  createdAt: Date;
  /** When the phone was last heard of. */
  seenAt: Date | null;
}

/** Makes a code for a session's run sheet; it can't be read again. */
export async function makeCode(sessionId: string, now = Date.now()): Promise<{ code: string; until: Date }> {
  const code = fresh();
  const until = new Date(now + CODE_MINUTES * 60_000);
  await store().models.Pairing.create({ sessionId, codeHash: hashOf(code), codeUntil: until });
  return { code, until };
}

const open = (code: string, now: number) => ({
  codeHash: hashOf(code),
  secretHash: null,
  revokedAt: null,
  codeUntil: { [Op.gt]: new Date(now) },
});

/** Whether a code holds still. */
export async function codeHolds(code: string, now = Date.now()): Promise<boolean> {
  return code.length <= 200 && (await store().models.Pairing.count({ where: open(code, now) })) > 0;
}

/** Pairs a phone: of two that ask by one code at the same moment one is let in. @returns its secret and sheet; `null` where the code doesn't hold */
export async function pairPhone(
  code: string,
  name: string,
  now = Date.now(),
): Promise<{ secret: string; session: string } | null> {
  if (code.length > 200) return null;
  const { Pairing } = store().models;
  const secret = fresh();
  const words = name.replace(/\s+/g, ' ').trim().slice(0, MOST_NAME);
  const [taken] = await Pairing.update(
    { secretHash: hashOf(secret), seenAt: new Date(now), ...(words === '' ? {} : { name: words }) },
    { where: open(code, now) },
  );
  if (taken === 0) return null;
  const session = await sessionOfSecret(secret);
  return session === null ? null : { secret, session };
}

/** Phones that are paired with a session. */
export async function listPairings(sessionId: string): Promise<Pairing[]> {
  const rows = await store().models.Pairing.findAll({
    where: { sessionId, revokedAt: null, secretHash: { [Op.ne]: null } },
    order: [['id', 'ASC']],
  });
  return rows.map(({ id, name, createdAt, seenAt }) => ({ id, name, createdAt, seenAt }));
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
