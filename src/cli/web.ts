/** The web server: the framework's own behind our door. */
import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { headersOf, isForwarded, refusalOf } from '@/server/door';

type Handle = (message: IncomingMessage, response: ServerResponse) => Promise<void>;

/** Lets in what the door lets in, with the headers that every answer has. */
export function behindDoor(handle: Handle): Handle {
  return async (message, response) => {
    // Only the path is looked at; a request line may be anything.
    const path = (message.url ?? '/').split(/[?#]/)[0];
    const headers = headersOf(path, randomBytes(16).toString('base64'));
    for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
    const refusal = refusalOf(message);
    if (refusal) {
      message.resume();
      response.writeHead(refusal.status, { 'content-type': 'application/json', connection: 'close' });
      response.end(JSON.stringify({ error: refusal.words }));
      return;
    }
    for (const name of Object.keys(message.headers)) if (isForwarded(name)) delete message.headers[name];
    // The framework takes the nonce of its own scripts from here.
    message.headers['content-security-policy'] = headers['content-security-policy'];
    await handle(message, response);
  };
}

/** Starts the application on loopback. */
async function start(port: number): Promise<Server> {
  Object.assign(process.env, { NODE_ENV: 'production' });
  const { default: next } = await import('next');
  const application = next({ dev: false, dir: process.cwd(), hostname: '127.0.0.1', port });
  await application.prepare();
  const handle = behindDoor(application.getRequestHandler());
  const server = createServer((message, response) => {
    handle(message, response).catch((error: unknown) => {
      console.error(error);
      if (!response.headersSent) response.writeHead(500, { 'content-type': 'application/json' });
      response.end(JSON.stringify({ error: 'Something went wrong on the server; its log says what.' }));
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return server;
}

if (process.argv[1]?.endsWith('web.mjs')) {
  const port = Number(process.argv[2]);
  if (!(port > 0)) {
    console.error('usage: web PORT');
    process.exit(2);
  }
  start(port).then(
    (server) => {
      for (const name of ['SIGTERM', 'SIGINT'] as const)
        process.on(name, () => {
          server.close(() => process.exit(0));
          server.closeAllConnections();
        });
    },
    (error: Error) => {
      console.error(error.message);
      process.exit(1);
    },
  );
}
