'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { addressOf, isSame, type Wanted } from './listed';

/** A pause in typing after which the whole library is searched. */
const TYPED_MS = 250;

/**
 * What a person wants of the list, as they type it. Of a list that is here whole any choice is made at once; else the server looks through all
 * sessions, by an address that can be kept.
 *
 * @param asked what the list that is here was searched by
 * @param isWhole whether all sessions are here
 */
export function useWanted(asked: Wanted, isWhole: boolean) {
  const router = useRouter();
  const [wanted, setWanted] = useState(asked);
  const [sent, setSent] = useState<string | null>(null);
  const [answered, address] = [addressOf(asked), addressOf(wanted)];
  const [shown, setShown] = useState(answered);
  if (shown !== answered) {
    setShown(answered);
    // Another list than was asked for here: a way back, or the first page anew.
    if (sent === null) setWanted(asked);
    else if (sent === answered) setSent(null);
  }
  const isAsking = !isWhole && !isSame(asked, wanted);
  useEffect(() => {
    if (!isAsking) return;
    const timer = setTimeout(() => {
      setSent(address);
      router.replace(address, { scroll: false });
    }, TYPED_MS);
    return () => clearTimeout(timer);
  }, [isAsking, address, router]);
  return { wanted, want: setWanted, isAsking };
}
