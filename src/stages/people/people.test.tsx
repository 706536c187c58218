/** @jest-environment jsdom */
/** Signing in and one's own account as a person handles them; what browsers do with passkeys is stood in for. */
import { screen, waitFor, within } from '@testing-library/react';
import type { AccountView, PeopleView } from '@/server/account';
import { show } from '@/ui/testing/render';
import { Account } from './Account';
import { ownPath, passkeyTrouble } from './asking';
import { People } from './People';
import { SignIn } from './SignIn';

let mockPasskey: () => Promise<object>;
jest.mock('@simplewebauthn/browser', () => ({
  startAuthentication: (given: object) => (mockAsked.push(['device', given]), mockPasskey()),
  startRegistration: (given: object) => (mockAsked.push(['device', given]), mockPasskey()),
}));

const mockAsked: [path: string, body: unknown][] = [];
let answers: Record<string, { status: number; body: object }>;
const { fetch: ownFetch } = globalThis;
beforeEach(() => {
  mockAsked.length = 0;
  answers = {};
  mockPasskey = () => Promise.resolve({ id: 'key' });
  globalThis.fetch = jest.fn((path: string, init: RequestInit) => {
    mockAsked.push([`${init.method} ${path}`, init.body ? JSON.parse(init.body as string) : undefined]);
    const { status, body } = answers[path] ?? { status: 200, body: { ok: true, options: { challenge: 'c' } } };
    return Promise.resolve({ ok: status < 400, json: () => Promise.resolve(body) });
  }) as unknown as typeof fetch;
});
afterEach(() => {
  globalThis.fetch = ownFetch;
});

const failure = (name: string) => Object.assign(new Error(name), { name });

describe('where a sign-in leads', () => {
  test.each([
    ['/kits', '/kits'],
    ['/sessions/x/verdict?filter=2#cast', '/sessions/x/verdict?filter=2#cast'],
    ['/signin', '/'],
    ['//elsewhere.example', '/'],
    ['/\\elsewhere.example', '/'],
    ['https://elsewhere.example/', '/'],
    ['javascript:alert(1)', '/'],
    ['/\t/elsewhere.example', '/'],
    ['', '/'],
  ])('%j: %s', (to, path) => expect(ownPath(to)).toBe(path));
});

