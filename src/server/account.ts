/** A person's own account, and what owners see of everybody's. */
import { z } from 'zod';
import { listAccounts, listDoings, passkeysOf, signInsOf, who, type Role } from '@/store';
import { RequestError } from './http';

/** Who is signed in. @throws RequestError at the desk, where nobody is */
export function signedInPerson(): { account: number; signIn: number; name: string; role: Role; address: string } {
  const { account, signIn, ...rest } = who();
  if (account === null || signIn === null) throw new RequestError(409, 'Nobody is signed in here.');
  return { account, signIn, ...rest };
}

/** An answer that sets cookies. */
export function signedInAnswer(cookies: readonly string[]): Response {
  const answer = Response.json({ ok: true }, { headers: { 'cache-control': 'no-store' } });
  for (const one of cookies) answer.headers.append('set-cookie', one);
  return answer;
}

/** What a browser is to ask of a passkey. */
export const askedAnswer = ({ options, cookie }: { options: object; cookie: string }): Response =>
  Response.json({ options }, { headers: { 'set-cookie': cookie, 'cache-control': 'no-store' } });

/** The `?id=` of a request. @throws RequestError */
export function idAsked(request: Request): number {
  const id = z.coerce.number().int().positive().safeParse(new URL(request.url).searchParams.get('id'));
  if (!id.success) throw new RequestError(400, 'Expected an id.');
  return id.data;
}

export interface AccountView {
  name: string;
  role: Role;
  passkeys: { id: number; name: string; created: string; used: string | null }[];
  browsers: { id: number; words: string; address: string; since: string; seen: string; own: boolean }[];
}

/** One's own account; `null` at the desk. */
export async function accountView(): Promise<AccountView | null> {
  const { account, signIn, name, role } = who();
  if (account === null) return null;
  const [passkeys, browsers] = await Promise.all([passkeysOf(account), signInsOf(account)]);
  return {
    name,
    role,
    passkeys: passkeys.map((one) => ({
      id: one.id,
      name: one.name,
      created: one.createdAt.toISOString(),
      used: one.usedAt?.toISOString() ?? null,
    })),
    browsers: browsers.map((one) => ({
      id: one.id,
      words: browserWords(one.browser),
      address: one.address,
      since: one.createdAt.toISOString(),
      seen: one.seenAt.toISOString(),
      own: one.id === signIn,
    })),
  };
}

/** A browser by its kind and system, as far as it says. */
export function browserWords(agent: string): string {
  const kind = ['Edg', 'OPR', 'Firefox', 'Chrome', 'Safari'].find((one) => agent.includes(`${one}/`));
  const system = (
    [
      ['Android', 'Android'],
      ['iPhone', 'iPhone'],
      ['iPad', 'iPad'],
      ['Windows', 'Windows'],
      ['Mac OS', 'macOS'],
      ['Linux', 'Linux'],
    ] as const
  ).find(([mark]) => agent.includes(mark))?.[1];
  const names: Record<string, string> = { Edg: 'Edge', OPR: 'Opera', Chrome: 'Chromium' };
  return [kind ? (names[kind] ?? kind) : 'A browser', system && `on ${system}`].filter(Boolean).join(' ');
}

export interface PeopleView {
  people: { name: string; role: Role; passkeys: number; since: string; seen: string | null }[];
  doings: { name: string; words: string; times: number; at: string }[];
}

const SHOWN_DOINGS = 200;

/** Everybody and what they did last; `null` for who is no owner. */
export async function peopleView(): Promise<PeopleView | null> {
  if (who().role !== 'owner') return null;
  const [people, doings] = await Promise.all([listAccounts(), listDoings(SHOWN_DOINGS)]);
  return {
    people: people.map(({ name, role, passkeys, createdAt, seenAt }) => ({
      name,
      role,
      passkeys,
      since: createdAt.toISOString(),
      seen: seenAt?.toISOString() ?? null,
    })),
    doings: doings.map(({ name, method, path, times, lastAt }) => ({
      name,
      words: doingWords(method, path),
      times,
      at: lastAt.toISOString(),
    })),
  };
}

const PLACES: Record<string, string> = {
  '': 'the list of sessions',
  kits: 'kits',
  rigs: 'rigs',
  bands: 'rating limits',
  ranking: 'ranking',
  reports: 'reports',
  plan: 'plan',
  pick: 'pick',
  'put-away': 'what was put away',
};
const ROUTES: [RegExp, string][] = [
  [/^\/api\/uploads/, 'sent files'],
  [/^\/api\/(files|photos)/, 'sent a file'],
  [/^\/api\/bundles/, 'brought a bundle in'],
  [/^\/api\/inbox/, 'put waiting files away'],
  [/^\/api\/sessions$/, 'made a session'],
  [/^\/api\/sessions\/[^/]+\/log$/, 'tapped on a run sheet'],
  [/^\/api\/sessions\/[^/]+\/practice$/, 'had a practice sitting shot'],
  [/^\/api\/account\/password$/, 'changed their password'],
  [/^\/api\/account\/passkeys$/, 'changed their passkeys'],
  [/^\/api\/account\//, 'ended a sign-in'],
];

/** A line of the record in words. */
export function doingWords(method: string, path: string): string {
  const route = ROUTES.find(([pattern]) => pattern.test(path));
  if (route) return route[1];
  const [, place, id, stage] = path.split('/');
  if (place === 'sessions' && stage) return `changed a session on its ${stage} page (${id.slice(0, 8)})`;
  return PLACES[place] ? `changed ${PLACES[place]}` : `${method} ${path}`;
}
