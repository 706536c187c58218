'use client';

import { Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { NEW_RIG } from '@/core/sitting/kits/keptRig';
import { keepRigAction, putAwayFromShelfAction, type Kept } from '@/server/shelfActions';
import { Button } from '@/ui/Button';
import { useTell } from '@/ui/controls/Toasts';
import { notAnswered } from '@/ui/saving/asked';
import { KitFiles } from './KitFiles';
import { NewKit } from './NewKit';
import { ShelfList, type ShelfEntry } from './ShelfList';

/** Kits and rigs that are kept: typed once, used in every sitting. */
export function Shelf({ kits, rigs }: { kits: ShelfEntry[]; rigs: ShelfEntry[] }) {
  const router = useRouter();
  const tell = useTell();
  const [told, setTold] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);

  async function open(what: 'kits' | 'rigs', work: Promise<Kept>) {
    setBusy(true);
    const kept = await work.catch(notAnswered);
    if (kept.ok) router.push(`/${what}/${kept.id}`);
    else {
      setTold([kept.error]);
      setBusy(false);
    }
  }

  async function put(what: 'kit' | 'rig', entry: ShelfEntry, away: boolean) {
    const result = await putAwayFromShelfAction(what, entry.id, away).catch(notAnswered);
    if (!result.ok) return tell({ words: result.error, bad: true });
    if (away)
      tell({
        words: `“${entry.name}” is put away and kept for 30 days.`,
        action: { words: 'Bring it back', run: () => void put(what, entry, false) },
      });
    router.refresh();
  }

  return (
    <main id="main" className="w-full max-w-[1180px] mx-auto px-[18px] py-7">
      <h1>Kits &amp; rigs</h1>
      <p className="text-ink-2 text-lead mt-1 max-w-[66ch]">
        A kit is typed once, with what it cost and how it handles; a rig says what your camera can be set to. Plans take
        both from here.
      </p>
      {told.length > 0 && (
        <ul role="status" className="mt-4 bg-well border-l-[3px] border-accent rounded-r-md px-4 py-2.5 grid gap-1">
          {told.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      <div className="grid gap-9 mt-6 items-start grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
        <section aria-label="Kits">
          <div className="flex items-center justify-between gap-3 flex-wrap">
            <h2>Kits</h2>
            <KitFiles some={kits.length > 0} busy={busy} onBusy={setBusy} onTold={setTold} />
          </div>
          <NewKit
            first={kits.length === 0}
            busy={busy}
            onProblems={setTold}
            onKept={(work) => void open('kits', work)}
          />
          <ShelfList
            what="kit"
            path="kits"
            entries={kits}
            count={(n) => `${n} ${n === 1 ? 'filter' : 'filters'}`}
            onPut={(entry) => void put('kit', entry, true)}
          />
        </section>
        <section aria-label="Rigs">
          <div className="flex items-center justify-between gap-3">
            <h2>Rigs</h2>
            <Button
              disabled={busy}
              onClick={() => void open('rigs', keepRigAction({ ...NEW_RIG, camera: 'New camera' }))}
            >
              <Plus size={16} aria-hidden /> New rig
            </Button>
          </div>
          <ShelfList
            what="rig"
            path="rigs"
            entries={rigs}
            count={(n) => `${n} ${n === 1 ? 'lens' : 'lenses'}`}
            onPut={(entry) => void put('rig', entry, true)}
          />
        </section>
      </div>
    </main>
  );
}
