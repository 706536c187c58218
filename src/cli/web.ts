/** The web server: the framework's own behind our door. On loopback nobody signs in; behind a name that others reach everybody does. */
import { randomBytes, randomUUID } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { DOOR_WORDS } from '@/core/words/door';
import { cameBy, COOKIE, cookieOf, entryOf, headersOf, isDoing, isForwarded, refusalOf } from '@/server/door';
import { inRequest, log } from '@/log/log';
import { actingAs, isAway, noteDoing, signedIn, type Who } from '@/store';

type Handle = (message: IncomingMessage, response: ServerResponse) => Promise<void>;

/** Whoever hasn't signed in: no account has this number, and no role has less. */
const STRANGER = { account: 0, signIn: 0, name: 'nobody', role: 'reader' } as const;

/** Lets in what the door lets in, with the headers that every answer has. */
export function behindDoor(handle: Handle, names?: readonly string[]): Handle {
  return async (message, response) => {
    // Only the path is looked at; a request line may be anything.
    const path = pathOf(message);
    const headers = headersOf(path, randomBytes(16).toString('base64'));
    for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
    const refusal = refusalOf(message, names);
    if (refusal) return turnAway(message, response, refusal.status, refusal.words);
    for (const name of Object.keys(message.headers)) if (isForwarded(name)) delete message.headers[name];
    // The framework takes the nonce of its own scripts from here.
    message.headers['content-security-policy'] = headers['content-security-policy'];
    await handle(message, response);
  };
}

/**
 * The door for others than the desk: whoever isn't signed in is led to where they can, and each works in their own name.
 *
 * @param name the only one that is answered
 */
export function behindSignIn(handle: Handle, name: string): Handle {
  return async (message, response) => {
    const { address } = cameBy(message);
    const path = pathOf(message);
    const method = message.method ?? 'GET';
    const inside = behindDoor(
      async (asked, answer) => {
        const token = cookieOf(asked.headers.cookie, COOKIE);
        // Scripts of the pages are anybody's; each page asks for dozens.
        const isScript = path.startsWith('/_next/static/');
        const person: Who | null = token === null || isScript ? null : await signedIn(token, address);
        const isAction = method === 'POST' && asked.headers['next-action'] !== undefined;
        const entry = entryOf(person?.role ?? null, method, path, isAction);
        // What is told of one person is nobody else's: nothing on the way may keep it.
        response.setHeader('vary', 'cookie');
        if (entry === 'sign in') return leadToSignIn(asked, answer);
        if (entry !== 'in') return turnAway(asked, answer, 403, DOOR_WORDS.reader);
        if (person && !isAction && isDoing(method, path)) await noteDoing(person, method, path);
        await actingAs(person ?? { ...STRANGER, address }, () => handle(asked, answer));
        // Of actions those that only asked are no line of the record.
        if (isAction && person?.wrote) await noteDoing(person, method, path);
      },
      [name],
    );
    await inside(message, response);
  };
}

const pathOf = (message: IncomingMessage) => (message.url ?? '/').split(/[?#]/)[0];

function leadToSignIn(message: IncomingMessage, response: ServerResponse): void {
  const wantsPage = message.method === 'GET' && (message.headers.accept ?? '').includes('text/html');
  if (!wantsPage) return turnAway(message, response, 401, DOOR_WORDS.signedOut);
  response.writeHead(303, {
    location: `/signin?to=${encodeURIComponent(message.url ?? '/')}`,
    'cache-control': 'no-store',
  });
  response.end();
}

/** The framework's own calls show a sentence that comes as plain text; everything else of ours reads JSON. */
function turnAway(message: IncomingMessage, response: ServerResponse, status: number, words: string): void {
  message.resume();
  const isAction = message.headers['next-action'] !== undefined;
  response.writeHead(status, { 'content-type': isAction ? 'text/plain' : 'application/json', connection: 'close' });
  response.end(isAction ? words : JSON.stringify({ error: words }));
}

/** An answer that took so long is written down whatever was asked, milliseconds. */
const SLOW_MS = 1000;
/** Pages ask these again and again while a sitting goes on, and some of them wait for news. */
const OFTEN = /\/live(\/sheet)?$|\/log$|\/progress$/;

/** Gives each request a number, which its answer bears, and writes down what it came to: changes, refusals and what took long. */
export function numbered(handle: Handle, to: typeof log = log): Handle {
  return async (message, response) => {
    const request = randomUUID();
    response.setHeader('x-request-id', request);
    // Who knows a report's link may read it: it is nothing for a log.
    const path = pathOf(message).replace(/^\/r\/.*/, '/r/…');
    const [method, began] = [message.method ?? 'GET', performance.now()];
    response.once('close', () => {
      const [status, ms] = [response.statusCode, Math.round(performance.now() - began)];
      const isChange = method !== 'GET' && method !== 'HEAD';
      const isTold = !OFTEN.test(path) && (isChange || ms >= SLOW_MS);
      const level = status >= 500 ? 'error' : status >= 400 ? 'warn' : isTold ? 'info' : 'debug';
      to[level](
        { request, method, path, status, ms },
        response.writableFinished ? 'answered' : 'left before its answer',
      );
    });
    await inRequest(request, () => handle(message, response));
  };
}

/** Answers in words what nobody foresaw. */
export function telling(handle: Handle): Handle {
  return async (message, response) => {
    try {
      await handle(message, response);
    } catch (error) {
      if (isAway(error) && !response.headersSent)
        return turnAway(message, response, 503, 'The database doesn’t answer; it is being started again.');
      log.error(error);
      if (!response.headersSent) response.writeHead(500, { 'content-type': 'application/json' });
      response.end(JSON.stringify({ error: 'Something went wrong on the server; its log says what.' }));
    }
  };
}

function serve(inside: Handle, port: number): Promise<Server> {
  const handle = numbered(telling(inside));
  const server = createServer((message, response) => void handle(message, response));
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}

/**
 * Starts the application on loopback.
 *
 * @param host the name that people sign in by, and the port (of loopback too) where https is undone and handed on
 */
async function start(port: number, host: { name: string; port: number } | null): Promise<Server[]> {
  Object.assign(process.env, { NODE_ENV: 'production' });
  const { default: next } = await import('next');
  const application = next({ dev: false, dir: process.cwd(), hostname: '127.0.0.1', port });
  await application.prepare();
  const handle = application.getRequestHandler();
  return Promise.all([
    serve(behindDoor(handle), port),
    ...(host ? [serve(behindSignIn(handle, host.name.toLowerCase()), host.port)] : []),
  ]);
}

if (process.argv[1]?.endsWith('web.mjs')) {
  const [port, hostPort] = [process.argv[2], process.argv[4]].map(Number);
  const name = process.argv[3];
  if (!(port > 0) || (name !== undefined && !(hostPort > 0))) {
    console.error('usage: web PORT [NAME PORT]');
    process.exit(2);
  }
  start(port, name === undefined ? null : { name, port: hostPort }).then(
    (servers) => {
      for (const signal of ['SIGTERM', 'SIGINT'] as const)
        process.on(signal, () => {
          void Promise.all(servers.map((one) => new Promise((done) => one.close(done)))).then(() => process.exit(0));
          for (const one of servers) one.closeAllConnections();
        });
    },
    (error: Error) => {
      console.error(error.message);
      process.exit(1);
    },
  );
}
