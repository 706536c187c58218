/**
 * People who sign in where the application answers beyond this machine. Passwords are kept as scrypt hashes (RFC 7914), tokens as SHA-256.
 */
import { createHash, randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';
import { Op } from 'sequelize';
import pLimit from 'p-limit';
import { store } from './database';
import type { AccountModel, PasskeyModel } from './models';
import { ROLES, type Role, type Who } from './who';

/** Something about a person that can't be; the message is a sentence for people. */
export class AccountError extends Error {}

export interface Account {
  id: number;
  name: string;
  role: Role;
  createdAt: Date;
}

/** 128 MB and about half a second: the first of the settings that OWASP's password storage cheat sheet (2024) names for scrypt. */
const COST = { N: 2 ** 17, r: 8, p: 1 };
const HASH_BYTES = 32;
const MOST_MEMORY = 192 * 2 ** 20;
/** Each takes its memory while it runs: many who try at once wait for each other. */
const hashing = pLimit(2);

const scryptOf = (password: string, salt: Buffer, { N, r, p }: typeof COST) =>
  hashing(
    () =>
      new Promise<Buffer>((resolve, reject) => {
        const options: ScryptOptions = { N, r, p, maxmem: MOST_MEMORY };
        // One spelling of what looks alike (RFC 8265, opaque strings).
        scrypt(password.normalize('NFC'), salt, HASH_BYTES, options, (error, key) =>
          error ? reject(error) : resolve(key),
        );
      }),
  );

/** What is kept of a password: `scrypt$N$r$p$salt$hash`. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await scryptOf(password, salt, COST);
  return ['scrypt', COST.N, COST.r, COST.p, salt.toString('base64'), key.toString('base64')].join('$');
}

/** Whether a password is the one that was hashed; a hash that can't be read holds for none. */
export async function passwordHolds(password: string, hash: string): Promise<boolean> {
  const [kind, N, r, p, salt, key] = hash.split('$');
  if (kind !== 'scrypt' || key === undefined) return false;
  const cost = { N: Number(N), r: Number(r), p: Number(p) };
  if (!(cost.N <= COST.N && cost.r <= COST.r && cost.p <= COST.p)) return false;
  const found = await scryptOf(password, Buffer.from(salt, 'base64'), cost);
  const wanted = Buffer.from(key, 'base64');
  return wanted.length === found.length && timingSafeEqual(found, wanted);
}

/** Shortest password: NIST SP 800-63B-4 (2025), section 3.1.1.2, where it is the only factor. */
const LEAST_PASSWORD = 15;
const MOST_PASSWORD = 200;
const MOST_NAME = 60;

const keyOf = (name: string) => name.normalize('NFKC').toLowerCase();

function checkedPassword(password: string, name: string): void {
  if ([...password].length < LEAST_PASSWORD)
    throw new AccountError(
      `A password needs ${LEAST_PASSWORD} characters: four or five words that nobody would guess do.`,
    );
  if (password.length > MOST_PASSWORD) throw new AccountError(`A password has at most ${MOST_PASSWORD} characters.`);
  const rest = keyOf(password).replaceAll(keyOf(name), '');
  if (new Set(rest).size < 5)
    throw new AccountError('This password is too easy to guess: it is the name, or one thing over and over.');
}

export function roleOf(word: string): Role {
  const role = ROLES.find((one) => one === word);
  if (!role) throw new AccountError(`A role is one of ${ROLES.join(', ')}.`);
  return role;
}

const shown = ({ id, name, role, createdAt }: AccountModel): Account => ({ id, name, role: roleOf(role), createdAt });

/** Adds a person. @throws AccountError for a name that is taken or none, and for a weak password */
export async function addAccount(name: string, role: Role, password: string): Promise<Account> {
  const words = name.normalize('NFKC').replace(/\s+/g, ' ').trim();
  if (words === '' || words.length > MOST_NAME || /\p{C}/u.test(words))
    throw new AccountError(`A name has 1 to ${MOST_NAME} characters.`);
  checkedPassword(password, words);
  const { Account } = store().models;
  if (await Account.findOne({ where: { nameKey: keyOf(words) } }))
    throw new AccountError(`There is a “${words}” already.`);
  return shown(
    await Account.create({ name: words, nameKey: keyOf(words), role, passwordHash: await hashPassword(password) }),
  );
}

export async function listAccounts(): Promise<(Account & { seenAt: Date | null; passkeys: number })[]> {
  const { Account, SignIn, Passkey } = store().models;
  const [accounts, signIns, passkeys] = await Promise.all([
    Account.findAll({ order: [['name', 'ASC']] }),
    SignIn.findAll({ attributes: ['accountId', 'seenAt'] }),
    Passkey.findAll({ attributes: ['accountId'] }),
  ]);
  return accounts.map((one) => ({
    ...shown(one),
    seenAt: signIns
      .filter(({ accountId }) => accountId === one.id)
      .reduce<Date | null>((last, { seenAt }) => (last && last > seenAt ? last : seenAt), null),
    passkeys: passkeys.filter(({ accountId }) => accountId === one.id).length,
  }));
}

async function accountNamed(name: string): Promise<AccountModel> {
  const found = await store().models.Account.findOne({ where: { nameKey: keyOf(name.trim()) } });
  if (!found) throw new AccountError(`There is no “${name}”.`);
  return found;
}

/** The last owner stays one: else nobody could look after the rest. */
async function notTheLastOwner(one: AccountModel): Promise<void> {
  if (one.role !== 'owner') return;
  const others = await store().models.Account.count({ where: { role: 'owner', id: { [Op.ne]: one.id } } });
  if (others === 0) throw new AccountError(`“${one.name}” is the only owner; make another one first.`);
}

export async function changeRole(name: string, role: Role): Promise<void> {
  const one = await accountNamed(name);
  if (role !== 'owner') await notTheLastOwner(one);
  await one.update({ role });
}

/** Sets a new password, which ends all sign-ins but `kept`. */
export async function changePassword(name: string, password: string, kept: number | null = null): Promise<void> {
  const one = await accountNamed(name);
  checkedPassword(password, one.name);
  await one.update({ passwordHash: await hashPassword(password) });
  await store().models.SignIn.destroy({
    where: { accountId: one.id, ...(kept === null ? {} : { id: { [Op.ne]: kept } }) },
  });
}

/** Takes a person's account away, with passkeys and sign-ins; what they did stays in the record. */
export async function removeAccount(name: string): Promise<void> {
  const one = await accountNamed(name);
  await notTheLastOwner(one);
  await one.destroy();
}

let nobodysHash: Promise<string> | null = null;

/** The account whose name and password these are; else `null`, after the same time whether there is such a name or not. */
export async function accountOf(name: string, password: string): Promise<Account | null> {
  if (name.length > MOST_PASSWORD || password.length > MOST_PASSWORD) return null;
  const one = await store().models.Account.findOne({ where: { nameKey: keyOf(name.trim()) } });
  const hash = one?.passwordHash ?? (await (nobodysHash ??= hashPassword(randomBytes(16).toString('hex'))));
  return (await passwordHolds(password, hash)) && one ? shown(one) : null;
}

/** Signed in for at most so long, and so long after the last visit. */
const MOST_DAYS = 30;
const IDLE_DAYS = 7;
const DAY_MS = 86_400_000;
/** A visit is noted this often. */
const SEEN_MS = 60_000;

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** Signs a browser in. @returns its token, which can't be read again, and until when it holds at most */
export async function signIn(
  account: Account,
  address: string,
  browser: string,
  now = Date.now(),
): Promise<{ token: string; until: Date }> {
  const { SignIn } = store().models;
  await SignIn.destroy({ where: { [Op.or]: [{ until: { [Op.lt]: new Date(now) } }, { seenAt: { [Op.lt]: new Date(now - IDLE_DAYS * DAY_MS) } }] } }); // prettier-ignore
  const token = randomBytes(32).toString('base64url');
  const until = new Date(now + MOST_DAYS * DAY_MS);
  await SignIn.create({
    accountId: account.id,
    tokenHash: hashOf(token),
    address: address.slice(0, 60),
    browser: browser.slice(0, 120),
    seenAt: new Date(now),
    until,
  });
  return { token, until };
}

/** Who is signed in by a token; `null` where nobody is, or no longer. */
export async function signedIn(token: string, address: string, now = Date.now()): Promise<Who | null> {
  if (token.length > 100) return null;
  const { Account, SignIn } = store().models;
  const row = await SignIn.findOne({
    where: { tokenHash: hashOf(token), until: { [Op.gt]: new Date(now) }, seenAt: { [Op.gt]: new Date(now - IDLE_DAYS * DAY_MS) } },
  }); // prettier-ignore
  const account = row && (await Account.findByPk(row.accountId));
  if (!row || !account) return null;
  if (now - row.seenAt.getTime() > SEEN_MS) await SignIn.update({ seenAt: new Date(now) }, { where: { id: row.id } });
  return { account: account.id, signIn: row.id, name: account.name, role: roleOf(account.role), address };
}

/** Whether somebody was signed in to an account from an address lately. */
export async function knownAddress(name: string, address: string): Promise<boolean> {
  const { Account, SignIn } = store().models;
  const one = await Account.findOne({ where: { nameKey: keyOf(name.trim()) }, attributes: ['id'] });
  return one !== null && (await SignIn.count({ where: { accountId: one.id, address } })) > 0;
}

export interface SignedInBrowser {
  id: number;
  address: string;
  browser: string;
  createdAt: Date;
  seenAt: Date;
}

export async function signInsOf(accountId: number): Promise<SignedInBrowser[]> {
  const rows = await store().models.SignIn.findAll({ where: { accountId }, order: [['seenAt', 'DESC']] });
  return rows.map(({ id, address, browser, createdAt, seenAt }) => ({ id, address, browser, createdAt, seenAt }));
}

/** From now on that browser is asked again; only one's own can be ended. */
export async function endSignIn(accountId: number, id: number): Promise<void> {
  await store().models.SignIn.destroy({ where: { accountId, id } });
}

export interface Passkey {
  id: number;
  name: string;
  createdAt: Date;
  usedAt: Date | null;
}

/** A passkey as the library that checks it takes it. */
export interface KnownPasskey {
  account: Account;
  credentialId: string;
  publicKey: Uint8Array<ArrayBuffer>;
  counter: number;
  transports: string[];
}

const MOST_PASSKEYS = 20;

export async function passkeysOf(
  accountId: number,
): Promise<(Passkey & Pick<KnownPasskey, 'credentialId' | 'transports'>)[]> {
  const rows = await store().models.Passkey.findAll({ where: { accountId }, order: [['id', 'ASC']] });
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    createdAt: row.createdAt,
    usedAt: row.usedAt,
    credentialId: row.credentialId,
    transports: transportsOf(row),
  }));
}

