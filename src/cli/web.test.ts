/** The door for others than the desk: who is led where, and in whose name the rest is done. */
import { createServer, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { DOOR_WORDS } from '@/core/words/door';
import { who } from '@/store/who';
import { logTo, requestNow } from '@/log/log';
import { behindDoor, behindSignIn, numbered, telling } from './web';

const mockNoted: unknown[][] = [];
jest.mock('@/store', () => ({
  ...jest.requireActual<object>('@/store/who'),
  isAway: () => false,
  signedIn: async (token: string, address: string) =>
    ['owner', 'reviewer', 'reader'].includes(token)
      ? { account: 5, signIn: 9, name: `the ${token}`, role: token, address }
      : null,
  noteDoing: async ({ name }: { name: string }, method: string, path: string) => mockNoted.push([name, method, path]),
}));

let server: Server;
let desk: Server;
let wrote = false;
/** What the application saw. */
let seen: { headers: IncomingHttpHeaders; who: ReturnType<typeof who> }[] = [];

const listen = (handle: Parameters<typeof behindDoor>[0]) =>
  new Promise<Server>((resolve) => {
    const made = createServer((message, response) => void handle(message, response));
    made.listen(0, '127.0.0.1', () => resolve(made));
  });

beforeAll(async () => {
  const application: Parameters<typeof behindDoor>[0] = async ({ headers }, response) => {
    seen.push({ headers, who: who() });
    if (wrote) who().wrote = true;
    response.end('inside');
  };
  [server, desk] = await Promise.all([
    listen(behindSignIn(application, 'bench.local')),
    listen(behindDoor(application)),
  ]);
});
afterAll(() => {
  server.close();
  desk.close();
});
beforeEach(() => {
  seen = [];
  wrote = false;
  mockNoted.length = 0;
});

interface Asked {
  method?: string;
  role?: string;
  headers?: Record<string, string>;
  at?: Server;
}

/** By hand, since fetch won't send another Host. */
async function ask(path: string, { method = 'GET', role, headers = {}, at = server }: Asked = {}) {
  const { request } = await import('node:http');
  return new Promise<{ status: number; headers: IncomingHttpHeaders; body: string }>((resolve, reject) => {
    const cookie = role ? { cookie: `a=b; __Host-glade=${role}` } : {};
    const { port } = at.address() as AddressInfo;
    const asked = request(
      {
        port,
        path,
        method,
        headers: { host: 'bench.local:8443', 'x-forwarded-for': '9.9.9.9, 192.168.1.7', ...cookie, ...headers },
      },
      (answer) => {
        let body = '';
        answer.on('data', (part: Buffer) => (body += part.toString()));
        answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, body }));
      },
    );
    asked.on('error', reject);
    asked.end();
  });
}

test('a stranger’s page leads to sign in, and back to what was asked; programs and actions get a sentence', async () => {
  const page = await ask('/kits?x=1', { headers: { accept: 'text/html' } });
  expect([page.status, page.headers.location]).toEqual([303, '/signin?to=%2Fkits%3Fx%3D1']);
  const program = await ask('/api/kits');
  expect([program.status, JSON.parse(program.body)]).toEqual([401, { error: DOOR_WORDS.signedOut }]);
  const action = await ask('/kits', { method: 'POST', headers: { 'next-action': 'x' } });
  expect([action.status, action.headers['content-type'], action.body]).toEqual([
    401,
    'text/plain',
    DOOR_WORDS.signedOut,
  ]);
  expect(await ask('/api/kits', { role: 'a-token-that-ended' })).toMatchObject({ status: 401 });
  expect(seen).toEqual([]);
});

test('before signing in nobody is the desk: what the way in does is done by no account', async () => {
  expect((await ask('/signin')).body).toBe('inside');
  expect(seen[0].who).toEqual({ account: 0, signIn: 0, name: 'nobody', role: 'reader', address: '192.168.1.7' });
});

test('each works in their own name; what a proxy said is not handed on, and no cache keeps it', async () => {
  const answer = await ask('/kits', { role: 'reviewer' });
  expect(answer).toMatchObject({ status: 200, body: 'inside' });
  expect(answer.headers.vary).toContain('cookie');
  expect(answer.headers['content-security-policy']).toContain("frame-ancestors 'none'");
  expect(seen[0].who).toMatchObject({ name: 'the reviewer', role: 'reviewer', address: '192.168.1.7' });
  expect(seen[0].headers['x-forwarded-for']).toBeUndefined();
});

