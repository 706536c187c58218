import { spawnSync } from 'node:child_process';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  closeStore,
  createSession,
  endLinks,
  listPairings,
  makeCode,
  makeLink,
  pairPhone,
  revokePairing,
  writeReport,
  writeSetting,
} from '@/store';
import { freshDatabase } from '@/store/testing';
import { isAllowed, startGate } from './gate';

let application: Server;
let gate: Server;
let origin: string;
let session: string;
let other: string;

const portOf = (server: Server) => (server.address() as AddressInfo).port;
const DOCUMENT = { format: 'aurora-glade-session', version: 1, kits: [], scenes: [], takes: [] };

beforeAll(async () => {
  await freshDatabase('glade_gate');
  session = await createSession(DOCUMENT, new Map());
  other = await createSession(DOCUMENT, new Map());
  application = createServer((request, response) => {
    response.setHeader('content-type', 'text/plain');
    response.end(
      `${request.method} ${request.url} cookie=${request.headers.cookie ?? 'none'} x=${request.headers['x-forwarded-for'] ?? 'none'}`,
    );
  });
  await new Promise<void>((resolve) => application.listen(0, '127.0.0.1', resolve));
  gate = await startGate(0, portOf(application), '127.0.0.1');
  origin = `http://127.0.0.1:${portOf(gate)}`;
}, 600_000);

afterAll(async () => {
  application.close();
  gate.close();
  await closeStore();
});

const ask = (path: string, secret?: string, init: RequestInit = {}) =>
  fetch(origin + path, {
    redirect: 'manual',
    ...init,
    headers: {
      ...(secret ? { cookie: `glade_sheet=${secret}` } : {}),
      'x-forwarded-for': '127.0.0.1',
      ...(init.headers as object),
    },
  });

/** Pairs a phone as its owner does. */
const press = (code: string, name = 'Anna’s phone') =>
  fetch(`${origin}/pair/${code}`, { method: 'POST', redirect: 'manual', body: new URLSearchParams({ name }) });
const secretOf = (answer: Response) => /glade_sheet=([\w-]+)/.exec(answer.headers.get('set-cookie') ?? '')![1];
const paired = async () => (await pairPhone((await makeCode(session)).code, ''))!.secret;

test('a code pairs one phone: looked at it is still there, pressed it is used', async () => {
  const { code } = await makeCode(session);
  expect(await listPairings(session)).toEqual([]);
  for (let i = 0; i < 2; i++) {
    const looked = await ask(`/pair/${code}`);
    expect([looked.status, await looked.text()]).toEqual([200, expect.stringContaining('What is this phone called?')]);
    expect(looked.headers.get('content-security-policy')).toContain("default-src 'none'");
  }
  // Two at the same moment: one is let in.
  const answers = await Promise.all([press(code), press(code)]);
  expect(answers.map((one) => one.status).sort()).toEqual([303, 403]);
  const first = answers.find((one) => one.status === 303)!;
  expect(first.headers.get('location')).toBe(`/sessions/${session}/shoot`);
  expect(first.headers.get('set-cookie')).toContain('HttpOnly');
  expect(secretOf(first)).not.toBe(code);
  expect((await ask(`/sessions/${session}/shoot`, code)).status).toBe(403);
  expect((await ask(`/sessions/${session}/shoot`, secretOf(first))).status).toBe(200);
  expect((await ask(`/pair/${code}`)).status).toBe(403);
  expect((await listPairings(session)).map((one) => one.name)).toEqual(['Anna’s phone']);
});

test('a code is too old after ten minutes; one that was pressed on another site’s page pairs nothing', async () => {
  const { code } = await makeCode(session, Date.now() - 11 * 60_000);
  expect((await ask(`/pair/${code}`)).status).toBe(403);
  expect((await press(code)).status).toBe(403);
  const fresh = await makeCode(session);
  const elsewhere = await ask(`/pair/${fresh.code}`, undefined, {
    method: 'POST',
    body: 'name=x',
    headers: { origin: 'http://elsewhere.example' },
  });
  expect(elsewhere.status).toBe(403);
  expect((await press(fresh.code, 'x'.repeat(9000))).status).toBe(303);
});

