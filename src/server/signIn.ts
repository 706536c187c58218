/** Signing in, where the application answers beyond this machine: tries are counted, passkeys are checked by the library made for them. */
import { randomBytes } from 'node:crypto';
import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type AuthenticatorTransportFuture,
  type RegistrationResponseJSON,
} from '@simplewebauthn/server';
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { accountOf, addPasskey, knownAddress, passkeyOf, passkeysOf, passkeyUsed, signIn, type Account } from '@/store';
import { COOKIE, cookieOf, SHOWN_COOKIE } from './door';
import { RequestError } from './http';

const ASKED_COOKIE = '__Host-glade-asked';

const MINUTE = 60;
const LIMITS = {
  /** Of one name from one address; then that address waits. */
  pair: { points: 6, duration: 10 * MINUTE, blockDuration: 10 * MINUTE },
  /** Of one address, whatever the names. */
  address: { points: 40, duration: 10 * MINUTE },
  /** Of one name from all addresses where nobody is signed in to it: who guesses from many can't lock out whoever has been there. */
  strangers: { points: 30, duration: 60 * MINUTE },
};
const MOST_ASKED = 1000;
const ASKED_MS = 5 * 60_000;

interface Shared {
  limits: Record<keyof typeof LIMITS, RateLimiterMemory>;
  asked: Map<string, { challenge: string; until: number }>;
}

// Each route is bundled by itself; what is counted is counted once.
const KEY = Symbol.for('aurora-glade.sign-in');
const held = globalThis as { [KEY]?: Shared };
const shared: Shared = (held[KEY] ??= {
  limits: {
    pair: new RateLimiterMemory({ keyPrefix: 'pair', ...LIMITS.pair }),
    address: new RateLimiterMemory({ keyPrefix: 'address', ...LIMITS.address }),
    strangers: new RateLimiterMemory({ keyPrefix: 'strangers', ...LIMITS.strangers }),
  },
  asked: new Map(),
});

/** Forgets what was counted: for tests. */
export async function forgetTries(...keys: string[]): Promise<void> {
  for (const limit of Object.values(shared.limits)) for (const key of keys) await limit.delete(key);
}

async function counted(limit: RateLimiterMemory, key: string): Promise<void> {
  try {
    await limit.consume(key);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    const minutes = Math.max(1, Math.ceil(error.msBeforeNext / 60_000));
    throw new RequestError(429, `Too many tries. Try again in ${minutes} minute${minutes === 1 ? '' : 's'}.`);
  }
}

/** Header lines of an answer that signs in. */
async function cookiesFor(account: Account, address: string, browser: string): Promise<string[]> {
  const { token, until } = await signIn(account, address, browser);
  const ends = `Path=/; Secure; SameSite=Lax; Expires=${until.toUTCString()}`;
  const { name, role } = account;
  return [
    `${COOKIE}=${token}; HttpOnly; ${ends}`,
    `${SHOWN_COOKIE}=${encodeURIComponent(JSON.stringify({ name, role }))}; ${ends}`,
  ];
}

/** Header lines that sign a browser out. */
export const NO_COOKIES = [COOKIE, SHOWN_COOKIE].map((name) => `${name}=; Path=/; Secure; SameSite=Lax; Max-Age=0`);

/**
 * Signs in by name and password. Tries are counted before they are looked at, so that many at once are no more than many in a row.
 *
 * @returns header lines of cookies
 * @throws RequestError 401 where they don't belong together, 429 after too many tries
 */
export async function byPassword(
  { name, password }: { name: string; password: string },
  address: string,
  browser: string,
): Promise<string[]> {
  const { pair, address: ofAddress, strangers } = shared.limits;
  const key = name.trim().toLowerCase().slice(0, 60);
  const stranger = !(await knownAddress(name, address));
  await counted(ofAddress, address);
  await counted(pair, `${key} ${address}`);
  if (stranger) await counted(strangers, key);
  const account = await accountOf(name, password);
  if (!account) throw new RequestError(401, 'Name and password don’t belong together.');
  await pair.delete(`${key} ${address}`);
  await ofAddress.reward(address);
  if (stranger) await strangers.reward(key);
  return cookiesFor(account, address, browser);
}

/** Where passkeys are asked for: they hold for one name alone (WebAuthn's relying party). */
interface Place {
  /** Without port. */
  name: string;
  origin: string;
}

/** The place that a request came to; the door let in no other name than the one that it was started for. */
export function placeOf(request: Request): Place {
  const host = request.headers.get('host') ?? '';
  return { name: host.replace(/:\d+$/, ''), origin: `https://${host}` };
}

