/** People sign in at the name of `--host`, by https, each with a role; at the desk nobody does. */
import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { request as ask } from 'node:https';
import { join, resolve as resolvePath } from 'node:path';
import { expect, type Browser, type Page } from '@playwright/test';
import { checkAccessibility, test } from './shared';
import { trustingBrowser } from './trusting';

const HOST = process.env.GLADE_HOST_URL!;
const PASSWORD = 'quarry lamps hum at dusk';
const ANOTHER = 'nine grey cards in a row';

/** `./glade user …`, with a line of standard input; gives what it said, and whether it did. */
function user(asked: string[], line = ''): Promise<{ said: string; done: boolean }> {
  return new Promise((resolve) => {
    const child = execFile(resolvePath('glade'), ['user', ...asked], (error, out, trouble) =>
      resolve({ said: out + trouble, done: error === null }),
    );
    child.stdin!.end(`${line}\n`);
  });
}

/** Asks as a program does that trusts the desk's root and knows where the name lies. */
async function askBare(path: string): Promise<{ status: number; body: string }> {
  const ca = await readFile(join(process.env.GLADE_VAR!, 'tls', 'root.crt'));
  const { hostname, port, host } = new URL(HOST);
  return new Promise((resolve, reject) => {
    const asked = ask({ host: '127.0.0.1', port, path, ca, servername: hostname, headers: { host } }, (answer) => {
      let body = '';
      answer.on('data', (part: Buffer) => (body += part.toString()));
      answer.on('end', () => resolve({ status: answer.statusCode!, body }));
    });
    asked.on('error', reject);
    asked.end();
  });
}

/** What a page of ours is answered by an address. */
const statusOf = (page: Page, path: string, method = 'GET', body?: object): Promise<number> =>
  page.evaluate(
    async (given) => {
      const headers = { 'content-type': 'application/json' };
      const sent = given.body ? JSON.stringify(given.body) : undefined;
      return (await fetch(given.path, { method: given.method, headers, body: sent })).status;
    },
    { path, method, body },
  );

// Accounts are one story.
test.describe.configure({ mode: 'serial' });
let browser: Browser;
test.beforeAll(async () => {
  browser = await trustingBrowser();
  for (const [name, role] of [
    ['Ada', 'owner'],
    ['Rhys', 'reviewer'],
    ['Lena', 'reader'],
  ])
    expect(await user(['add', name, '--role', role], PASSWORD)).toEqual({
      said: `“${name}” may sign in, as ${role}.\n`,
      done: true,
    });
});
test.afterAll(() => browser.close());

async function visit(path: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(HOST + path);
  return page;
}

async function enter(page: Page, name: string, password = PASSWORD): Promise<void> {
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(password);
  await page.keyboard.press('Enter');
}

/** A session made at the desk. */
async function makeSession(page: Page, title: string): Promise<string> {
  const answer = await page.request.post('/api/sessions', {
    data: {
      document: { format: 'aurora-glade-session', version: 1, title, kits: [], scenes: [], takes: [] },
      files: {},
    },
  });
  expect(answer.ok(), await answer.text()).toBe(true);
  return ((await answer.json()) as { id: string }).id;
}

test('accounts are made at the desk: weak passwords, taken names and the last owner are told', async () => {
  expect(await user(['add', 'Bo'], 'short')).toEqual({
    said: expect.stringContaining('needs 15 characters'),
    done: false,
  });
  expect(await user(['add', 'ADA'], PASSWORD)).toEqual({ said: 'glade: There is a “ADA” already.\n', done: false });
  expect(await user(['add', 'Bo', '--role', 'king'], PASSWORD)).toMatchObject({ done: false });
  expect(await user(['remove', 'Ada'])).toEqual({ said: expect.stringContaining('the only owner'), done: false });
  expect((await user(['list'])).said).toContain('Lena: reader, 0 passkeys, never seen');
});

test('a stranger is led to sign in, and to where they wanted then; the desk asks nobody', async ({ page }) => {
  const there = await visit('/kits');
  await expect(there).toHaveURL(`${HOST}/signin?to=%2Fkits`);
  await checkAccessibility(there);
  await enter(there, 'Ada', 'not the password at all');
  await expect(there.getByRole('alert').filter({ hasText: 'don’t belong' })).toBeVisible();
  await enter(there, 'Ada');
  await expect(there).toHaveURL(`${HOST}/kits`);
  await expect(there.getByRole('link', { name: 'Ada' })).toBeVisible();
  // What scripts can read says the name and opens nothing.
  expect(await there.evaluate(() => document.cookie)).toMatch(/^glade_who=[^;]*$/);
  // Without a cookie a program gets a sentence, and no page says what there is.
  for (const path of ['/api/kits', '/api/health', '/api/sessions']) {
    const { status, body } = await askBare(path);
    expect([path, status, JSON.parse(body)]).toEqual([path, 401, { error: expect.stringContaining('not signed in') }]);
  }
  await page.goto('/kits');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Ada' })).toHaveCount(0);
});