test('behind https: pages of that scheme alone pair, what they are given travels by https alone, and each address has its own tries', async () => {
  const https = { 'x-forwarded-proto': 'https', 'x-forwarded-for': '192.168.1.9' };
  const { code } = await makeCode(session);
  const post = { method: 'POST', body: new URLSearchParams({ name: 'x' }) };
  const here = origin.replace('http:', 'https:');
  const plain = await ask(`/pair/${code}`, undefined, { ...post, headers: { ...https, origin } });
  expect(plain.status).toBe(403);
  const pressed = await ask(`/pair/${code}`, undefined, { ...post, headers: { ...https, origin: here } });
  expect(pressed.status).toBe(303);
  expect(pressed.headers.get('set-cookie')).toMatch(/; Secure$/);
  // Whatever a phone says of where it comes from stands before what our own server adds.
  const guess = (from: string) => ask('/', 'wrong', { headers: { ...https, 'x-forwarded-for': from } });
  for (let i = 0; i < 30; i++) expect((await guess(`10.0.0.${i}, 192.168.1.66`)).status).toBe(403);
  expect((await guess('192.168.1.66')).status).toBe(429);
  expect((await guess('192.168.1.67')).status).toBe(403);
});

test('what a phone is told of trusting the desk; nothing where the desk signs nothing', async () => {
  expect((await ask('/trust')).status).toBe(404);
  const folder = await mkdtemp(join(tmpdir(), 'glade-root-'));
  await mkdir(join(folder, 'tls'));
  const words = ['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-subj', '/CN=x', '-keyout', '/dev/null', '-out', join(folder, 'tls', 'root.crt')]; // prettier-ignore
  expect(spawnSync('openssl', words).status).toBe(0);
  const told = spawnSync('openssl', ['x509', '-in', join(folder, 'tls', 'root.crt'), '-noout', '-fingerprint', '-sha256'], { encoding: 'utf8' }); // prettier-ignore
  const before = process.env.GLADE_VAR;
  Object.assign(process.env, { GLADE_VAR: folder, GLADE_TRUST_PORT: '8' });
  try {
    const page = await (await ask('/trust')).text();
    // As OpenSSL tells it.
    expect(page).toContain(told.stdout.trim().split('=')[1]);
    expect(page).toContain('Trust it only if the desk is yours');
  } finally {
    if (before === undefined) delete process.env.GLADE_VAR;
    else process.env.GLADE_VAR = before;
    delete process.env.GLADE_TRUST_PORT;
    await rm(folder, { recursive: true });
  }
});

test('a report is read by its link, without a phone being paired, until the link ends', async () => {
  const { id } = await writeReport({ title: 'One', sessions: [session] });
  const { token } = await makeLink(id);
  expect(await (await ask(`/r/${token}?x=1`)).text()).toBe(`GET /r/${token} cookie=none x=none`);
  expect((await ask(`/r/${token}`, undefined, { method: 'POST' })).status).toBe(403);
  for (const path of [`/r/${'0'.repeat(32)}`, `/r/${token}/../../api/kits`, `/api/reports/${id}/page`])
    expect((await ask(path)).status).toBeGreaterThan(400);
  const later = await makeLink(id);
  expect((await ask(`/r/${token}`)).status).toBe(404);
  await endLinks(id);
  expect((await ask(`/r/${later.token}`)).status).toBe(404);
});