function remember(challenge: string): string {
  const now = Date.now();
  for (const [id, { until }] of shared.asked) {
    if (until > now && shared.asked.size < MOST_ASKED) break;
    shared.asked.delete(id);
  }
  const id = randomBytes(16).toString('base64url');
  shared.asked.set(id, { challenge, until: now + ASKED_MS });
  return `${ASKED_COOKIE}=${id}; Path=/; Secure; HttpOnly; SameSite=Strict; Max-Age=${ASKED_MS / 1000}`;
}

/** What was asked of this browser, once. */
function remembered(request: Request): string {
  const id = cookieOf(request.headers.get('cookie'), ASKED_COOKIE);
  const found = id === null ? undefined : shared.asked.get(id);
  if (id !== null) shared.asked.delete(id);
  if (!found || found.until < Date.now()) throw new RequestError(400, 'That took too long. Try again.');
  return found.challenge;
}

/** What a browser is asked to sign in with a passkey. */
export async function askForPasskey(request: Request, address: string): Promise<{ options: object; cookie: string }> {
  await counted(shared.limits.address, address);
  const options = await generateAuthenticationOptions({ rpID: placeOf(request).name, userVerification: 'required' });
  return { options, cookie: remember(options.challenge) };
}

/** Signs in by what the browser answered. @throws RequestError 401 for what doesn't hold */
export async function byPasskey(
  request: Request,
  response: AuthenticationResponseJSON,
  address: string,
  browser: string,
): Promise<string[]> {
  await counted(shared.limits.address, address);
  const challenge = remembered(request);
  const known = await passkeyOf(response.id);
  const refused = new RequestError(401, 'This passkey opens nothing here.');
  if (!known) throw refused;
  const { credentialId, publicKey, counter, transports, account } = known;
  const { name, origin } = placeOf(request);
  const { verified, authenticationInfo } = await verifyAuthenticationResponse({
    response,
    expectedChallenge: challenge,
    expectedOrigin: origin,
    expectedRPID: name,
    requireUserVerification: true,
    credential: { id: credentialId, publicKey, counter, transports: transports as AuthenticatorTransportFuture[] },
  }).catch(() => ({ verified: false as const, authenticationInfo: null }));
  if (!verified || !authenticationInfo) throw refused;
  await passkeyUsed(credentialId, authenticationInfo.newCounter);
  await shared.limits.address.reward(address, 2);
  return cookiesFor(account, address, browser);
}

/** What a browser is asked to make a new passkey. */
export async function askForNewPasskey(
  request: Request,
  account: Pick<Account, 'id' | 'name'>,
): Promise<{ options: object; cookie: string }> {
  const known = await passkeysOf(account.id);
  const options = await generateRegistrationOptions({
    rpName: 'Aurora Glade',
    rpID: placeOf(request).name,
    userName: account.name,
    userID: new TextEncoder().encode(`glade ${account.id}`),
    attestationType: 'none',
    excludeCredentials: known.map(({ credentialId, transports }) => ({
      id: credentialId,
      transports: transports as AuthenticatorTransportFuture[],
    })),
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  });
  return { options, cookie: remember(options.challenge) };
}

/** Keeps the passkey that a browser made. @throws RequestError where it doesn't hold */
export async function keepNewPasskey(
  request: Request,
  accountId: number,
  name: string,
  response: RegistrationResponseJSON,
): Promise<void> {
  const { name: place, origin } = placeOf(request);
  const { verified, registrationInfo } = await verifyRegistrationResponse({
    response,
    expectedChallenge: remembered(request),
    expectedOrigin: origin,
    expectedRPID: place,
    requireUserVerification: true,
  }).catch(() => ({ verified: false as const, registrationInfo: undefined }));
  if (!verified || !registrationInfo)
    throw new RequestError(400, 'This passkey could not be checked. Nothing was kept.');
  const { id, publicKey, counter, transports } = registrationInfo.credential;
  await addPasskey(accountId, name, { credentialId: id, publicKey, counter, transports: transports ?? [] });
}

/** Whether somebody who is signed in knows their password still; tries are counted like those of signing in. */
export async function proved(name: string, password: string, address: string): Promise<boolean> {
  const key = `${name.toLowerCase()} ${address}`;
  await counted(shared.limits.pair, key);
  const account = await accountOf(name, password);
  if (account) await shared.limits.pair.delete(key);
  return account !== null;
}