const transportsOf = ({ transports }: PasskeyModel) => (transports === '' ? [] : transports.split(','));

export async function addPasskey(
  accountId: number,
  name: string,
  key: Pick<KnownPasskey, 'credentialId' | 'publicKey' | 'counter' | 'transports'>,
): Promise<void> {
  const { Passkey } = store().models;
  if ((await Passkey.count({ where: { accountId } })) >= MOST_PASSKEYS)
    throw new AccountError(`An account has at most ${MOST_PASSKEYS} passkeys; take one away first.`);
  await Passkey.create({
    accountId,
    credentialId: key.credentialId,
    publicKey: Buffer.from(key.publicKey),
    counter: key.counter,
    transports: key.transports.join(',').slice(0, 120),
    name: name.replace(/\s+/g, ' ').trim().slice(0, MOST_NAME) || 'A passkey',
  });
}

export async function passkeyOf(credentialId: string): Promise<KnownPasskey | null> {
  if (credentialId.length > 700) return null;
  const { Account, Passkey } = store().models;
  const row = await Passkey.findOne({ where: { credentialId } });
  const account = row && (await Account.findByPk(row.accountId));
  if (!row || !account) return null;
  const { counter, publicKey } = row;
  return { account: shown(account), credentialId, publicKey: Uint8Array.from(publicKey), counter: Number(counter), transports: transportsOf(row) }; // prettier-ignore
}

