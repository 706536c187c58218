/** Accounts, their passwords, sign-ins, passkeys and the record of what was done. */
import { scryptSync } from 'node:crypto';
import {
  accountOf, actingAs, addAccount, addPasskey, changePassword, changeRole, closeStore, createSession, editSession, endSignIn, hashPassword,
  knownAddress, listAccounts, listDoings, listRevisions, noteDoing, passkeyOf, passkeysOf, passkeyUsed, passwordHolds, removeAccount, removePasskey,
  roleOf, signedIn, signIn, signInsOf, who, type Who,
} from '.'; // prettier-ignore
import { store } from './database';
import { freshDatabase } from './testing';

const PASSWORD = 'quarry lamps hum at dusk';
const DAY = 86_400_000;
const DOCUMENT = { format: 'aurora-glade-session', version: 1, kits: [], scenes: [], takes: [] };
const ADDRESS = '192.168.1.7';

beforeAll(() => freshDatabase('glade_accounts'), 600_000);
afterAll(closeStore);
beforeEach(async () => {
  await store().models.Account.destroy({ where: {} });
  await store().models.Doing.destroy({ where: {} });
});

describe('passwords', () => {
  test('a hash tells its costs and salt, is scrypt of them, and holds for its own password alone', async () => {
    const hash = await hashPassword(PASSWORD);
    const [kind, N, r, p, salt, key] = hash.split('$');
    expect([kind, N, r, p]).toEqual(['scrypt', '131072', '8', '1']);
    const own = scryptSync(PASSWORD, Buffer.from(salt, 'base64'), 32, { N: 131072, r: 8, p: 1, maxmem: 2 ** 28 });
    expect(own.toString('base64')).toBe(key);
    expect(await hashPassword(PASSWORD)).not.toBe(hash);
    expect(await passwordHolds(PASSWORD, hash)).toBe(true);
    expect(await passwordHolds(`${PASSWORD} `, hash)).toBe(false);
  });

  test('a hash that would take more memory or time than ours is not looked at', async () => {
    const text = ['scrypt', 1024, 8, 16, Buffer.from('NaCl').toString('base64'), 'AAAA'].join('$');
    expect(await passwordHolds('password', text)).toBe(false);
  });

  test.each(['', 'plain', 'scrypt$x$8$1$AA==$AA==', 'scrypt$1073741824$8$1$AA==$AA==', 'scrypt$16384$8$1$AA==$'])(
    'what can’t be read holds for none: %j',
    async (hash) => expect(await passwordHolds('', hash)).toBe(false),
  );

  test.each([
    ['fourteen chars', 'needs 15 characters'],
    ['a'.repeat(40), 'too easy'],
    ['Ada Ada Ada Ada Ada', 'too easy'],
    ['x'.repeat(201), 'at most 200'],
  ])('%j is refused', (password, words) =>
    expect(addAccount('Ada', 'owner', password)).rejects.toThrow(new RegExp(words)),
  );

  test('what is composed in two ways is one password', async () => {
    await addAccount('Zoë', 'reader', 'fa\u0301cil de olvidar hoy');
    expect((await accountOf('zoe\u0308', 'f\u00e1cil de olvidar hoy'))?.name).toBe('Zoë');
  });
});

test('names are compared without case, and their blanks are one; roles are three', async () => {
  await addAccount('  Ada   Reed ', 'owner', PASSWORD);
  await expect(addAccount('ada reed', 'reader', PASSWORD)).rejects.toThrow('already');
  await expect(addAccount('a\u0000b', 'reader', PASSWORD)).rejects.toThrow('characters');
  expect((await accountOf('ADA REED', PASSWORD))?.role).toBe('owner');
  expect(await accountOf('ada reed', 'another password that is long')).toBeNull();
  expect(await accountOf('nobody', PASSWORD)).toBeNull();
  expect(() => roleOf('king')).toThrow('owner, reviewer, reader');
});

