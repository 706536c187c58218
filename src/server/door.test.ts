/** The door as a table: who is let in, and what every answer carries. */
import type { Role } from '@/store/who';
import { entryOf, headersOf, isForwarded, nameOfHost, refusalOf } from './door';

const HERE = 'localhost:8420';

describe('names', () => {
  test.each([
    ['localhost', 'localhost'],
    ['LocalHost:8420', 'localhost'],
    ['127.0.0.1:80', '127.0.0.1'],
    ['[::1]:8420', '[::1]'],
    ['localhost.', 'localhost'],
    ['evil.example', 'evil.example'],
    ['', null],
    ['a b', null],
    ['localhost:8420@evil.example', null],
    ['localhost/..', null],
    ['localhost:port', null],
  ])('%j is %j', (host, name) => expect(nameOfHost(host)).toBe(name));
});

describe('who is let in', () => {
  const CASES: [string, string, Record<string, string | undefined>, number | null][] = [
    ['the person reads', 'GET', { host: HERE }, null],
    ['the machine’s other names', 'GET', { host: '127.0.0.1:8420' }, null],
    ['and by IPv6', 'GET', { host: '[::1]:8420' }, null],
    ['another port, as through a tunnel', 'GET', { host: 'localhost:9000' }, null],
    ['a name that was pointed here (rebinding)', 'GET', { host: 'evil.example:8420' }, 421],
    ['one that only begins alike', 'GET', { host: 'localhost.evil.example' }, 421],
    ['an address of the network', 'GET', { host: '192.168.1.7:8420' }, 421],
    ['none', 'GET', { host: undefined }, 400],
    ['a program without a browser changes something', 'POST', { host: HERE }, null],
    ['a page of ours changes something', 'POST', { host: HERE, origin: `http://${HERE}`, 'sec-fetch-site': 'same-origin' }, null], // prettier-ignore
    ['another site’s page', 'POST', { host: HERE, origin: 'https://evil.example' }, 403],
    ['another port of this machine', 'POST', { host: HERE, origin: 'http://localhost:3000' }, 403],
    ['a page without an origin (a file, a sandbox)', 'POST', { host: HERE, origin: 'null' }, 403],
    ['an origin that is none', 'POST', { host: HERE, origin: 'x y' }, 403],
    ['cross-site without an origin', 'POST', { host: HERE, 'sec-fetch-site': 'cross-site' }, 403],
    ['same site, another origin', 'PUT', { host: HERE, 'sec-fetch-site': 'same-site' }, 403],
    ['the same with another verb', 'DELETE', { host: HERE, origin: 'https://evil.example' }, 403],
    ['a tus upload of another site', 'PATCH', { host: HERE, origin: 'https://evil.example' }, 403],
    ['rebinding that changes something', 'POST', { host: 'evil.example', origin: 'http://evil.example' }, 421],
    ['a trace of what was asked', 'TRACE', { host: HERE }, 405],
    ['a way that nobody knows', 'BREW', { host: HERE }, 405],
    ['a link from another site', 'GET', { host: HERE, 'sec-fetch-site': 'cross-site' }, null],
  ];
  test.each(CASES)('%s', (_, method, headers, status) => {
    expect(refusalOf({ method, headers })?.status ?? null).toBe(status);
  });

  test('a name that it was started for is answered too', () => {
    const asked = { method: 'GET', headers: { host: 'lab.example:443' } };
    expect(refusalOf(asked)?.status).toBe(421);
    expect(refusalOf(asked, ['lab.example'])).toBeNull();
    // Behind that door this machine's other names are nobody's.
    expect(refusalOf({ method: 'GET', headers: { host: HERE } }, ['lab.example'])?.status).toBe(421);
  });
});

