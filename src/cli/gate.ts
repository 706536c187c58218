/**
 * The gate: what phones on the local network reach. The application itself listens on loopback only; the gate answers other machines, and
 * only those that hold a paired secret, with that one run sheet and nothing else.
 */
import {
  createServer,
  request as askServer,
  type IncomingMessage,
  type OutgoingHttpHeaders,
  type Server,
  type ServerResponse,
} from 'node:http';
import { closeStore, sessionOfSecret } from '@/store';

const COOKIE = 'glade_sheet';
/** A day of shooting; the secret itself holds until it is revoked. */
const COOKIE_SECONDS = 36 * 3600;
/** Wrong secrets a minute from one address before it has to wait. */
const MOST_WRONG = 30;

const wrong = new Map<string, { count: number; since: number }>();

function tooMany(address: string): boolean {
  const now = Date.now();
  const seen = wrong.get(address);
  return seen !== undefined && now - seen.since < 60_000 && seen.count >= MOST_WRONG;
}

function noteWrong(address: string): void {
  const now = Date.now();
  const seen = wrong.get(address);
  if (!seen || now - seen.since >= 60_000) wrong.set(address, { count: 1, since: now });
  else seen.count++;
  if (wrong.size > 10_000) wrong.clear();
}

/** What a paired phone may ask for. */
export function isAllowed(method: string, path: string, session: string): boolean {
  if (path === `/api/sessions/${session}/log`) return method === 'GET' || method === 'POST';
  if (method !== 'GET' && method !== 'HEAD') return false;
  return (
    path === `/sessions/${session}/shoot` ||
    path === '/sheet-worker.js' ||
    path === '/icon.svg' ||
    path.startsWith('/_next/static/')
  );
}

function cookieOf(message: IncomingMessage): string | null {
  for (const part of (message.headers.cookie ?? '').split(';')) {
    const [name, ...value] = part.trim().split('=');
    if (name === COOKIE) return value.join('=');
  }
  return null;
}

function tell(response: ServerResponse, status: number, title: string, sentence: string): void {
  response.writeHead(status, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' });
  response.end(
    `<!doctype html><html lang="en"><meta name="viewport" content="width=device-width"><title>${title}</title>` +
      `<body style="font:17px/1.45 system-ui;max-width:26em;margin:3em auto;padding:0 1em"><h1 style="font-size:1.4em">${title}</h1><p>${sentence}</p>`,
  );
}

/** Starts the gate before a server on loopback. */
export function startGate(port: number, target: number, host = '0.0.0.0'): Promise<Server> {
  const server = createServer((message, response) => {
    pass(message, response, target).catch(() => {
      if (!response.headersSent)
        tell(response, 502, 'The desk does not answer', 'Wait a moment and load it again; taps are kept on the phone.');
      else response.end();
    });
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server));
  });
}

async function pass(message: IncomingMessage, response: ServerResponse, target: number): Promise<void> {
  const address = message.socket.remoteAddress ?? '';
  const method = message.method ?? 'GET';
  // Dots and escapes are resolved before anything is compared.
  const { pathname: path, search } = new URL(message.url ?? '/', 'http://gate');
  if (tooMany(address))
    return tell(response, 429, 'Too many tries', 'Wait a minute, then scan the code on the desk again.');
  const pairing = /^\/pair\/([\w-]{20,100})$/.exec(path);
  if (pairing && method === 'GET') {
    const session = await sessionOfSecret(pairing[1]);
    if (!session) {
      noteWrong(address);
      return tell(
        response,
        403,
        'This code does not hold',
        'It was revoked, or is no code of this desk. Make a new one on the Shoot page of the desk.',
      );
    }
    response.writeHead(303, {
      location: `/sessions/${session}/shoot`,
      'set-cookie': `${COOKIE}=${pairing[1]}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${COOKIE_SECONDS}`,
      'cache-control': 'no-store',
    });
    response.end();
    return;
  }
  const secret = cookieOf(message);
  const session = secret === null ? null : await sessionOfSecret(secret);
  if (session === null) {
    if (secret !== null) noteWrong(address);
    return tell(response, 403, 'Not paired', 'Scan the code on the Shoot page of the desk with this phone.');
  }
  if (/%2f|%5c|\\/i.test(path) || !isAllowed(method, path, session))
    return tell(
      response,
      403,
      'Not on this sheet',
      'A paired phone sees its run sheet only; everything else is on the desk.',
    );
  forward(message, response, target, path + search);
}

function forward(message: IncomingMessage, response: ServerResponse, target: number, path: string): void {
  // What a proxy or the framework itself would say comes from nobody outside.
  const headers: Record<string, unknown> = Object.fromEntries(
    Object.entries(message.headers).filter(([name]) => name !== 'cookie' && !name.startsWith('x-')),
  );
  // The application answers its own names alone; a page of the phone's name here is one of its own.
  if (message.headers.origin === `http://${message.headers.host}`) headers.origin = `http://localhost:${target}`;
  headers.host = `localhost:${target}`;
  const inner = askServer(
    { host: '127.0.0.1', port: target, method: message.method, path, headers: headers as OutgoingHttpHeaders },
    (answer) => {
      response.writeHead(answer.statusCode ?? 502, answer.headers);
      answer.pipe(response);
    },
  );
  inner.on('error', () => {
    if (!response.headersSent)
      tell(response, 502, 'The desk does not answer', 'Wait a moment and load it again; taps are kept on the phone.');
    else response.destroy();
  });
  message.pipe(inner);
}

async function main(): Promise<void> {
  const [port, target] = process.argv.slice(2).map(Number);
  if (!(port > 0) || !(target > 0)) throw new Error('usage: gate PORT PORT-OF-THE-APPLICATION');
  const server = await startGate(port, target);
  for (const name of ['SIGTERM', 'SIGINT'] as const)
    process.on(name, () => {
      server.closeAllConnections();
      server.close(() => void closeStore());
    });
}

if (process.argv[1]?.endsWith('gate.mjs'))
  main().catch((error: Error) => {
    console.error(error.message);
    process.exitCode = 1;
  });