test('the last owner can’t be taken away or made less; another one sets them free', async () => {
  await addAccount('Ada', 'owner', PASSWORD);
  await expect(removeAccount('Ada')).rejects.toThrow('only owner');
  await expect(changeRole('Ada', 'reader')).rejects.toThrow('only owner');
  await addAccount('Bo', 'reader', PASSWORD);
  await changeRole('bo', 'owner');
  await changeRole('Ada', 'reader');
  expect((await listAccounts()).map(({ name, role }) => [name, role])).toEqual([
    ['Ada', 'reader'],
    ['Bo', 'owner'],
  ]);
  await expect(removeAccount('Cy')).rejects.toThrow('There is no “Cy”');
});

describe('sign-ins', () => {
  test('a token opens until it is ended, is idle for a week, or a month old; only its hash is kept', async () => {
    const account = await addAccount('Ada', 'reviewer', PASSWORD);
    const now = Date.UTC(2026, 4, 14);
    const { token, until } = await signIn(account, ADDRESS, 'A browser', now);
    expect(until.getTime() - now).toBe(30 * DAY);
    const [{ tokenHash }] = await store().models.SignIn.findAll();
    expect(tokenHash).not.toContain(token);
    expect(await signedIn(token, ADDRESS, now)).toMatchObject({ name: 'Ada', role: 'reviewer', account: account.id });
    expect(await signedIn(`${token}x`, ADDRESS, now)).toBeNull();
    // Each visit begins the week anew; the month ends all the same.
    for (let day = 6; day < 30; day += 6) expect(await signedIn(token, ADDRESS, now + day * DAY)).not.toBeNull();
    expect(await signedIn(token, ADDRESS, now + 30 * DAY + 1)).toBeNull();
    const idle = await signIn(account, ADDRESS, '', now);
    expect(await signedIn(idle.token, ADDRESS, now + 7 * DAY + 1)).toBeNull();
  });

  test('ended ones open no more, and nobody ends another’s; a role that changes holds at once', async () => {
    const [ada, bo] = [await addAccount('Ada', 'owner', PASSWORD), await addAccount('Bo', 'owner', PASSWORD)];
    const { token } = await signIn(ada, ADDRESS, '');
    const [{ id }] = await signInsOf(ada.id);
    await endSignIn(bo.id, id);
    await changeRole('Ada', 'reader');
    expect((await signedIn(token, ADDRESS))?.role).toBe('reader');
    await endSignIn(ada.id, id);
    expect(await signedIn(token, ADDRESS)).toBeNull();
  });

  test('another password ends all but the one that changed it; a removed account opens nothing', async () => {
    const ada = await addAccount('Ada', 'reader', PASSWORD);
    const [kept, other] = [await signIn(ada, ADDRESS, ''), await signIn(ada, '10.0.0.1', '')];
    expect(await knownAddress('ada', '10.0.0.1')).toBe(true);
    const own = (await signedIn(kept.token, ADDRESS))!.signIn;
    await changePassword('Ada', 'nine grey cards in a row', own);
    expect(await signedIn(kept.token, ADDRESS)).not.toBeNull();
    expect(await signedIn(other.token, ADDRESS)).toBeNull();
    expect(await knownAddress('ada', '10.0.0.1')).toBe(false);
    expect(await accountOf('Ada', PASSWORD)).toBeNull();
    await removeAccount('Ada');
    expect(await signedIn(kept.token, ADDRESS)).toBeNull();
  });
});

test('a passkey is found by its credential, counts its uses, and goes with nobody else’s asking', async () => {
  const [ada, bo] = [await addAccount('Ada', 'reader', PASSWORD), await addAccount('Bo', 'reader', PASSWORD)];
  const publicKey = Uint8Array.from([1, 2, 250]);
  await addPasskey(ada.id, '  My   laptop ', {
    credentialId: 'aB-_9',
    publicKey,
    counter: 4,
    transports: ['internal', 'usb'],
  });
  expect(await passkeyOf('aB-_9')).toMatchObject({ account: { name: 'Ada' }, publicKey, counter: 4, transports: ['internal', 'usb'] }); // prettier-ignore
  // Credentials differ by case.
  expect(await passkeyOf('ab-_9')).toBeNull();
  await passkeyUsed('aB-_9', 5);
  const [{ id, name, usedAt }] = await passkeysOf(ada.id);
  expect([name, usedAt === null, (await passkeyOf('aB-_9'))!.counter]).toEqual(['My laptop', false, 5]);
  await removePasskey(bo.id, id);
  expect(await passkeysOf(ada.id)).toHaveLength(1);
  await removePasskey(ada.id, id);
  expect(await passkeyOf('aB-_9')).toBeNull();
});

