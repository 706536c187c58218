'use client';

import { Download, FileUp, Plus, Trash2 } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import {
  importKitsAction,
  keepKitAction,
  keepRigAction,
  putAwayFromShelfAction,
  type Kept,
} from '@/server/shelfActions';
import { filtersOfShorthand } from '@/core/sitting/kits/keptKit';
import { NEW_RIG } from '@/core/sitting/kits/keptRig';
import { Button, buttonClass } from '@/ui/Button';
import { KitPreview } from '../newSession/KitPreview';

export interface ShelfEntry {
  id: string;
  name: string;
  items: number;
}

type Gone = { what: 'kit' | 'rig'; entry: ShelfEntry };

/** Kits and rigs that are kept: typed once, used in every sitting. */
export function Shelf({ kits, rigs }: { kits: ShelfEntry[]; rigs: ShelfEntry[] }) {
  const router = useRouter();
  const [shorthand, setShorthand] = useState('');
  const [name, setName] = useState('');
  const [told, setTold] = useState<string[]>([]);
  const [gone, setGone] = useState<Gone | null>(null);
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);

  async function open(what: 'kits' | 'rigs', work: Promise<Kept>) {
    setBusy(true);
    const kept = await work;
    if (kept.ok) router.push(`/${what}/${kept.id}`);
    else {
      setTold([kept.error]);
      setBusy(false);
    }
  }

  function newKit() {
    const { filters, problems } = filtersOfShorthand(shorthand, []);
    if (problems.length > 0) return setTold(problems);
    void open('kits', keepKitAction({ id: 'kit', name: name.trim() || 'New kit', filters }));
  }

  async function take(files: FileList | null) {
    if (!files) return;
    setBusy(true);
    const lines: string[] = [];
    for (const file of files) {
      const { kits: count, filters, problems } = await importKitsAction(await file.text());
      lines.push(
        count === 0
          ? `${file.name}: nothing was taken in.`
          : `${file.name}: ${count} ${count === 1 ? 'kit' : 'kits'} with ${filters} ${filters === 1 ? 'filter' : 'filters'} taken in.`,
        ...problems,
      );
    }
    setTold(lines);
    setBusy(false);
    router.refresh();
  }

  async function put({ what, entry }: Gone, away: boolean) {
    await putAwayFromShelfAction(what, entry.id, away);
    setGone(away ? { what, entry } : null);
    router.refresh();
  }

  return (
    <main id="main" className="w-full max-w-[1180px] mx-auto px-[18px] py-7">
      <h1>Kits &amp; rigs</h1>
      <p className="text-ink-2 text-[15px] mt-1 max-w-[66ch]">
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
      {gone && (
        <p role="status" className="bg-well rounded-md px-4 py-2.5 mt-4 flex items-center gap-4 flex-wrap">
          “{gone.entry.name}” is put away and kept for a week.
          <Button look="quiet" onClick={() => void put(gone, false)}>
            Bring it back
          </Button>
        </p>
      )}
      <div className="grid gap-9 mt-6 items-start lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
        <section aria-label="Kits">
          <div className="flex items-center justify-between gap-3 flex-wrap">
            <h2>Kits</h2>
            <div className="flex gap-1">
              <Button look="quiet" onClick={() => input.current?.click()} disabled={busy}>
                <FileUp size={16} aria-hidden /> Take in CSV or JSON
              </Button>
              {kits.length > 0 && (
                <>
                  <a href="/api/kits?format=csv" download className={buttonClass('quiet')}>
                    <Download size={16} aria-hidden /> CSV
                  </a>
                  <a href="/api/kits?format=json" download className={buttonClass('quiet')}>
                    <Download size={16} aria-hidden /> JSON
                  </a>
                </>
              )}
            </div>
            <input
              ref={input}
              type="file"
              aria-label="Files of kits"
              accept=".csv,.tsv,.json,.txt"
              multiple
              hidden
              onChange={(event) => {
                void take(event.target.files);
                event.target.value = '';
              }}
            />
          </div>
          <form
            className="bg-sheet rounded-[10px] p-[14px] mt-2 grid gap-2.5"
            onSubmit={(event) => {
              event.preventDefault();
              newKit();
            }}
          >
            <div className="grid gap-2.5 sm:grid-cols-[1fr_1.4fr_auto] items-end">
              <label className="grid gap-1">
                <span className="text-ink-3 text-[12px]">Name</span>
                <input
                  className="field"
                  value={name}
                  onChange={(event) => setName(event.target.value)}
                  placeholder="Foundry Set"
                />
              </label>
              <label className="grid gap-1">
                <span className="text-ink-3 text-[12px]">Filters in shorthand</span>
                <input
                  className="field"
                  value={shorthand}
                  onChange={(event) => setShorthand(event.target.value)}
                  placeholder="ND4 8 16 32 64 CPL"
                  spellCheck={false}
                />
              </label>
              <Button look={kits.length === 0 ? 'main' : 'plain'} type="submit" disabled={busy}>
                <Plus size={16} aria-hidden /> New kit
              </Button>
            </div>
            <KitPreview shorthand={shorthand} />
          </form>
          <List
            what="kit"
            path="kits"
            entries={kits}
            count={(n) => `${n} ${n === 1 ? 'filter' : 'filters'}`}
            onPut={(entry) => void put({ what: 'kit', entry }, true)}
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
          <List
            what="rig"
            path="rigs"
            entries={rigs}
            count={(n) => `${n} ${n === 1 ? 'lens' : 'lenses'}`}
            onPut={(entry) => void put({ what: 'rig', entry }, true)}
          />
        </section>
      </div>
    </main>
  );
}

/** More than this many are searched rather than read. */
const SEARCHED = 12;

function List({
  what,
  path,
  entries,
  count,
  onPut,
}: {
  what: string;
  path: string;
  entries: ShelfEntry[];
  count: (items: number) => string;
  onPut: (entry: ShelfEntry) => void;
}) {
  const [sought, setSought] = useState('');
  const found = entries.filter((one) => one.name.toLowerCase().includes(sought.trim().toLowerCase()));
  if (entries.length === 0)
    return (
      <p className="text-ink-2 mt-3">
        No {what}s yet: the demo’s {what}s come with ./glade demo.
      </p>
    );
  return (
    <>
      {entries.length > SEARCHED && (
        <label className="flex items-center gap-2 mt-3">
          <span className="text-ink-2">Find</span>
          <input className="field flex-1" value={sought} onChange={(event) => setSought(event.target.value)} />
        </label>
      )}
      <ul className="mt-3 border-t border-rule">
        {found.map((entry) => (
          <li key={entry.id} className="flex items-center gap-3 border-b border-rule py-2">
            <Link
              href={`/${path}/${entry.id}`}
              className="text-[15px] font-[620] hover:underline truncate min-w-0 flex-1"
            >
              {entry.name}
            </Link>
            <span className="text-ink-2 whitespace-nowrap">{count(entry.items)}</span>
            <Link href={`/plan?${what}=${entry.id}`} className={buttonClass('quiet')}>
              Plan
            </Link>
            <button
              type="button"
              onClick={() => onPut(entry)}
              aria-label={`Put “${entry.name}” away`}
              title="Put away"
              className="p-2 rounded-md text-ink-3 hover:text-ink hover:bg-sheet"
            >
              <Trash2 size={16} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className="text-ink-2 mt-3">
          No {what} has “{sought}” in its name.
        </p>
      )}
    </>
  );
}