test('a reader’s change ends at the door; an action goes on to where it is seen what it does', async () => {
  const upload = await ask('/api/uploads', { method: 'POST', role: 'reader' });
  expect([upload.status, JSON.parse(upload.body)]).toEqual([403, { error: DOOR_WORDS.reader }]);
  expect(await ask('/api/uploads', { method: 'POST', role: 'reader', headers: { 'next-action': 'x' } })).toMatchObject({ status: 403 }); // prettier-ignore
  expect(seen).toEqual([]);
  expect(await ask('/sessions/x/compare', { method: 'POST', role: 'reader', headers: { 'next-action': 'x' } })).toMatchObject({ status: 200 }); // prettier-ignore
});

test('changes are noted, of actions those that wrote', async () => {
  await ask('/api/uploads', { method: 'POST', role: 'reviewer' });
  await ask('/api/sessions/x/statistics', { method: 'POST', role: 'reviewer' });
  await ask('/kits', { role: 'owner' });
  const action = { method: 'POST', role: 'owner', headers: { 'next-action': 'x' } };
  await ask('/kits', action);
  wrote = true;
  await ask('/kits', action);
  expect(mockNoted).toEqual([
    ['the reviewer', 'POST', '/api/uploads'],
    ['the owner', 'POST', '/kits'],
  ]);
});

test('it answers to its name alone, and to its own pages', async () => {
  for (const host of ['localhost', '127.0.0.1', 'evil.example'])
    expect(await ask('/signin', { headers: { host } })).toMatchObject({ status: 421 });
  const foreign = { method: 'POST', role: 'owner', headers: { origin: 'https://evil.example' } };
  expect(await ask('/api/uploads', foreign)).toMatchObject({ status: 403 });
  expect(await ask('/api/uploads', { method: 'POST', role: 'owner', headers: { origin: 'https://bench.local:8443' } })).toMatchObject({ status: 200 }); // prettier-ignore
});

test('at the desk nobody is asked, and the name of --host is nobody there', async () => {
  expect(await ask('/kits', { at: desk, headers: { host: 'localhost:8420' } })).toMatchObject({ status: 200 });
  expect(seen[0].who).toMatchObject({ account: null, role: 'owner' });
  expect(await ask('/kits', { at: desk, role: 'owner' })).toMatchObject({ status: 421 });
});

describe('numbered requests', () => {
  const lines: Record<string, unknown>[] = [];
  const to = logTo('debug', { write: (line: string) => void lines.push(JSON.parse(line) as Record<string, unknown>) });
  let numberedServer: Server;
  beforeAll(async () => {
    const application = telling(async ({ url }, response) => {
      if (url === '/broken') throw new Error('Nobody foresaw this.');
      response.statusCode = url === '/not-there' ? 404 : 200;
      response.end(String(requestNow()));
    });
    numberedServer = await listen(numbered(application, to));
  });
  afterAll(() => numberedServer.close());
  beforeEach(() => (lines.length = 0));
  const told = async (path: string, method = 'GET') => {
    const answer = await ask(path, { method, at: numberedServer });
    while (lines.length === 0) await new Promise((resolve) => setTimeout(resolve, 5));
    return { answer, line: lines[0] };
  };

  test('a request has a number: in its answer, in what works for it, and in the log', async () => {
    const { answer, line } = await told('/kits?name=private', 'POST');
    const request = answer.headers['x-request-id'];
    expect(request).toMatch(/^[0-9a-f-]{36}$/);
    expect(answer.body).toBe(request);
    expect(line).toMatchObject({ level: 'info', request, method: 'POST', path: '/kits', status: 200, msg: 'answered' });
    // What was looked for is nobody's business.
    expect(JSON.stringify(line)).not.toContain('private');
    expect((await told('/kits')).answer.headers['x-request-id']).not.toBe(request);
  });

  test.each([
    ['GET', '/kits', 'debug'],
    ['POST', '/kits', 'info'],
    ['POST', '/api/sessions/1/live', 'debug'],
    ['POST', '/api/sessions/1/live/sheet', 'debug'],
    ['POST', '/api/sessions/1/live/pictures', 'info'],
    ['GET', '/not-there', 'warn'],
    ['GET', '/r/…', 'debug', '/r/3f0d3d0e-0000-4000-8000-000000000001'],
    ['GET', '/broken', 'error'],
  ])('%s %s is written down as %s', async (method, path, level, asked = path) => {
    expect((await told(asked, method)).line).toMatchObject({ level, path });
  });

  test('what nobody foresaw is answered in words', async () => {
    const { answer } = await told('/broken');
    expect(answer.status).toBe(500);
    expect(answer.body).toContain('Something went wrong on the server; its log says what.');
    expect(answer.body).not.toContain('foresaw');
  });
});
