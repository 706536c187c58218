/**
 * The door: what is decided of a request before anything of the application sees it. Pure, so that it can be tested as a table; `cli/web`
 * stands at it.
 */
import type { IncomingHttpHeaders } from 'node:http';

/** Names by which this machine calls itself. A page of another name that was pointed here is not answered. */
const LOOPBACK_NAMES = ['localhost', '127.0.0.1', '[::1]'];

/** The name of a Host header, without its port; `null` where it is none. */
export function nameOfHost(host: string | undefined): string | null {
  const match = /^(\[[0-9a-f:.]+\]|[a-z0-9-]+(?:\.[a-z0-9-]+)*)\.?(?::\d{1,5})?$/i.exec(host ?? '');
  return match ? match[1].toLowerCase() : null;
}

/** Why a request is turned away, as a status and a sentence. */
export interface Refusal {
  status: 400 | 403 | 421;
  words: string;
}

const SAFE_METHODS = new Set(['GET', 'HEAD', 'OPTIONS']);
/** What browsers say of where a request comes from (Fetch Metadata): pages of ours, or the person. */
const OWN_SITES = new Set(['same-origin', 'none']);

/**
 * Whether a request is turned away; `null` lets it in.
 *
 * @param names that are answered beside loopback's own
 */
export function refusalOf(
  { method = 'GET', headers }: { method?: string; headers: IncomingHttpHeaders },
  names: readonly string[] = [],
): Refusal | null {
  const name = nameOfHost(headers.host);
  if (name === null) return { status: 400, words: 'The request names no host.' };
  if (![...LOOPBACK_NAMES, ...names].includes(name))
    return { status: 421, words: 'This is answered by the name that it was started for, not by another.' };
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