test('a secret opens its own sheet and log, and nothing else', async () => {
  const secret = await paired();

  const sheet = await ask(`/sessions/${session}/shoot`, secret);
  expect(sheet.status).toBe(200);
  // The secret and what proxies would say stay at the gate.
  expect(await sheet.text()).toBe(`GET /sessions/${session}/shoot cookie=none x=none`);
  expect((await ask(`/api/sessions/${session}/log`, secret, { method: 'POST', body: '{}' })).status).toBe(200);
  // And the pick, to read.
  expect((await ask('/pick', secret)).status).toBe(200);
  expect((await ask('/pick', secret, { method: 'POST', body: '[]' })).status).toBe(403);
  expect((await ask('/pick')).status).toBe(403);

  for (const path of [
    '/',
    '/plan',
    `/sessions/${session}/verdict`,
    `/sessions/${other}/shoot`,
    `/api/sessions/${other}/log`,
    '/api/kits',
    '/_next/static/../../api/kits',
    '/_next/static/%2e%2e/%2e%2e/api/kits',
    '/_next/static/..%2f..%2fapi/kits',
    `/sessions/${session}/shoot/../verdict`,
  ])
    expect([path, (await ask(path, secret)).status]).toEqual([path, 403]);
  // Server actions are posted to the page's own address.
  expect((await ask(`/sessions/${session}/shoot`, secret, { method: 'POST', body: '[]' })).status).toBe(403);
});

test('pictures are sent while the sitting of this sheet is live, and not else', async () => {
  const secret = await paired();
  const sheet = `/api/sessions/${session}/live/sheet`;
  const post = (path: string, headers: Record<string, string> = {}) => ask(path, secret, { method: 'POST', headers });
  expect((await post(sheet)).status).toBe(200);
  expect((await ask(sheet, secret)).status).toBe(403);
  expect((await post(`/api/sessions/${other}/live/sheet`)).status).toBe(403);
  expect((await post(`/api/sessions/${session}/live`)).status).toBe(403);
  const ways = async () => [
    (await post('/api/uploads', { 'upload-length': '1000' })).status,
    (await ask('/api/uploads/0-a', secret, { method: 'PATCH', body: 'x' })).status,
    (await ask('/api/uploads/0-a', secret, { method: 'HEAD' })).status,
    (await ask('/api/room?bytes=5', secret)).status,
  ];
  expect(await ways()).toEqual([403, 403, 403, 403]);
  await writeSetting('live', { session: other, wanted: 0.02, after: 0, since: '' });
  expect(await ways()).toEqual([403, 403, 403, 403]);
  await writeSetting('live', { session, wanted: 0.02, after: 0, since: '' });
  expect(await ways()).toEqual([200, 200, 200, 200]);
  // No clips, nothing taken away, nothing beside.
  expect((await post('/api/uploads', { 'upload-length': '600000000' })).status).toBe(413);
  // Nor of a length that is told later, or never.
  for (const headers of [{}, { 'upload-defer-length': '1' }, { 'upload-length': 'long' }])
    expect((await post('/api/uploads', headers as Record<string, string>)).status).toBe(413);
  expect((await ask('/api/uploads/0-a', secret, { method: 'DELETE' })).status).toBe(403);
  expect((await post('/api/files')).status).toBe(403);
  expect((await post('/api/uploads/0-a/../../kits')).status).toBe(403);
  expect((await ask('/api/uploads', undefined, { method: 'POST' })).status).toBe(403);
  await writeSetting('live', null);
});

test('without a secret, with a wrong or a revoked one, nothing is answered', async () => {
  const secret = await paired();
  expect((await ask(`/sessions/${session}/shoot`)).status).toBe(403);
  expect((await ask(`/sessions/${session}/shoot`, 'x'.repeat(32))).status).toBe(403);
  expect((await ask(`/sessions/${session}/shoot`, secret)).status).toBe(200);
  const pairings = await listPairings(session);
  const last = pairings[pairings.length - 1];
  expect(last.seenAt).not.toBeNull();
  await revokePairing(session, last.id);
  expect((await ask(`/sessions/${session}/shoot`, secret)).status).toBe(403);
  expect((await ask(`/pair/${secret}`)).status).toBe(403);
});

test('guessing is slowed down', async () => {
  const statuses: number[] = [];
  for (let i = 0; i < 40; i++) statuses.push((await ask(`/pair/${'a'.repeat(24)}${i}`)).status);
  expect(statuses[statuses.length - 1]).toBe(429);
});

test('only reading, but for taps', () => {
  expect(isAllowed('GET', '/_next/static/chunk.js', 'one')).toBe(true);
  expect(isAllowed('DELETE', '/api/sessions/one/log', 'one')).toBe(false);
  expect(isAllowed('POST', '/sheet-worker.js', 'one')).toBe(false);
});
