/**
 * The door: what is decided of a request before anything of the application sees it. Pure, so that it can be tested as a table; `cli/web`
 * stands at it.
 */
import type { IncomingHttpHeaders, IncomingMessage } from 'node:http';
import type { Role } from '@/store/who';

/** Names by which this machine calls itself. A page of another name that was pointed here is not answered. */
const LOOPBACK_NAMES = ['localhost', '127.0.0.1', '[::1]'];

/** The name of a Host header, without its port; `null` where it is none. */
export function nameOfHost(host: string | undefined): string | null {
  const match = /^(\[[0-9a-f:.]+\]|[a-z0-9-]+(?:\.[a-z0-9-]+)*)\.?(?::\d{1,5})?$/i.exec(host ?? '');
  return match ? match[1].toLowerCase() : null;
}

/** Why a request is turned away, as a status and a sentence. */
export interface Refusal {
  status: 400 | 403 | 405 | 421;
  words: string;
}

/** Name and role of who is signed in, for the page to show; nothing is decided by it. */
export const SHOWN_COOKIE = 'glade_who';
/** Who is signed in: sent back by https alone, to this name alone, and read by no script. */
export const COOKIE = '__Host-glade';

const SAFE_METHODS = new Set(['GET', 'HEAD', 'OPTIONS']);
/** Ways of asking that anything here knows; TRACE and CONNECT are for others. */
const METHODS = new Set([...SAFE_METHODS, 'POST', 'PUT', 'PATCH', 'DELETE']);
/** Whether a request asks for nothing to be changed. */
export const isSafe = (method: string): boolean => SAFE_METHODS.has(method);
/** What browsers say of where a request comes from (Fetch Metadata): pages of ours, or the person. */
const OWN_SITES = new Set(['same-origin', 'none']);

/**
 * Whether a request is turned away; `null` lets it in.
 *
 * @param names that are answered: loopback's own when left out
 */
export function refusalOf(
  { method = 'GET', headers }: { method?: string; headers: IncomingHttpHeaders },
  names: readonly string[] = LOOPBACK_NAMES,
): Refusal | null {
  const name = nameOfHost(headers.host);
  if (name === null) return { status: 400, words: 'The request names no host.' };
  if (!names.includes(name))
    return { status: 421, words: 'This is answered by the name that it was started for, not by another.' };
  if (!METHODS.has(method)) return { status: 405, words: 'Nothing here is asked for in that way.' };
  if (SAFE_METHODS.has(method)) return null;
  const { origin, 'sec-fetch-site': site } = headers;
  const foreign = origin !== undefined && hostOfOrigin(origin) !== headers.host!.toLowerCase();
  if (foreign || (typeof site === 'string' && !OWN_SITES.has(site)))
    return { status: 403, words: 'Requests from other sites are not answered.' };
  return null;
}

function hostOfOrigin(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
}

/** What is answered before anybody has signed in: the way in, what its page is made of, and reports by their links. */
const OPEN = /^\/(signin|icon\.svg|api\/signin|api\/signin\/passkey|_next\/static\/[^%]+|r\/[0-9a-f]{32})$/;
/** Pages, as ours are written: what is spelled otherwise could lead elsewhere. */
const PAGE = /^\/(?!api\/|_next\/|\/)[\w/-]*$/;
/** What one may change of oneself, whatever one's role. */
const OWN = /^\/api\/account\/(signout|password|passkeys|signins)$/;
/** Asked by POST since the question is long; nothing is changed. */
const QUESTIONS = /^\/api\/sessions\/[\w-]+\/statistics$/;
/** Whether a request is worth a line in the record of who changed what. */
export const isDoing = (method: string, path: string): boolean => !isSafe(method) && !QUESTIONS.test(path);

/**
 * What somebody may do where people sign in. Pages for owners ask for the role themselves, too: a path may be written in more than one way.
 *
 * @param role `null` for who hasn't signed in
 * @param isAction whether it calls an action of a page; some only ask, and to those that change something the store says no
 */
export function entryOf(
  role: Role | null,
  method: string,
  path: string,
  isAction = false,
): 'in' | 'sign in' | 'not with this role' {
  if (OPEN.test(path)) return 'in';
  if (role === null) return 'sign in';
  if (OWN.test(path)) return 'in';
  if (role === 'reader' && isDoing(method, path) && !(isAction && PAGE.test(path))) return 'not with this role';
  return 'in';
}

/** Who asks and how, where https is undone before us: what is written there by another than this machine is anybody's. */
export function cameBy({
  socket,
  headers,
}: Pick<IncomingMessage, 'headers'> & { socket: { remoteAddress?: string } }): {
  address: string;
  scheme: 'http' | 'https';
} {
  const near = socket.remoteAddress ?? '';
  const { 'x-forwarded-for': chain, 'x-forwarded-proto': scheme } = headers;
  if (typeof chain !== 'string' || !/^(?:::ffff:)?127\.|^::1$/.test(near)) return { address: near, scheme: 'http' };
  // Each server appends who asked it: the last one is what ours saw.
  return { address: chain.split(',').at(-1)!.trim(), scheme: scheme === 'https' ? 'https' : 'http' };
}

/** The value of a cookie in a Cookie header; `null` where it isn't there. */
export function cookieOf(header: string | null | undefined, wanted: string): string | null {
  for (const part of (header ?? '').split(';')) {
    const [name, ...value] = part.trim().split('=');
    if (name === wanted) return value.join('=');
  }
  return null;
}

/** What a proxy would say of a request: there is none before us, so that anybody may have written it. */
export const isForwarded = (header: string): boolean => header.startsWith('x-forwarded-') || header === 'forwarded';

/** On every answer. */
const ALWAYS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'permissions-policy': 'camera=(), microphone=(), geolocation=(self), payment=(), usb=()',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
} as const;

/** A report's page, which its editor shows in a frame. */
const FRAMED = /^\/api\/reports\/[\w-]+\/page$/;
/** Answers that are no pages of the application: files, and reports, which hold no scripts. */
const WITHOUT_SCRIPTS = /^\/(api|r)\//;

/**
 * Headers of an answer.
 *
 * @param path of the request
 * @param nonce that inline scripts of this answer carry: the framework writes some
 */
export function headersOf(path: string, nonce: string): Record<string, string> {
  const framed = FRAMED.test(path);
  const policy = WITHOUT_SCRIPTS.test(path)
    ? ["default-src 'none'", "style-src 'unsafe-inline'", "img-src 'self' data:", "font-src 'self' data:"]
    : [
        "default-src 'self'",
        `script-src 'self' 'nonce-${nonce}'`,
        // Positions and sizes are styles of elements; scripts are what must not be written in.
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "media-src 'self' blob:",
        "worker-src 'self' blob:",
        "frame-src 'self'",
        "object-src 'none'",
      ];
  const ends = ["base-uri 'none'", "form-action 'self'", `frame-ancestors ${framed ? "'self'" : "'none'"}`];
  return {
    ...ALWAYS,
    'content-security-policy': [...policy, ...ends].join('; '),
    'x-frame-options': framed ? 'SAMEORIGIN' : 'DENY',
  };
}