test('who guesses has to wait, and locks nobody else out', async () => {
  const page = await visit('/');
  for (let i = 0; i < 6; i++)
    expect(await statusOf(page, '/api/signin', 'POST', { name: 'Rhys', password: `guess ${i}` })).toBe(401);
  await enter(page, 'Rhys');
  await expect(page.getByRole('alert').filter({ hasText: 'Too many tries. Try again in 10 minutes.' })).toBeVisible();
  await enter(page, 'Lena');
  await expect(page).toHaveURL(`${HOST}/`);
});

test('a passkey is added, signs in without the password, and is taken away', async () => {
  const page = await visit('/account');
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('WebAuthn.enable');
  await cdp.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
    },
  });
  await enter(page, 'Ada');
  const passkeys = page.getByRole('region', { name: 'Passkeys' });
  await passkeys.getByLabel('What it is called').fill('Laptop');
  await passkeys.getByLabel('Your password').fill('not the one at all');
  await passkeys.getByRole('button', { name: 'Add a passkey' }).click();
  await expect(page.getByText('This isn’t your password.').first()).toBeVisible();
  await passkeys.getByLabel('Your password').fill(PASSWORD);
  await passkeys.getByRole('button', { name: 'Add a passkey' }).click();
  await expect(passkeys.getByRole('listitem')).toContainText('Laptop');
  await checkAccessibility(page);
  await page.getByRole('button', { name: 'Sign out', exact: true }).first().click();
  await expect(page).toHaveURL(/\/signin$/);
  await page.goto(`${HOST}/account`);
  await expect(page).toHaveURL(/\/signin\?to=/);
  await page.getByRole('button', { name: 'Use a passkey' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Ada' })).toBeVisible();
  await passkeys.getByRole('button', { name: 'Remove Laptop' }).click();
  await expect(passkeys.getByText('No passkey yet.')).toBeVisible();
});

test('a reader changes nothing, a reviewer signs what they change, an owner reads who did what', async ({ page }) => {
  const id = await makeSession(page, 'Shared bench');
  const reader = await visit(`/sessions/${id}/details`);
  await enter(reader, 'Lena');
  const title = reader.getByLabel('Title');
  await expect(title).toHaveValue('Shared bench');
  await title.fill('Lena’s bench');
  await title.blur();
  await expect(reader.getByText(/a reader’s/).first()).toBeVisible();
  // Whatever there is to look at is shown.
  const pages = [
    '/',
    '/kits',
    '/ranking',
    '/years',
    '/benches',
    '/reports',
    '/bands',
    '/method',
    '/pick',
    '/put-away',
    '/sessions/new',
  ];
  const stages = ['plan', 'shoot', 'footage', 'regions', 'measure', 'compare', 'verdict', 'details'];
  for (const path of [...pages, ...stages.map((stage) => `/sessions/${id}/${stage}`)])
    expect([path, await statusOf(reader, path)]).toEqual([path, 200]);
  expect(await statusOf(reader, '/api/uploads', 'POST')).toBe(403);
  expect(await statusOf(reader, '/people')).toBe(404);

  expect((await user(['role', 'Lena', 'reviewer'])).done).toBe(true);
  await reader.reload();
  await title.fill('Bench of both');
  await title.blur();
  await expect(reader.getByText('title (Lena)').first()).toBeVisible();
  await page.goto(`/sessions/${id}/details`);
  await expect(page.getByLabel('Title')).toHaveValue('Bench of both');

  const owner = await visit('/people');
  await enter(owner, 'Ada');
  await expect(owner.getByRole('row', { name: /Lena reviewer/ })).toBeVisible();
  await expect(owner.getByRole('listitem').filter({ hasText: `changed a session on its details page (${id.slice(0, 8)})` }).first()).toContainText('Lena'); // prettier-ignore
  await checkAccessibility(owner);
});

test('another password ends what was signed in elsewhere; a removed account is out at once', async () => {
  const [one, other] = [await visit('/account'), await visit('/account')];
  for (const page of [one, other]) {
    await enter(page, 'Lena');
    await expect(page.getByRole('heading', { level: 1, name: 'Lena' })).toBeVisible();
  }
  const part = one.getByRole('region', { name: 'Password' });
  await part.getByLabel('The one there is').fill(PASSWORD);
  await part.getByLabel(/A new one/).fill(ANOTHER);
  await part.getByRole('button', { name: 'Change it' }).click();
  await expect(one.getByText('Your password is changed.').first()).toBeVisible();
  await other.reload();
  await expect(other).toHaveURL(/\/signin\?to=/);
  await enter(other, 'Lena', ANOTHER);
  await expect(other.getByRole('heading', { level: 1, name: 'Lena' })).toBeVisible();
  expect((await user(['remove', 'Lena'])).done).toBe(true);
  await other.reload();
  await expect(other).toHaveURL(/\/signin\?to=/);
});
