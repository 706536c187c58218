/** Asks the server for something of one's account; what goes wrong is a sentence. */
export async function askServer<T extends object>(
  path: string,
  body: object = {},
  method: 'POST' | 'DELETE' = 'POST',
): Promise<{ ok: true; value: T } | { ok: false; error: string }> {
  try {
    const answer = await fetch(path, {
      method,
      headers: { 'content-type': 'application/json' },
      body: method === 'POST' ? JSON.stringify(body) : undefined,
    });
    const value = (await answer.json()) as T & { error?: string };
    return answer.ok ? { ok: true, value } : { ok: false, error: value.error ?? 'The server could not do it.' };
  } catch {
    return { ok: false, error: 'The server doesn’t answer. Try again when it does.' };
  }
}

/** What a browser says when a passkey didn't come about, as a sentence. */
export function passkeyTrouble(error: unknown): string {
  const name = error instanceof Error ? error.name : '';
  if (name === 'InvalidStateError') return 'This device has a passkey for this account already.';
  if (name === 'NotAllowedError' || name === 'AbortError')
    return 'No passkey was used: it was declined, or took too long.';
  return 'This browser could not use a passkey here.';
}

/** Loads a page anew: nothing that one person has seen stays for the next. */
export const loadAnew = (path: string): void => location.assign(path);

/** A page of this application to go to; whatever else is named leads to the first one. */
export function ownPath(to: string): string {
  const base = 'https://glade.invalid';
  if (!to.startsWith('/') || !URL.canParse(to, base)) return '/';
  const { origin, pathname, search, hash } = new URL(to, base);
  return origin === base && !pathname.startsWith('//') && pathname !== '/signin' ? pathname + search + hash : '/';
}
