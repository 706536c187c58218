'use client';

import { useEffect, useMemo } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { PickKit, PickRig } from '@/server/pickList';
import { PaperRoom } from '@/ui/controls/room';
import { Link } from '@/ui/Link';
import { useAtDesk } from '@/ui/useAtDesk';
import { useEarly } from '@/ui/early/useEarly';
import { useOffline } from '@/ui/useOffline';
import { answerOf, FIRST, keepAsked, lastAsked, type Asked } from './asked';
import { PickForm } from './PickForm';
import { OnlyNewest } from '@/ui/OnlyNewest';
import { Picks } from './Picks';
import { PrintedCard } from './parts';

/** In the field: which filter, at which mark, and what it leads to. */
export function Pick({
  kits,
  rigs,
  lookedAt = null,
  home,
  first,
}: {
  kits: PickKit[];
  rigs: PickRig[];
  lookedAt?: number | null;
  home: { id: string; title: string } | null;
  /** Kit in hand. */
  first: string | null;
}) {
  useOffline();
  useEarly();
  // A paired phone sees this page and its sheet; other addresses lead nowhere there.
  const atDesk = useAtDesk();
  const { control, reset, subscribe } = useForm<Asked>({
    defaultValues: { ...FIRST, kit: first ?? kits[0]?.id ?? '', rig: rigs[0]?.name ?? '' },
  });
  const asked = useWatch({ control }) as Asked;
  useEffect(() => {
    // After the first drawing, which is the server's: it knows nothing of this browser.
    const kept = lastAsked();
    reset((now) => ({ ...now, ...kept, kit: first ?? kept.kit ?? now.kit }));
    return subscribe({ formState: { values: true }, callback: ({ values }) => keepAsked(values) });
  }, [first, reset, subscribe]);
  const kit = kits.find((one) => one.id === asked.kit) ?? kits[0];
  const rig = rigs.find((one) => one.name === asked.rig);
  const answer = useMemo(() => answerOf(asked, kit, rig), [asked, kit, rig]);
  return (
    <PaperRoom className="min-h-dvh">
      <main
        id="main"
        className="max-w-[480px] lg:max-w-[980px] w-full mx-auto px-4 pb-16 pt-3 lg:grid lg:grid-cols-2 lg:gap-8 print:block"
      >
        <div className="print:hidden">
          <div className="flex justify-between gap-3 text-label text-ink-3">
            {atDesk ? (
              <Link href={home ? `/sessions/${home.id}/verdict` : '/'} className="underline truncate">
                {home?.title ?? 'Aurora Glade'}
              </Link>
            ) : (
              <span>Aurora Glade</span>
            )}
            <span className="whitespace-nowrap">works offline once opened</span>
          </div>
          <h1 className="mt-2">Pick</h1>
          {lookedAt !== null && <OnlyNewest count={lookedAt} />}
          {kit ? (
            <PickForm control={control} asked={asked} answer={answer} kits={kits} rigs={rigs} kit={kit} />
          ) : (
            <p className="mt-3 text-head">
              There is no kit yet.{' '}
              {atDesk ? (
                <>
                  <Link href="/kits" className="underline">
                    Put one on the shelf
                  </Link>
                  , or measure one.
                </>
              ) : (
                'Put one on the shelf of the desk, or measure one there.'
              )}
            </p>
          )}
        </div>
        <Picks answer={answer} limited={rigs.length === 0 || asked.rig !== ''} />
        {kit && <PrintedCard kit={kit} />}
      </main>
    </PaperRoom>
  );
}
