/** https for the network by the shell's own functions: what its root may sign, where it is kept, and that it is made once. */
import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import { get } from 'node:https';
import { createServer as createProbe, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const ROOT = resolve(__dirname, '..');
let place: string;
let behind: Server;
let [port, trust] = [0, 0];
let stop: () => void = () => undefined;

const freePort = () =>
  new Promise<number>((done) => {
    const probe = createProbe().listen(0, '127.0.0.1', () => {
      const { port: free } = probe.address() as AddressInfo;
      probe.close(() => done(free));
    });
  });

/** Runs words of the shell with the parts of `./glade` read in. */
const shell = (words: string) => {
  const parts = ['common', 'packages', 'tls', 'application'].map((part) => `. scripts/shell/${part}.sh`).join('; ');
  return execFile('bash', ['-euc', `ROOT=$PWD; ${parts}; ${words}`], { cwd: ROOT, env: { ...process.env, GLADE_VAR: place } }); // prettier-ignore
};
const done = (words: string) =>
  new Promise<{ code: number | null; words: string }>((tell) => {
    const child = shell(words);
    let said = '';
    child.stdout!.on('data', (part: string) => (said += part));
    child.stderr!.on('data', (part: string) => (said += part));
    child.on('close', (code) => tell({ code, words: said }));
  });

/** Asks by https as a client that trusts this authority alone; its status and body, or why it didn't trust. */
const ask = (host: string, ca?: string, named = host) =>
  new Promise<string>((tell) => {
    const request = get(
      {
        host,
        port,
        path: '/',
        ca,
        headers: { host: `${named}:${port}` },
        servername: host === named ? undefined : '',
        agent: false,
      },
      (answer) => {
        let body = '';
        answer.on('data', (part: Buffer) => (body += part.toString()));
        answer.on('end', () => tell(`${answer.statusCode} ${body}`));
      },
    );
    request.on('error', (error: NodeJS.ErrnoException) => tell(error.code ?? error.message));
  });

beforeAll(async () => {
  place = await mkdtemp(join(tmpdir(), 'glade-tls-'));
  behind = createServer((request, response) => response.end(`${request.url} by ${request.headers['x-forwarded-proto']} of ${request.headers['x-forwarded-for']}`)); // prettier-ignore
  await new Promise<void>((ready) => behind.listen(0, '127.0.0.1', ready));
  [port, trust] = [await freePort(), await freePort()];
  const child = shell(`start_tls ${port} ${(behind.address() as AddressInfo).port} ${trust}; wait "$CADDY_PID"`);
  // The one that it was started by ends it.
  stop = () => void child.kill('SIGKILL');
  // It signs its addresses a moment after it listens.
  for (let tries = 0; tries < 600; tries++) {
    if (/^200/.test(await ask('127.0.0.1', await rootOf().catch(() => '')))) return;
    await new Promise((next) => setTimeout(next, 100));
  }
  throw new Error(await readFile(join(place, 'caddy.log'), 'utf8').catch(() => 'Caddy did not begin.'));
}, 120_000);
afterAll(async () => {
  stop();
  behind.close();
  await rm(place, { recursive: true, force: true, maxRetries: 5 });
});

const rootOf = () => readFile(join(place, 'tls', 'root.crt'), 'utf8');

test('who trusts the root is answered by https, and what lies behind is told who asked; nobody else trusts it', async () => {
  expect(await ask('127.0.0.1', await rootOf())).toBe('200 / by https of 127.0.0.1');
  expect(await ask('localhost', await rootOf())).toMatch(/^200/);
  expect(await ask('127.0.0.1')).toMatch(/UNABLE_TO_GET_ISSUER_CERT|SELF_SIGNED|UNABLE_TO_VERIFY/);
});

test('a name that it was not started for is turned away in words', async () => {
  expect(await ask('127.0.0.1', await rootOf(), 'evil.example')).toMatch(/^421 .*not by another/);
});

test('the root is handed out by plain http, the key is not; all else there is the page that explains it', async () => {
  const answer = await fetch(`http://127.0.0.1:${trust}/root.crt`);
  expect([answer.headers.get('content-type'), await answer.text()]).toEqual([
    'application/x-x509-ca-cert',
    await rootOf(),
  ]);
  for (const path of ['/', '/root.key', '/kept/', '/../root.key', '/root.crt/../root.key'])
    expect(await (await fetch(`http://127.0.0.1:${trust}${path}`)).text()).toMatch(/^\/trust by http/);
  expect((await stat(join(place, 'tls', 'root.key'))).mode & 0o077).toBe(0);
});

test('it is made once, and can vouch for local names alone', async () => {
  const before = await rootOf();
  expect(await done('make_root')).toMatchObject({ code: 0 });
  expect(await rootOf()).toBe(before);
  // Certificates that its key signs for a name: OpenSSL holds them against what the root permits.
  const verdictOf = async (name: string) => {
    await writeFile(join(place, 'leaf.conf'), `subjectAltName = ${name}\n`);
    const { words } = await done(
      `cd "$GLADE_VAR"; openssl req -new -newkey ec -pkeyopt ec_paramgen_curve:prime256v1 -nodes -subj /CN=x -keyout leaf.key -out leaf.csr 2>/dev/null;` +
        `openssl x509 -req -in leaf.csr -CA tls/root.crt -CAkey tls/root.key -days 1 -extfile leaf.conf -out leaf.crt 2>/dev/null; openssl verify -CAfile tls/root.crt leaf.crt`,
    );
    return /permitted subtree violation/.test(words) ? 'refused' : /leaf\.crt: OK/.test(words) ? 'trusted' : words;
  };
  for (const name of ['IP:192.168.1.7', 'IP:10.1.2.3', 'DNS:desk.local', 'DNS:localhost'])
    expect([name, await verdictOf(name)]).toEqual([name, 'trusted']);
  for (const name of ['DNS:bank.example', 'IP:8.8.8.8', 'DNS:local.example'])
    expect([name, await verdictOf(name)]).toEqual([name, 'refused']);
});

test('a certificate that is given is taken, and one that is missing told', async () => {
  const { code, words } = await done('start_tls 1 2 "" /nowhere/cert.pem /nowhere/key.pem');
  expect([code, words]).toEqual([1, expect.stringContaining('/nowhere/cert.pem or its key')]);
  expect(await done(`tls_folder >/dev/null; write_caddyfile 4431 4432 "" "$GLADE_VAR/tls/root.crt" "$GLADE_VAR/tls/root.key"; caddy adapt --adapter caddyfile --config "$GLADE_VAR/tls/Caddyfile"`)).toMatchObject({ code: 0, words: expect.stringContaining('root.crt') }); // prettier-ignore
});
