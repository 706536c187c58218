/**
 * The gate: what other machines on the local network reach. The application itself listens on loopback only; the gate answers phones that
 * hold a paired secret with that one run sheet, its pictures and the pick, whoever has a report's link with that report, and with nothing else.
 */
import {
  createServer,
  request as askServer,
  type IncomingMessage,
  type OutgoingHttpHeaders,
  type Server,
  type ServerResponse,
} from 'node:http';
import { cameBy, cookieOf, headersOf } from '@/server/door';
import { deskRoot } from '@/server/lan';
import { liveSitting } from '@/server/liveSetting';
import { closeStore, codeHolds, MOST_NAME, pairPhone, reportByLink, sessionOfSecret } from '@/store';

const COOKIE = 'glade_sheet';
/** A day of shooting; the secret itself holds until it is revoked. */
const COOKIE_SECONDS = 36 * 3600;
const MOST_FORM_BYTES = 4000;
/** A picture; a phone fills no disk with clips. */
const MOST_PICTURE_BYTES = 500_000_000;
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

/** Ways by which pictures are sent. */
const isSending = (path: string) => path === '/api/room' || /^\/api\/uploads(\/[\w-]+)?$/.test(path);

/**
 * What a paired phone may ask for.
 *
 * @param sends whether it may send pictures: while its sitting is looked at live
 */
export function isAllowed(method: string, path: string, session: string, sends = false): boolean {
  if (path === `/api/sessions/${session}/log`) return method === 'GET' || method === 'POST';
  if ([`/api/sessions/${session}/live/sheet`, `/api/sessions/${session}/live/pictures`].includes(path))
    return method === 'POST';
  if (sends && isSending(path))
    return path === '/api/room' ? method === 'GET' : ['HEAD', 'PATCH', 'POST'].includes(method);
  if (method !== 'GET' && method !== 'HEAD') return false;
  return (
    path === `/sessions/${session}/shoot` ||
    path === '/pick' ||
    path === '/sheet-worker.js' ||
    path === '/icon.svg' ||
    path.startsWith('/_next/static/')
  );
}

/** A page of the gate's own, on which nothing runs. */
function tell(response: ServerResponse, status: number, title: string, content: string): void {
  response.writeHead(status, {
    ...headersOf('/api/gate', ''),
    'content-type': 'text/html; charset=utf-8',
    'cache-control': 'no-store',
  });
  response.end(
    `<!doctype html><html lang="en"><meta name="viewport" content="width=device-width"><title>${title}</title>` +
      `<body style="font:17px/1.45 system-ui;max-width:26em;margin:3em auto;padding:0 1em;background:#262626;color:#ececec">` +
      `<main><h1 style="font-size:1.4em">${title}</h1>${content}</main>`,
  );
}

const DESK_AWAY = '<p>Wait a moment and load it again; taps are kept on the phone.</p>';
const NO_CODE =
  '<p>It was used, is more than ten minutes old, or is no code of this desk. Make a new one on the Shoot page of the desk.</p>';
const FIELD =
  'font:inherit;padding:.55em .7em;border-radius:8px;border:1px solid #8a8a8a;width:100%;box-sizing:border-box';
/** Pairing takes a press: an app that looks into every address it is shown doesn't use the code up. */
const NAME_FORM =
  `<p>It will see one run sheet of the desk, and tap on it, send pictures while its sitting is live, and pick filters of its kits, until it is revoked there.</p><form method="post">` +
  `<label>What is this phone called? <input name="name" maxlength="${MOST_NAME}" autocomplete="off" placeholder="A phone" style="${FIELD};margin:.4em 0 1em;background:#1b1b1b;color:inherit"></label>` +
  `<button style="${FIELD};background:#9fe3c4;color:#111;font-weight:650;border:0">Pair this phone</button></form>`;

/** Starts the gate before a server on loopback. */
export function startGate(port: number, target: number, host = '0.0.0.0'): Promise<Server> {
  const server = createServer((message, response) => {
    pass(message, response, target).catch(() => {
      if (!response.headersSent) tell(response, 502, 'The desk does not answer', DESK_AWAY);
      else response.end();
    });
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server));
  });
}

