'use client';

import { startRegistration, type PublicKeyCredentialCreationOptionsJSON } from '@simplewebauthn/browser';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import type { AccountView } from '@/server/account';
import { Button, buttonClass } from '@/ui/Button';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { useTell } from '@/ui/controls/Toasts';
import { Link } from '@/ui/Link';
import { When } from '@/ui/When';
import { askServer, loadAnew, passkeyTrouble } from './asking';
import { PasswordField } from './PasswordField';

const MAY = {
  owner: 'You may change everything, and see who did what.',
  reviewer: 'You may change sessions, kits and reports.',
  reader: 'You may look at everything and change nothing.',
} as const;

type Done = { ok: true; words: string } | { ok: false; error: string };

/** One's own name, password, passkeys and signed-in browsers. */
export function Account({ account }: { account: AccountView | null }) {
  if (!account)
    return (
      <main id="main" className="w-full max-w-[720px] mx-auto px-[18px] py-7">
        <h1>Your account</h1>
        <p className="text-ink-2 text-lead mt-1 max-w-[62ch]">
          On this machine nobody signs in; others may, at the name of <code>./glade up --host NAME</code>.
        </p>
        <Link href="/people" className={`${buttonClass()} mt-4`}>
          People who sign in
        </Link>
      </main>
    );
  return <Own account={account} />;
}

function Own({ account: { name, role, passkeys, browsers } }: { account: AccountView }) {
  const tell = useTell();
  const router = useRouter();
  const [busy, setBusy] = useState(false);

  async function run(work: () => Promise<Done>): Promise<boolean> {
    setBusy(true);
    const result = await work();
    setBusy(false);
    tell(result.ok ? { words: result.words } : { words: result.error, bad: true });
    if (result.ok) router.refresh();
    return result.ok;
  }
  const take = (path: string, words: string) =>
    run(async () => {
      const result = await askServer(path, {}, 'DELETE');
      return result.ok ? { ok: true, words } : result;
    });

  async function signOut() {
    const result = await askServer('/api/account/signout');
    if (result.ok) loadAnew('/signin');
    else tell({ words: result.error, bad: true });
  }

  return (
    <main id="main" className="w-full max-w-[720px] mx-auto px-[18px] py-7">
      <div className="flex items-center gap-4 flex-wrap">
        <h1 className="flex-1 min-w-0 truncate">{name}</h1>
        {role === 'owner' && (
          <Link href="/people" className={buttonClass()}>
            People
          </Link>
        )}
        <Button onClick={() => void signOut()}>Sign out</Button>
      </div>
      <p className="text-ink-2 text-lead mt-1">
        {role[0].toUpperCase() + role.slice(1)}. {MAY[role]}
      </p>
      <Part title="Passkeys" lead="Signs you in by your device’s lock or a security key, without the password.">
        <List empty="No passkey yet." items={passkeys}>
          {(one) => (
            <Entry
              words={one.name}
              note={
                <>
                  made <When at={one.created} />,{' '}
                  {one.used ? (
                    <>
                      used <When at={one.used} />
                    </>
                  ) : (
                    'not used yet'
                  )}
                </>
              }
            >
              <Button
                look="quiet"
                disabled={busy}
                aria-label={`Remove ${one.name}`}
                onClick={() => void take(`/api/account/passkeys?id=${one.id}`, `“${one.name}” is removed.`)}
              >
                Remove
              </Button>
            </Entry>
          )}
        </List>
        <NewPasskey run={run} busy={busy} />
      </Part>
      <Part title="Password" lead="Another password signs your other browsers out.">
        <NewPassword run={run} busy={busy} name={name} />
      </Part>
      <Part
        title="Signed in"
        lead="A browser that isn’t used for seven days is signed out by itself, each after thirty."
      >
        <List empty="" items={browsers}>
          {(one) => (
            <Entry
              words={one.words}
              note={
                <>
                  {one.address}, since <When at={one.since} />, seen <When at={one.seen} />
                </>
              }
            >
              {one.own ? (
                <span className="text-ink-3 px-3.5">this one</span>
              ) : (
                <Button
                  look="quiet"
                  disabled={busy}
                  aria-label={`Sign ${one.words} out`}
                  onClick={() => void take(`/api/account/signins?id=${one.id}`, `${one.words} is signed out.`)}
                >
                  Sign out
                </Button>
              )}
            </Entry>
          )}
        </List>
      </Part>
    </main>
  );
}