describe('where people sign in', () => {
  const CASES: [string, string, string, (Role | null)[]][] = [
    // What is asked, and who may; everybody else who has signed in is told of their role, strangers are led to sign in.
    ['the way in', 'GET', '/signin', [null, 'reader', 'reviewer', 'owner']],
    ['a name and a password', 'POST', '/api/signin', [null, 'reader', 'reviewer', 'owner']],
    ['a passkey', 'POST', '/api/signin/passkey', [null, 'reader', 'reviewer', 'owner']],
    ['the pages’ scripts', 'GET', '/_next/static/chunks/a.js', [null, 'reader', 'reviewer', 'owner']],
    ['a report by its link', 'GET', `/r/${'0a'.repeat(16)}`, [null, 'reader', 'reviewer', 'owner']],
    ['a report by half a link', 'GET', '/r/0a', ['reader', 'reviewer', 'owner']],
    ['the first page', 'GET', '/', ['reader', 'reviewer', 'owner']],
    ['a way out of an open folder', 'GET', '/_next/static/..%2f..%2fkits', ['reader', 'reviewer', 'owner']],
    ['what only begins like the way in', 'GET', '/signin/x', ['reader', 'reviewer', 'owner']],
    ['a picture', 'GET', '/api/files/00', ['reader', 'reviewer', 'owner']],
    ['health', 'GET', '/api/health', ['reader', 'reviewer', 'owner']],
    ['means of boxes', 'POST', '/api/sessions/7-a/statistics', ['reader', 'reviewer', 'owner']],
    ['to sign out', 'POST', '/api/account/signout', ['reader', 'reviewer', 'owner']],
    ['a password of one’s own', 'POST', '/api/account/password', ['reader', 'reviewer', 'owner']],
    ['to forget a passkey', 'DELETE', '/api/account/passkeys', ['reader', 'reviewer', 'owner']],
    ['an upload', 'POST', '/api/uploads', ['reviewer', 'owner']],
    ['part of one', 'PATCH', '/api/uploads/x', ['reviewer', 'owner']],
    ['an action of a page', 'POST', '/sessions/x/regions', ['reviewer', 'owner']],
    ['an action by way of an own path', 'POST', '/api/account/x', ['reviewer', 'owner']],
    ['another verb', 'PUT', '/', ['reviewer', 'owner']],
  ];
  test.each(CASES)('%s: %s %s', (_, method, path, may) => {
    for (const role of [null, 'reader', 'reviewer', 'owner'] as const) {
      const otherwise = role === null ? 'sign in' : 'not with this role';
      expect([role, entryOf(role, method, path)]).toEqual([role, may.includes(role) ? 'in' : otherwise]);
    }
  });

  test.each([
    ['/sessions/x/compare', 'in'],
    ['/', 'in'],
    ['/api/uploads', 'not with this role'],
    ['/%61pi/uploads', 'not with this role'],
    ['//api/uploads', 'not with this role'],
    ['/_next/x', 'not with this role'],
  ])('a reader’s action by way of %s: %s', (path, entry) => {
    expect(entryOf('reader', 'POST', path, true)).toBe(entry);
    // An action of whoever hasn't signed in is none.
    expect(entryOf(null, 'POST', path, true)).toBe('sign in');
  });
});

describe('headers', () => {
  const policy = (path: string) => headersOf(path, 'n0nce')['content-security-policy'];

  test('pages run scripts of their own alone, and inline ones by nonce', () => {
    const scripts = policy('/sessions/x/verdict')
      .split('; ')
      .find((one) => one.startsWith('script-src'));
    expect(scripts).toBe("script-src 'self' 'nonce-n0nce'");
    expect(policy('/')).toContain("frame-ancestors 'none'");
    expect(headersOf('/', 'n')['x-frame-options']).toBe('DENY');
  });

  test('files and reports run none', () => {
    for (const path of ['/api/files/00/strip', '/api/reports/7/page', '/r/word']) {
      expect(policy(path)).toContain("default-src 'none'");
      expect(policy(path)).not.toContain('script-src');
    }
  });

  test('a report’s page alone may be framed, by us', () => {
    expect(policy('/api/reports/7/page')).toContain("frame-ancestors 'self'");
    expect(policy('/api/reports/7/pdf')).toContain("frame-ancestors 'none'");
    expect(policy('/r/word')).toContain("frame-ancestors 'none'");
  });

  test('every answer says what it is and where it may go', () => {
    for (const path of ['/', '/api/health', '/_next/static/x.js', '/r/word'])
      expect(headersOf(path, 'n')).toMatchObject({
        'x-content-type-options': 'nosniff',
        'referrer-policy': 'same-origin',
        'cross-origin-opener-policy': 'same-origin',
        'cross-origin-resource-policy': 'same-origin',
        'permissions-policy': expect.stringContaining('camera=()'),
      });
  });

  test('what a proxy would say is nobody’s word', () =>
    expect(['x-forwarded-host', 'x-forwarded-for', 'forwarded', 'x-other'].map(isForwarded)).toEqual([
      true,
      true,
      true,
      false,
    ]));
});
