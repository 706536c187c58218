/**
 * The list of routes, from the files themselves, beside what each may be asked for and by whom. A route that is new, or answers another
 * method, fails here until it has an entry.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { isAllowed } from '@/cli/gate';
import { entryOf, refusalOf } from './door';

jest.mock('@/store', () => ({ closeStore: jest.fn(), sessionOfSecret: jest.fn() }));

const APP = resolve(__dirname, '../app');
type Method = 'GET' | 'HEAD' | 'OPTIONS' | 'POST' | 'PATCH' | 'DELETE';

const SESSION = '/api/sessions/[id]';
/**
 * Who may ask: pages of ours and programs of this machine; `phone` for a paired phone too, of its own sheet. Where people sign in, readers ask
 * what changes nothing and what `readers` names, and strangers what `strangers` names.
 */
interface Entry {
  methods: Method[];
  phone?: Method[];
  readers?: Method[];
  strangers?: Method[];
}
const ROUTES: Record<string, Entry> = {
  '/api/account/passkeys': { methods: ['DELETE', 'POST'], readers: ['DELETE', 'POST'] },
  '/api/account/password': { methods: ['POST'], readers: ['POST'] },
  '/api/account/signins': { methods: ['DELETE'], readers: ['DELETE'] },
  '/api/account/signout': { methods: ['POST'], readers: ['POST'] },
  '/api/bundles': { methods: ['POST'] },
  '/api/files': { methods: ['POST'] },
  '/api/files/[sha256]': { methods: ['GET'] },
  '/api/files/[sha256]/reel': { methods: ['GET'] },
  '/api/files/[sha256]/strip': { methods: ['GET'] },
  '/api/files/[sha256]/tiles': { methods: ['GET'] },
  '/api/health': { methods: ['GET'] },
  '/api/inbox': { methods: ['DELETE', 'GET'] },
  '/api/kits': { methods: ['GET'] },
  '/api/kits/[id]': { methods: ['GET'] },
  '/api/kits/[id]/form': { methods: ['GET'] },
  '/api/metrics': { methods: ['GET'] },
  '/api/photos': { methods: ['POST'] },
  '/api/reports/[id]/page': { methods: ['GET'] },
  '/api/reports/[id]/pdf': { methods: ['GET'] },
  '/api/rigs/[id]/check': { methods: ['GET'] },
  '/api/room': { methods: ['GET'] },
  '/api/sessions': { methods: ['POST'] },
  [`${SESSION}/averaged`]: { methods: ['GET'] },
  [`${SESSION}/bundle`]: { methods: ['GET'] },
  [`${SESSION}/camera`]: { methods: ['POST'] },
  [`${SESSION}/crop`]: { methods: ['GET'] },
  [`${SESSION}/exports`]: { methods: ['GET'] },
  [`${SESSION}/frame`]: { methods: ['GET'] },
  [`${SESSION}/live`]: { methods: ['POST'] },
  [`${SESSION}/live/pictures`]: { methods: ['POST'], phone: ['POST'] },
  [`${SESSION}/live/sheet`]: { methods: ['POST'], phone: ['POST'] },
  [`${SESSION}/log`]: { methods: ['GET', 'POST'], phone: ['GET', 'POST'] },
  [`${SESSION}/pose`]: { methods: ['GET'] },
  [`${SESSION}/practice`]: { methods: ['POST'] },
  [`${SESSION}/progress`]: { methods: ['GET'] },
  [`${SESSION}/proposals`]: { methods: ['GET'] },
  [`${SESSION}/readings.csv`]: { methods: ['GET'] },
  [`${SESSION}/readings.json`]: { methods: ['GET'] },
  [`${SESSION}/statistics`]: { methods: ['POST'], readers: ['POST'] },
  '/api/signin': { methods: ['POST'], readers: ['POST'], strangers: ['POST'] },
  '/api/signin/passkey': { methods: ['POST'], readers: ['POST'], strangers: ['POST'] },
  '/api/uploads/[[...path]]': { methods: ['DELETE', 'HEAD', 'OPTIONS', 'PATCH', 'POST'] },
  '/r/[link]': { methods: ['GET'], strangers: ['GET'] },
};

