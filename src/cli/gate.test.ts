import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { closeStore, createSession, listPairings, makePairing, revokePairing } from '@/store';
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
    headers: { ...(secret ? { cookie: `glade_sheet=${secret}` } : {}), 'x-forwarded-for': '127.0.0.1' },
  });

test('a secret opens its own sheet and log, and nothing else', async () => {
  const secret = await makePairing(session);
  const paired = await ask(`/pair/${secret}`);
  expect(paired.status).toBe(303);
  expect(paired.headers.get('location')).toBe(`/sessions/${session}/shoot`);
  expect(paired.headers.get('set-cookie')).toContain('HttpOnly');

  const sheet = await ask(`/sessions/${session}/shoot`, secret);
  expect(sheet.status).toBe(200);
  // The secret and what proxies would say stay at the gate.
  expect(await sheet.text()).toBe(`GET /sessions/${session}/shoot cookie=none x=none`);
  expect((await ask(`/api/sessions/${session}/log`, secret, { method: 'POST', body: '{}' })).status).toBe(200);

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

test('without a secret, with a wrong or a revoked one, nothing is answered', async () => {
  const secret = await makePairing(session);
  expect((await ask(`/sessions/${session}/shoot`)).status).toBe(403);
  expect((await ask(`/sessions/${session}/shoot`, 'x'.repeat(32))).status).toBe(403);
  expect((await ask(`/sessions/${session}/shoot`, secret)).status).toBe(200);
  const pairings = await listPairings(session);
  const last = pairings[pairings.length - 1];
  expect(last.seenAt).not.toBeNull();
  await revokePairing(session, last.id);
  expect((await ask(`/sessions/${session}/shoot`, secret)).status).toBe(403);
  expect((await ask(`/pair/${secret}`)).status).toBe(403);
  expect(await (await ask(`/pair/${secret}`)).text()).toContain('It was revoked');
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