describe('who did what', () => {
  test('at the desk nobody is asked; in somebody’s name all that was begun is theirs, side by side', async () => {
    expect(who()).toMatchObject({ account: null, role: 'owner' });
    const as = (name: string) => ({ account: 1, signIn: 1, name, role: 'reader' as const, address: ADDRESS });
    const names = await Promise.all(
      ['Ada', 'Bo'].map((name) =>
        actingAs(as(name), async () => {
          await new Promise((done) => setTimeout(done, 5));
          return who().name;
        }),
      ),
    );
    expect(names).toEqual(['Ada', 'Bo']);
  });

  test('a reader’s request writes nothing, whatever code it reaches, but signs in and out', async () => {
    const id = await createSession(DOCUMENT, new Map());
    const ada = await addAccount('Ada', 'reader', PASSWORD);
    const reader: Who = { account: ada.id, signIn: 1, name: 'Ada', role: 'reader', address: ADDRESS };
    const tries: (() => Promise<unknown>)[] = [
      () => editSession(id, (old) => ({ ...old, title: 'Hers' })),
      () => createSession(DOCUMENT, new Map()),
      () => store().models.Setting.upsert({ name: 'weights', data: {} }),
      () => store().sequelize.query('/* */ DELETE FROM sessions'),
      () => store().sequelize.query('TRUNCATE doings'),
    ];
    for (const one of tries) await expect(actingAs(reader, one)).rejects.toThrow('a reader’s');
    expect(await listRevisions(id)).toEqual([]);
    const { token } = await actingAs(reader, () => signIn(ada, ADDRESS, ''));
    expect(await actingAs(reader, () => signedIn(token, ADDRESS))).not.toBeNull();
    const reviewer: Who = { ...reader, role: 'reviewer' };
    await actingAs(reviewer, () => listRevisions(id));
    expect(reviewer.wrote).toBeUndefined();
    await actingAs(reviewer, () => editSession(id, (old) => ({ ...old, title: 'Theirs' })));
    expect(reviewer.wrote).toBe(true);
  });

  test('a revision is signed by whoever made it', async () => {
    const id = await createSession(
      { format: 'aurora-glade-session', version: 1, kits: [], scenes: [], takes: [] },
      new Map(),
    );
    const ada = { account: 1, signIn: 1, name: 'Ada', role: 'reviewer' as const, address: ADDRESS };
    await actingAs(ada, () => editSession(id, (old) => ({ ...old, title: 'Hers' })));
    await editSession(id, (old) => ({ ...old, title: 'The desk’s' }));
    expect((await listRevisions(id)).map(({ author }) => author)).toEqual([null, 'Ada', null]);
  });

  test('the same within ten minutes is one line, and outlives the account', async () => {
    const ada = await addAccount('Ada', 'reader', PASSWORD);
    const one = { account: ada.id, signIn: 1, name: 'Ada', role: 'reader' as const, address: ADDRESS };
    const now = Date.UTC(2026, 4, 14);
    for (const after of [0, 60_000, 599_000, 660_000]) await noteDoing(one, 'PATCH', '/api/uploads/x', now + after);
    await noteDoing(one, 'POST', '/kits', now + 700_000);
    await removeAccount('Ada');
    expect((await listDoings(10)).map(({ name, path, times }) => [name, path, times])).toEqual([
      ['Ada', '/kits', 1],
      ['Ada', '/api/uploads/x', 1],
      ['Ada', '/api/uploads/x', 3],
    ]);
    expect(await listDoings(1)).toHaveLength(1);
  });
});
