'use client';

import { startAuthentication, type PublicKeyCredentialRequestOptionsJSON } from '@simplewebauthn/browser';
import { KeyRound } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/ui/Button';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { askServer, loadAnew, ownPath, passkeyTrouble } from './asking';
import { useEarly } from '@/ui/early/useEarly';
import { PasswordField } from './PasswordField';

/** The way in, where the application answers beyond its own machine. */
export function SignIn({ to, go = loadAnew }: { to: string; go?: (path: string) => void }) {
  useEarly();
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  async function enter(work: () => Promise<{ ok: true } | { ok: false; error: string }>) {
    setBusy(true);
    setTrouble(null);
    const result = await work();
    if (result.ok) return go(ownPath(to));
    setBusy(false);
    setTrouble(result.error);
  }

  async function withPasskey(): Promise<{ ok: true } | { ok: false; error: string }> {
    const asked = await askServer<{ options: PublicKeyCredentialRequestOptionsJSON }>('/api/signin/passkey');
    if (!asked.ok) return asked;
    try {
      const response = await startAuthentication({ optionsJSON: asked.value.options });
      return await askServer('/api/signin/passkey', { response });
    } catch (error) {
      return { ok: false, error: passkeyTrouble(error) };
    }
  }

  return (
    <main id="main" className="w-full max-w-[400px] mx-auto px-[18px] pt-[12vh] pb-10">
      <p className="text-ink-3 font-strong [font-stretch:112%] tracking-[0.01em]">Aurora Glade</p>
      <h1 className="mt-1 mb-5">Sign in</h1>
      <form
        className="grid gap-3.5"
        onSubmit={(event) => {
          event.preventDefault();
          void enter(() => askServer('/api/signin', { name, password }));
        }}
      >
        <Labelled words="Name">
          <TextInput
            name="username"
            autoComplete="username webauthn"
            required
            value={name}
            onChange={({ target }) => setName(target.value)}
          />
        </Labelled>
        <PasswordField words="Password" of="current" value={password} onChange={setPassword} />
        <p role="alert" className="text-warning empty:hidden">
          {trouble}
        </p>
        <Button look="main" type="submit" disabled={busy} className="justify-center mt-1">
          Sign in
        </Button>
      </form>
      <div className="flex items-center gap-3 my-4 text-ink-3 text-small">
        <span className="h-px flex-1 bg-rule" /> or <span className="h-px flex-1 bg-rule" />
      </div>
      <Button disabled={busy} className="w-full justify-center" onClick={() => void enter(withPasskey)}>
        <KeyRound size={16} aria-hidden /> Use a passkey
      </Button>
      <p className="text-ink-3 mt-6">
        Accounts are made at the desk that serves this: <code className="block mt-1">./glade user add NAME</code>
      </p>
    </main>
  );
}