export async function passkeyUsed(credentialId: string, counter: number): Promise<void> {
  await store().models.Passkey.update({ counter, usedAt: new Date() }, { where: { credentialId } });
}

export async function removePasskey(accountId: number, id: number): Promise<void> {
  await store().models.Passkey.destroy({ where: { accountId, id } });
}

export interface Doing {
  name: string;
  method: string;
  path: string;
  times: number;
  firstAt: Date;
  lastAt: Date;
}

/** The same again within so long is counted, not written anew: an upload asks a hundred times. */
const SAME_MS = 10 * 60_000;
const MOST_DOINGS = 20_000;

/** Notes what somebody asked to be changed. */
export async function noteDoing({ account, name }: Who, method: string, path: string, now = Date.now()): Promise<void> {
  const { Doing } = store().models;
  const where = { accountId: account, method, path: path.slice(0, 200) };
  const at = new Date(now);
  const [counted] = await Doing.update(
    { times: store().sequelize.literal('times + 1') as unknown as number, lastAt: at },
    { where: { ...where, firstAt: { [Op.gt]: new Date(now - SAME_MS) } } },
  );
  if (counted > 0) return;
  const { id } = await Doing.create({ ...where, name, times: 1, firstAt: at, lastAt: at });
  await Doing.destroy({ where: { id: { [Op.lte]: id - MOST_DOINGS } } });
}

/** What was done last, newest first. */
export async function listDoings(most: number): Promise<Doing[]> {
  const rows = await store().models.Doing.findAll({ order: [['lastAt', 'DESC']], limit: most });
  return rows.map(({ name, method, path, times, firstAt, lastAt }) => ({ name, method, path, times, firstAt, lastAt }));
}