async function pass(message: IncomingMessage, response: ServerResponse, target: number): Promise<void> {
  const { address } = cameBy(message);
  const method = message.method ?? 'GET';
  // Dots and escapes are resolved before anything is compared.
  const { pathname: path, search } = new URL(message.url ?? '/', 'http://gate');
  if (tooMany(address))
    return tell(response, 429, 'Too many tries', '<p>Wait a minute, then scan the code on the desk again.</p>');
  if (path === '/trust' && method === 'GET') return tellRoot(message, response);
  const pairing = /^\/pair\/([\w-]{20,100})$/.exec(path);
  if (pairing) return pair(pairing[1], message, response);
  const link = /^\/r\/([0-9a-f]{32})$/.exec(path);
  if (link && (method === 'GET' || method === 'HEAD')) {
    if (await reportByLink(link[1])) return forward(message, response, target, path);
    noteWrong(address);
    return tell(
      response,
      404,
      'No report is read by this link',
      '<p>It was ended, or its time is over. Ask whoever gave it to you.</p>',
    );
  }
  const secret = cookieOf(message.headers.cookie, COOKIE);
  const session = secret === null ? null : await sessionOfSecret(secret);
  if (session === null) {
    if (secret !== null) noteWrong(address);
    return tell(response, 403, 'Not paired', '<p>Scan the code on the Shoot page of the desk with this phone.</p>');
  }
  const sends = isSending(path) && (await liveSitting())?.session === session;
  // One that doesn't say how long it will be could be of any length.
  if (sends && method === 'POST' && !(Number(message.headers['upload-length'] ?? NaN) <= MOST_PICTURE_BYTES))
    return tell(
      response,
      413,
      'Too large for a phone',
      '<p>Clips come over the card, on the page Live or Footage.</p>',
    );
  if (/%2f|%5c|\\/i.test(path) || !isAllowed(method, path, session, sends))
    return tell(
      response,
      403,
      'Not on this sheet',
      '<p>A paired phone sees its run sheet and the pick, and sends pictures while its sitting is live; everything else is on the desk.</p>',
    );
  forward(message, response, target, path + search);
}

/** What trusting this desk's root means, and the root: by plain http, since whoever comes here doesn't trust it yet. */
function tellRoot(message: IncomingMessage, response: ServerResponse): void {
  const root = deskRoot();
  if (!root) return tell(response, 404, 'Nothing to trust here', '<p>This desk answers without a root of its own.</p>');
  const host = (message.headers.host ?? '').replace(/:\d+$/, '').replace(/[^\w.-]/g, '');
  tell(
    response,
    200,
    'Trust this desk',
    `<p>It signs its addresses itself. When this phone trusts its root, the run sheet opens without a warning, and again offline.</p>` +
      `<p>Trust it only if the desk is yours: whoever holds it could show this phone false pages, though for addresses of local networks alone. Take it out of the phone’s settings when you are done.</p>` +
      `<p>1. <a href="/root.crt" style="color:#9fe3c4">Fetch the root</a> and install it as a certificate authority: the phone’s settings ask for it under security, or profiles.</p>` +
      `<p>2. Compare its SHA-256 with what the Shoot page of the desk says:</p><p style="font-family:monospace;overflow-wrap:anywhere">${root.fingerprint}</p>` +
      `<p>3. Scan the pairing code on the desk${host ? `; its address begins with https://${host}` : ''}.</p>`,
  );
}

/** Shows what a code is for, and uses it when that is confirmed. */
async function pair(code: string, message: IncomingMessage, response: ServerResponse): Promise<void> {
  const { address, scheme } = cameBy(message);
  const refuse = () => {
    noteWrong(address);
    tell(response, 403, 'This code does not hold', NO_CODE);
  };
  if (message.method !== 'POST')
    return (await codeHolds(code)) ? tell(response, 200, 'Pair this phone', NAME_FORM) : refuse();
  const { origin, host } = message.headers;
  if (origin !== undefined && origin !== `${scheme}://${host}`) return refuse();
  const name = new URLSearchParams(await shortBody(message)).get('name') ?? '';
  const paired = await pairPhone(code, name);
  if (!paired) return refuse();
  response.writeHead(303, {
    ...headersOf('/api/gate', ''),
    location: `/sessions/${paired.session}/shoot`,
    'set-cookie': `${COOKIE}=${paired.secret}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${COOKIE_SECONDS}${scheme === 'https' ? '; Secure' : ''}`,
    'cache-control': 'no-store',
  });
  response.end();
}

/** The text of a small form; what is longer is none of ours, and read no further. */
async function shortBody(message: IncomingMessage): Promise<string> {
  const parts: Buffer[] = [];
  let bytes = 0;
  for await (const part of message as AsyncIterable<Buffer>) {
    bytes += part.length;
    if (bytes > MOST_FORM_BYTES) return '';
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}

function forward(message: IncomingMessage, response: ServerResponse, target: number, path: string): void {
  // What a proxy or the framework itself would say comes from nobody outside.
  const headers: Record<string, unknown> = Object.fromEntries(
    Object.entries(message.headers).filter(([name]) => name !== 'cookie' && !name.startsWith('x-')),
  );
  // The application answers its own names alone; a page of the phone's name here is one of its own.
  if (message.headers.origin === `${cameBy(message).scheme}://${message.headers.host}`)
    headers.origin = `http://localhost:${target}`;
  headers.host = `localhost:${target}`;
  const inner = askServer(
    { host: '127.0.0.1', port: target, method: message.method, path, headers: headers as OutgoingHttpHeaders },
    (answer) => {
      response.writeHead(answer.statusCode ?? 502, answer.headers);
      answer.pipe(response);
    },
  );
  inner.on('error', () => {
    if (!response.headersSent) tell(response, 502, 'The desk does not answer', DESK_AWAY);
    else response.destroy();
  });
  message.pipe(inner);
}

async function main(): Promise<void> {
  const [port, target] = process.argv.slice(2).map(Number);
  if (!(port > 0) || !(target > 0)) throw new Error('usage: gate PORT PORT-OF-THE-APPLICATION [ADDRESS]');
  const server = await startGate(port, target, process.argv[4]);
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