function Part({ title, lead, children }: { title: string; lead: string; children: ReactNode }) {
  return (
    <section className="mt-8" aria-label={title}>
      <h2>{title}</h2>
      <p className="text-ink-3 mb-3">{lead}</p>
      {children}
    </section>
  );
}

function List<T extends { id: number }>({
  items,
  empty,
  children,
}: {
  items: readonly T[];
  empty: string;
  children: (item: T) => ReactNode;
}) {
  if (items.length === 0) return <p className="text-ink-2">{empty}</p>;
  return (
    <ul className="border-t border-rule">
      {items.map((one) => (
        <li key={one.id} className="border-b border-rule py-2.5 flex items-center gap-x-4 gap-y-1 flex-wrap">
          {children(one)}
        </li>
      ))}
    </ul>
  );
}

function Entry({ words, note, children }: { words: string; note: ReactNode; children: ReactNode }) {
  return (
    <>
      <span className="min-w-0 flex-1 basis-[240px]">
        <span className="block truncate font-semibold">{words}</span>
        <span className="text-ink-3 text-label">{note}</span>
      </span>
      {children}
    </>
  );
}

interface Runs {
  run: (work: () => Promise<Done>) => Promise<boolean>;
  busy: boolean;
}

function NewPasskey({ run, busy }: Runs) {
  const [label, setLabel] = useState('');
  const [password, setPassword] = useState('');
  const add = async (): Promise<Done> => {
    const asked = await askServer<{ options: PublicKeyCredentialCreationOptionsJSON }>('/api/account/passkeys', {
      password,
    });
    if (!asked.ok) return asked;
    try {
      const response = await startRegistration({ optionsJSON: asked.value.options });
      const kept = await askServer('/api/account/passkeys', { name: label, response });
      return kept.ok ? { ok: true, words: 'The passkey is kept. Next time it signs you in.' } : kept;
    } catch (error) {
      return { ok: false, error: passkeyTrouble(error) };
    }
  };
  return (
    <form
      className="flex items-end gap-3 flex-wrap mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void run(add).then((done) => done && [setLabel(''), setPassword('')]);
      }}
    >
      <Labelled words="What it is called">
        <TextInput
          placeholder="Laptop"
          maxLength={60}
          value={label}
          onChange={({ target }) => setLabel(target.value)}
        />
      </Labelled>
      <PasswordField words="Your password" of="current" value={password} onChange={setPassword} />
      <Button type="submit" disabled={busy}>
        Add a passkey
      </Button>
    </form>
  );
}

function NewPassword({ run, busy, name }: Runs & { name: string }) {
  const [password, setPassword] = useState('');
  const [wanted, setWanted] = useState('');
  const change = async (): Promise<Done> => {
    const result = await askServer('/api/account/password', { password, wanted });
    return result.ok ? { ok: true, words: 'Your password is changed.' } : result;
  };
  return (
    <form
      className="flex items-end gap-3 flex-wrap"
      onSubmit={(event) => {
        event.preventDefault();
        void run(change).then((done) => done && [setPassword(''), setWanted('')]);
      }}
    >
      {/* Password managers keep the two together by it. */}
      <input type="hidden" name="username" autoComplete="username" value={name} readOnly />
      <PasswordField words="The one there is" of="current" value={password} onChange={setPassword} />
      <PasswordField
        words="A new one, 15 characters or more"
        of="new"
        className="w-[260px]"
        value={wanted}
        onChange={setWanted}
      />
      <Button type="submit" disabled={busy}>
        Change it
      </Button>
    </form>
  );
}
