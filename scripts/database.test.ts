/** The database's own life by the command that people type: lost secrets, ids of strangers, folders that are none. Data are never thrown away. */
import { execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { copyFile, mkdir, mkdtemp, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { connect, createServer, type AddressInfo, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Sequelize } from 'sequelize';

const ROOT = resolve(__dirname, '..');
let place: string;
const at = (...parts: string[]) => join(place, ...parts);

interface Said {
  code: number;
  words: string;
}

/** `./glade db WORD` in the test's own place. */
const db = (word: string) =>
  new Promise<Said>((done) => {
    const env = { ...process.env, GLADE_VAR: place, GLADE_DB_PORT: '25960' };
    execFile('bash', ['glade', 'db', word], { cwd: ROOT, env }, (error, out, err) =>
      done({ code: error ? Number(error.code) : 0, words: out + err }),
    );
  });

/** Asks the database with the password that lies beside it. */
async function asked(sql: string): Promise<unknown> {
  const { port, password } = JSON.parse(await readFile(at('database.json'), 'utf8')) as {
    port: number;
    password: string;
  };
  const database = new Sequelize('glade', 'glade', password, {
    host: '127.0.0.1',
    port,
    dialect: 'mysql',
    logging: false,
  });
  try {
    return (await database.query(sql))[0];
  } finally {
    await database.close();
  }
}
const kept = () => asked('SELECT word FROM kept');

beforeAll(async () => {
  place = await mkdtemp(join(tmpdir(), 'glade-database-'));
  expect(await db('start')).toMatchObject({ code: 0, words: expect.stringContaining('Making the database') });
  await asked('CREATE TABLE kept (word VARCHAR(20))');
  await asked("INSERT INTO kept VALUES ('years of work')");
});
afterAll(async () => {
  await db('stop');
  await rm(place, { recursive: true });
});
const YEARS = [{ word: 'years of work' }];

test('a second start finds it there', async () => {
  expect((await db('start')).words).not.toContain('Making');
  expect(await kept()).toEqual(YEARS);
});

test.each(['missing', 'empty', 'cut short'])(
  'secrets that are %s are put back from their copy, while it runs too',
  async (how) => {
    const text = await readFile(at('database.json'), 'utf8');
    if (how === 'missing') await rm(at('database.json'));
    else await writeFile(at('database.json'), how === 'empty' ? '' : text.slice(0, 40));
    expect(await db('start')).toMatchObject({ code: 0, words: expect.stringContaining('put back from its copy') });
    expect(await readFile(at('database.json'), 'utf8')).toBe(text);
    expect(await kept()).toEqual(YEARS);
  },
);

test.each([[true], [false]])('both copies lost (running: %s): new ones for the same data', async (running) => {
  if (!running) await db('stop');
  for (const one of ['database.json', 'db/glade-secrets.json']) await rm(at(one));
  expect(await db('start')).toMatchObject({ code: 0, words: expect.stringContaining('Its data stay as they are') });
  expect(await kept()).toEqual(YEARS);
});

test('an id that names a stranger’s process ends nothing', async () => {
  await db('stop');
  const stranger = spawn('sleep', ['600']);
  try {
    await writeFile(at('db.pid'), `${stranger.pid}\n`);
    expect((await db('status')).words).toContain('not running');
    expect((await db('stop')).code).toBe(0);
    expect(stranger.exitCode).toBeNull();
    expect(process.kill(stranger.pid!, 0)).toBe(true);
    expect((await db('start')).code).toBe(0);
    expect(await kept()).toEqual(YEARS);
  } finally {
    stranger.kill('SIGKILL');
  }
});

test.each(['a server', 'a client’s own end of a line'])('%s holds its port: it starts on another', async (who) => {
  await db('stop');
  const server = await new Promise<Server>((done) => {
    const made = createServer().listen(0, '127.0.0.1', () => done(made));
  });
  const { port } = server.address() as AddressInfo;
  const line = connect(port, '127.0.0.1');
  await once(line, 'connect');
  try {
    const held = who === 'a server' ? port : line.localPort!;
    for (const one of ['database.json', 'db/glade-secrets.json']) {
      const secrets = JSON.parse(await readFile(at(one), 'utf8')) as object;
      await writeFile(at(one), JSON.stringify({ ...secrets, port: held }));
    }
    expect((await db('start')).code).toBe(0);
    const { port: now } = JSON.parse(await readFile(at('database.json'), 'utf8')) as { port: number };
    expect(now).not.toBe(held);
    expect(await kept()).toEqual(YEARS);
  } finally {
    line.destroy();
    server.close();
  }
});

test('a folder that is no database is refused and left as it is', async () => {
  await db('stop');
  await rename(at('db'), at('elsewhere'));
  await mkdir(at('db'));
  await copyFile(at('database.json'), at('db/somebody’s.txt'));
  expect(await db('start')).toMatchObject({ code: 1, words: expect.stringContaining('no database of Aurora Glade') });
  expect(existsSync(at('db/somebody’s.txt'))).toBe(true);
  await rm(at('db'), { recursive: true });
  await rename(at('elsewhere'), at('db'));
  expect((await db('start')).code).toBe(0);
  expect(await kept()).toEqual(YEARS);
});

test('one that was being made when the power went is begun anew', async () => {
  const other = at('other');
  await mkdir(join(other, 'db.making', 'mysql'), { recursive: true });
  const before = place;
  place = other;
  try {
    expect(await db('start')).toMatchObject({ code: 0, words: expect.stringContaining('Making the database') });
    expect(existsSync(join(other, 'db.making'))).toBe(false);
    expect(await asked('SELECT 1 AS one')).toEqual([{ one: 1 }]);
    await db('stop');
  } finally {
    place = before;
  }
});