interface Route {
  path: string;
  methods: string[];
  text: string;
}

const FOUND: Route[] = readdirSync(APP, { recursive: true })
  .map(String)
  .filter((name) => name.endsWith('route.ts'))
  .map((name) => {
    const text = readFileSync(join(APP, name), 'utf8');
    const methods = /export (?:async )?(?:function|const) ([A-Z]+)|\bas (GET|HEAD|OPTIONS|POST|PUT|PATCH|DELETE)\b/g;
    return {
      path: `/${name.replace(/\/route\.ts$/, '')}`,
      methods: [...text.matchAll(methods)].map((one) => one[1] ?? one[2]).sort(),
      text,
    };
  });

test('every route has an entry, and answers what it says', () => {
  const found = Object.fromEntries(FOUND.map(({ path, methods }) => [path, methods]));
  expect(found).toEqual(Object.fromEntries(Object.entries(ROUTES).map(([path, { methods }]) => [path, methods])));
});

const CHANGES = ['POST', 'PATCH', 'DELETE', 'PUT'];
const all = FOUND.flatMap(({ path, methods }) => methods.map((method) => [method, path] as const));

test.each(all)('%s %s: by our names and from our pages alone', (method, path) => {
  const here = { host: 'localhost:8420' };
  expect(refusalOf({ method, headers: { ...here, origin: 'http://localhost:8420' } })).toBeNull();
  expect(refusalOf({ method, headers: { host: 'elsewhere.example' } })?.status).toBe(421);
  const foreign = refusalOf({ method, headers: { ...here, origin: 'http://elsewhere.example' } })?.status;
  expect(foreign).toBe(CHANGES.includes(method) ? 403 : undefined);
  // The door is one lock; whatever changes something has one of its own.
  if (CHANGES.includes(method)) expect(FOUND.find((one) => one.path === path)!.text).toContain('checkOrigin(request)');
});

test.each(all)('%s %s: roles', (method, path) => {
  const asked = path.replace('[link]', '0a'.repeat(16)).replace(/\[\[?[^\]]+\]?\]/g, 'x');
  const { readers = [], strangers = [] } = ROUTES[path];
  const named = (list: Method[]) => list.includes(method as Method);
  expect(entryOf('owner', method, asked)).toBe('in');
  expect(entryOf('reviewer', method, asked)).toBe('in');
  const reads = !CHANGES.includes(method) || named(readers);
  expect(entryOf('reader', method, asked)).toBe(reads ? 'in' : 'not with this role');
  // What an action's header says makes no route a page.
  expect(entryOf('reader', method, asked, true)).toBe(reads ? 'in' : 'not with this role');
  expect(entryOf(null, method, asked)).toBe(named(strangers) ? 'in' : 'sign in');
});

test.each(all)('%s %s: a paired phone', (method, path) => {
  const asked = (id: string) => path.replace('[id]', id).replace(/\[\[?[^\]]+\]?\]/g, 'x');
  const may = ROUTES[path]?.phone?.includes(method as Method) ?? false;
  expect(isAllowed(method, asked('mine'), 'mine')).toBe(may);
  expect(isAllowed(method, asked('another'), 'mine')).toBe(false);
});

test.each([
  ['its sheet', 'GET', '/sessions/mine/shoot', true],
  ['another’s', 'GET', '/sessions/another/shoot', false],
  ['its verdict', 'GET', '/sessions/mine/verdict', false],
  ['the first page', 'GET', '/', false],
  ['a change of the sheet', 'POST', '/sessions/mine/shoot', false],
  ['kits', 'GET', '/kits', false],
  ['scripts of the pages', 'GET', '/_next/static/x.js', true],
  ['the framework’s pictures', 'GET', '/_next/image', false],
])('a paired phone and %s', (_, method, path, may) => expect(isAllowed(method, path, 'mine')).toBe(may));
