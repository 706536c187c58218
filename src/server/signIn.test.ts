/** Tries are counted by name and address; cookies are as browsers keep safe. */
import { COOKIE, SHOWN_COOKIE } from './door';
import { byPassword, forgetTries, NO_COOKIES, placeOf, proved } from './signIn';

let mockKnown: string[] = [];
const mockAccount = { id: 1, name: 'Ada', role: 'reviewer' as const, createdAt: new Date() };
let mockLooked = 0;
jest.mock('@/store', () => ({
  accountOf: async (name: string, password: string) => {
    mockLooked++;
    return password === 'right' ? { ...mockAccount, name } : null;
  },
  knownAddress: async (name: string, address: string) => mockKnown.includes(`${name} ${address}`),
  signIn: async () => ({ token: 'a-token', until: new Date('2026-06-13T09:00:00Z') }),
}));

const addresses = Array.from({ length: 40 }, (_, i) => `10.0.0.${i}`);
const tryAs = (name: string, password: string, address: string) =>
  byPassword({ name, password }, address, '').then(
    () => 'in',
    (error: Error & { status?: number }) => error.status,
  );

beforeEach(async () => {
  mockKnown = [];
  mockLooked = 0;
  const names = ['Ada', 'Bo', 'ada', 'bo', ...Array.from({ length: 45 }, (_, i) => `name ${i}`)];
  await forgetTries(...names, ...addresses, ...names.flatMap((name) => addresses.map((one) => `${name} ${one}`)));
});

test('what signs in are two cookies: one that scripts can’t read and https alone carries, one to show', async () => {
  const [own, shown] = await byPassword({ name: 'Ada', password: 'right' }, addresses[0], '');
  expect(own).toBe(`${COOKIE}=a-token; HttpOnly; Path=/; Secure; SameSite=Lax; Expires=Sat, 13 Jun 2026 09:00:00 GMT`);
  expect(shown).toContain(`${SHOWN_COOKIE}=%7B%22name%22%3A%22Ada%22%2C%22role%22%3A%22reviewer%22%7D;`);
  expect(shown).not.toContain('HttpOnly');
  for (const one of NO_COOKIES) expect(one).toMatch(/^(__Host-glade|glade_who)=; .*Secure.*Max-Age=0$/);
});

test('six tries of a name from an address, then it waits, right or wrong; another address is not kept out', async () => {
  for (let i = 0; i < 6; i++) expect(await tryAs('Ada', 'wrong', addresses[0])).toBe(401);
  expect(await tryAs('Ada', 'right', addresses[0])).toBe(429);
  expect(await tryAs(' ADA ', 'right', addresses[0])).toBe(429);
  expect(mockLooked).toBe(6);
  expect(await tryAs('Ada', 'right', addresses[1])).toBe('in');
  expect(await tryAs('Bo', 'right', addresses[0])).toBe('in');
});

test('many at once are no more than many in a row', async () => {
  const all = await Promise.all(Array.from({ length: 30 }, () => tryAs('Ada', 'wrong', addresses[0])));
  expect(all.filter((one) => one === 401)).toHaveLength(6);
});

test('going in begins the count anew', async () => {
  for (let round = 0; round < 3; round++) {
    for (let i = 0; i < 5; i++) await tryAs('Ada', 'wrong', addresses[0]);
    expect(await tryAs('Ada', 'right', addresses[0])).toBe('in');
  }
});

test('an address that tries many names waits', async () => {
  const all = [];
  for (let i = 0; i < 45; i++) all.push(await tryAs(`name ${i}`, 'wrong', addresses[0]));
  expect(all.filter((one) => one === 401)).toHaveLength(40);
});

test('who guesses a name from many addresses waits; whoever was signed in from theirs doesn’t', async () => {
  mockKnown = [`Ada ${addresses[39]}`];
  const all = [];
  for (const one of addresses.slice(0, 35)) all.push(await tryAs('Ada', 'wrong', one));
  expect(all.filter((one) => one === 401)).toHaveLength(30);
  expect(await tryAs('Ada', 'right', addresses[36])).toBe(429);
  expect(await tryAs('Ada', 'right', addresses[39])).toBe('in');
});

test('to prove a password once more is counted too', async () => {
  for (let i = 0; i < 6; i++) expect(await proved('Ada', 'wrong', addresses[0])).toBe(false);
  await expect(proved('Ada', 'right', addresses[0])).rejects.toThrow(/Try again in (9|10) minutes/);
  expect(await proved('Ada', 'right', addresses[1])).toBe(true);
});

test('passkeys hold for the name, and for the port that was asked', () => {
  const request = new Request('http://127.0.0.1/', { headers: { host: 'bench.local:8443' } });
  expect(placeOf(request)).toEqual({ name: 'bench.local', origin: 'https://bench.local:8443' });
});
