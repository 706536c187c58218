'use client';

import { Smartphone } from 'lucide-react';
import { useState } from 'react';
import { pairAction, phonesAction, revokeAction, type PairingCode, type PhonesOfSheet } from '@/server/pairingActions';
import { clockOf } from './words';

/** On the desk: a code that pairs a phone with this sheet, and the phones that are. */
export function PairPhone({ sessionId }: { sessionId: string }) {
  const [phones, setPhones] = useState<PhonesOfSheet | null>(null);
  const [code, setCode] = useState<PairingCode | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  const look = async () => setPhones(await phonesAction(sessionId));

  async function pair() {
    const made = await pairAction(sessionId);
    if ('error' in made) setProblem(made.error);
    else {
      setCode(made);
      setProblem(null);
    }
    await look();
  }

  async function revoke(id: number) {
    await revokeAction(sessionId, id);
    setCode(null);
    await look();
  }

  const button =
    'h-12 w-full rounded-[10px] border border-[#8a8a8a] flex items-center justify-center gap-2 text-[16px]';
  return (
    <section aria-label="Phones" className="max-w-[300px] w-full mx-auto px-4 pt-4 pb-8 print:hidden">
      <h2 className="!text-[16px]">Phones</h2>
      <p className="text-[14px] text-[#4a4a4a] mt-1">
        A paired phone sees this sheet and nothing else, until you revoke it.
      </p>
      <button type="button" className={`${button} mt-2.5`} onClick={() => void pair()}>
        <Smartphone size={18} aria-hidden /> Pair a phone
      </button>
      {problem && (
        <p role="alert" className="text-[#a3271a] text-[14px] mt-2">
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
          <figcaption className="text-[13px] text-[#4a4a4a] text-center mt-1">
            Scan it with the phone, or type <span className="break-all">{code.address}</span>
            {code.others.length > 0 && (
              <span className="break-all"> — on another network: {code.others.join(', ')}</span>
            )}
            . It is shown once; whoever holds it may tap on this sheet.
          </figcaption>
        </figure>
      )}
      {phones === null ? (
        <button type="button" className="underline text-[14px] mt-2" onClick={() => void look()}>
          Show paired phones
        </button>
      ) : phones.phones.length === 0 ? (
        <p className="text-[14px] mt-2">No phone is paired.</p>
      ) : (
        <ul className="mt-2" aria-label="Paired phones">
          {phones.phones.map(({ id, made, seen }, i) => (
            <li
              key={id}
              className="flex items-center justify-between gap-3 border-b border-[#dedede] py-1.5 text-[14px]"
            >
              <span>
                Code {i + 1}, made {clockOf(Date.parse(made))},{' '}
                {seen ? `last heard of ${clockOf(Date.parse(seen))}` : 'not used yet'}
              </span>
              <button type="button" className="underline min-h-8" onClick={() => void revoke(id)}>
                Revoke
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