describe('signing in', () => {
  test('name and password are sent; what is refused is told, and another try goes in', async () => {
    const went: string[] = [];
    const { user } = show(<SignIn to="/kits" go={(path) => went.push(path)} />);
    answers['/api/signin'] = { status: 401, body: { error: 'Name and password don’t belong together.' } };
    await user.type(screen.getByLabelText('Name'), 'Ada');
    await user.type(screen.getByLabelText('Password'), 'a guess of mine{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('don’t belong together');
    expect(went).toEqual([]);
    delete answers['/api/signin'];
    await user.click(screen.getByRole('button', { name: 'Sign in' }));
    await waitFor(() => expect(went).toEqual(['/kits']));
    expect(mockAsked[1]).toEqual(['POST /api/signin', { name: 'Ada', password: 'a guess of mine' }]);
  });

  test('a passkey: the device is asked what the server wants, and its answer goes back', async () => {
    const went: string[] = [];
    const { user } = show(<SignIn to="/" go={(path) => went.push(path)} />);
    await user.click(screen.getByRole('button', { name: 'Use a passkey' }));
    await waitFor(() => expect(went).toEqual(['/']));
    expect(mockAsked).toEqual([
      ['POST /api/signin/passkey', {}],
      ['device', { optionsJSON: { challenge: 'c' } }],
      ['POST /api/signin/passkey', { response: { id: 'key' } }],
    ]);
  });

  test('one that was declined is told, and the password can be typed still', async () => {
    const { user } = show(<SignIn to="/" go={jest.fn()} />);
    mockPasskey = () => Promise.reject(failure('NotAllowedError'));
    await user.click(screen.getByRole('button', { name: 'Use a passkey' }));
    expect((await screen.findByRole('alert')).textContent).toContain('No passkey was used');
    expect((screen.getByRole('button', { name: 'Sign in' }) as HTMLButtonElement).disabled).toBe(false);
  });

  test('no line is told', async () => {
    globalThis.fetch = jest.fn(() => Promise.reject(new TypeError('Failed to fetch'))) as unknown as typeof fetch;
    const { user } = show(<SignIn to="/" go={jest.fn()} />);
    await user.click(screen.getByRole('button', { name: 'Use a passkey' }));
    expect((await screen.findByRole('alert')).textContent).toContain('doesn’t answer');
  });

  test('each way that a device may fail has its words', () =>
    expect(['InvalidStateError', 'AbortError', 'SecurityError'].map((name) => passkeyTrouble(failure(name)))).toEqual([
      expect.stringContaining('already'),
      expect.stringContaining('declined'),
      expect.stringContaining('could not'),
    ]));
});

const AT = '2026-05-14T09:00:00.000Z';
const account: AccountView = {
  name: 'Ada',
  role: 'reader',
  passkeys: [{ id: 3, name: 'Laptop', created: AT, used: null }],
  browsers: [
    { id: 7, words: 'Firefox on Linux', address: '192.168.1.7', since: AT, seen: AT, own: true },
    { id: 8, words: 'Safari on iPhone', address: '192.168.1.9', since: AT, seen: AT, own: false },
  ],
};

describe('one’s own account', () => {
  test('the desk has none', () => {
    show(<Account account={null} />);
    expect(screen.getByText(/nobody signs in/)).toBeTruthy();
  });

  test('a passkey is removed, another browser signed out, this one not offered', async () => {
    const { user } = show(<Account account={account} />);
    await user.click(screen.getByRole('button', { name: 'Remove Laptop' }));
    await user.click(screen.getByRole('button', { name: 'Sign Safari on iPhone out' }));
    await waitFor(() => expect(mockAsked.map(([path]) => path)).toEqual(['DELETE /api/account/passkeys?id=3', 'DELETE /api/account/signins?id=8'])); // prettier-ignore
    const own = screen.getByText('Firefox on Linux').closest('li')!;
    expect(within(own).queryByRole('button')).toBeNull();
  });

  test('a new passkey needs the password; its name goes with it', async () => {
    const { user } = show(<Account account={account} />);
    const part = within(screen.getByRole('region', { name: 'Passkeys' }));
    await user.type(part.getByLabelText('What it is called'), 'Key ring');
    await user.type(part.getByLabelText('Your password'), 'quarry lamps{Enter}');
    expect(await screen.findByText(/The passkey is kept/)).toBeTruthy();
    expect(mockAsked.filter(([path]) => path !== 'device').map(([, body]) => body)).toEqual([
      { password: 'quarry lamps' },
      { name: 'Key ring', response: { id: 'key' } },
    ]);
    expect((part.getByLabelText('Your password') as HTMLInputElement).value).toBe('');
  });

  test('another password that is refused is told, and nothing that was typed is lost', async () => {
    answers['/api/account/password'] = { status: 422, body: { error: 'A password needs 15 characters.' } };
    const { user } = show(<Account account={account} />);
    const part = within(screen.getByRole('region', { name: 'Password' }));
    await user.type(part.getByLabelText('The one there is'), 'quarry lamps');
    await user.type(part.getByLabelText(/A new one/), 'short{Enter}');
    expect(await screen.findByText('A password needs 15 characters.')).toBeTruthy();
    expect((part.getByLabelText(/A new one/) as HTMLInputElement).value).toBe('short');
  });

  test('owners are led to everybody, others aren’t', () => {
    const { unmount } = show(<Account account={account} />);
    expect(screen.queryByRole('link', { name: 'People' })).toBeNull();
    unmount();
    show(<Account account={{ ...account, role: 'owner' }} />);
    expect(screen.getByRole('link', { name: 'People' }).getAttribute('href')).toBe('/people');
  });
});

test('everybody and what they did; the first account is explained where there is none', () => {
  const view: PeopleView = {
    people: [{ name: 'Ada', role: 'owner', passkeys: 2, since: AT, seen: null }],
    doings: [{ name: 'Ada', words: 'sent files', times: 12, at: AT }],
  };
  const { unmount } = show(<People view={view} />);
  expect(screen.getByRole('row', { name: 'Ada owner everything 2 never' })).toBeTruthy();
  expect(screen.getByRole('listitem').textContent).toContain('Adasent files (12 times)');
  unmount();
  show(<People view={{ people: [], doings: [] }} />);
  expect(screen.getByText(/The first account is an owner’s/)).toBeTruthy();
});
