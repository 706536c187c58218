'use client';

import { Smartphone } from 'lucide-react';
import { useCallback, useEffect, useState } from 'react';
import { pairAction, phonesAction, revokeAction, type PairingCode, type PhonesOfSheet } from '@/server/pairingActions';
import { Confirm } from '@/ui/controls/Dialog';
import { notAnswered } from '@/ui/saving/asked';
import { clockOf } from './words';

/** While a code is shown, so often is looked whether a phone has used it. */
const LOOK_MS = 2000;

/** On the desk: a code that pairs a phone with this sheet, and the phones that are. */
export function PairPhone({ sessionId }: { sessionId: string }) {
  const [phones, setPhones] = useState<PhonesOfSheet | null>(null);
  const [made, setCode] = useState<PairingCode | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  const look = useCallback(async () => setPhones(await phonesAction(sessionId).catch(() => null)), [sessionId]);
  /** How many phones there were when the code was made; one more has used it. */
  const [before, setBefore] = useState(0);
  const code = phones !== null && phones.phones.length > before ? null : made;
  useEffect(() => {
    if (code === null) return;
    const timer = setInterval(() => void look(), LOOK_MS);
    return () => clearInterval(timer);
  }, [code, look]);

  async function pair() {
    const [answer, there] = await Promise.all([
      pairAction(sessionId).catch(notAnswered),
      phonesAction(sessionId).catch(() => null),
    ]);
    setPhones(there);
    setBefore(there?.phones.length ?? 0);
    setCode(answer.ok ? answer : null);
    setProblem(answer.ok ? null : answer.error);
  }

  async function revoke(id: number) {
    const result = await revokeAction(sessionId, id).catch(notAnswered);
    setProblem(result.ok ? null : result.error);
    setCode(null);
    await look();
  }

  const button = 'h-12 w-full rounded-sheet border border-ink-4 flex items-center justify-center gap-2 text-head';
  return (
    <section aria-label="Phones" className="max-w-[300px] w-full mx-auto px-4 pt-4 pb-8 print:hidden">
      <h2 className="!text-head">Phones</h2>
      <p className="text-body text-ink-3 mt-1">
        A paired phone sees this sheet and the pick, nothing else, until you revoke it.
      </p>
      <button type="button" className={`${button} mt-2.5`} onClick={() => void pair()}>
        <Smartphone size={18} aria-hidden /> Pair a phone
      </button>
      {problem && (
        <p role="alert" className="text-failure text-body mt-2">
          {problem}
        </p>
      )}
      {code && (
        <figure className="mt-3">
          <div
            role="img"
            aria-label={`QR code of ${code.address}`}
            className="w-[220px] mx-auto"
            // Made by the server of a fixed alphabet: nothing in it is typed by anybody.
            dangerouslySetInnerHTML={{ __html: code.svg }}
          />
          <figcaption className="text-label text-ink-3 text-center mt-1">
            Scan it with the phone, or type <span className="break-all">{code.address}</span>
            {code.others.length > 0 && (
              <span className="break-all"> — on another network: {code.others.join(', ')}</span>
            )}
            . It pairs one phone, until {clockOf(Date.parse(code.until))}.
            {code.root && (
              <span className="block mt-2">
                A phone that was never here warns of the address. Open{' '}
                <span className="break-all">{code.root.address}</span> on it first, and trust this desk once; its root’s
                SHA-256 is <span className="break-all tabular-nums">{code.root.fingerprint}</span>.
              </span>
            )}
          </figcaption>
        </figure>
      )}
      {phones === null ? (
        <button type="button" className="underline text-body mt-2" onClick={() => void look()}>
          Show paired phones
        </button>
      ) : phones.phones.length === 0 ? (
        <p className="text-body mt-2">No phone is paired.</p>
      ) : (
        <ul className="mt-2" aria-label="Paired phones">
          {phones.phones.map(({ id, name, made, seen }) => (
            <li key={id} className="flex items-center justify-between gap-3 border-b border-rule py-1.5 text-body">
              <span className="min-w-0 [overflow-wrap:anywhere]">
                <span className="font-semibold">{name}</span>{' '}
                <span className="text-ink-3">last heard of {clockOf(Date.parse(seen ?? made))}</span>
              </span>
              <Confirm
                title={`Revoke “${name}”?`}
                action="Revoke it"
                onConfirm={() => void revoke(id)}
                trigger={
                  <button type="button" className="underline min-h-8" aria-label={`Revoke ${name}`}>
                    Revoke
                  </button>
                }
              >
                It is not answered any more; taps that it has not sent stay on it. It can be paired again.
              </Confirm>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
