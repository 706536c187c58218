'use client';

import { Archive, FileUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { putBenchAwayAction, takeInBenchAction } from '@/server/benchActions';
import { Button } from '@/ui/Button';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { useTell } from '@/ui/controls/Toasts';
import { IconButton } from '@/ui/controls/Tooltip';
import { notAnswered } from '@/ui/saving/asked';
import { nameOfFile, readFile } from './readFile';

export interface TheirBench {
  id: string;
  name: string;
  file: string;
  filters: number;
}

/** Benches that were taken in, and the way for another one. */
export function TheirBenches({ benches }: { benches: readonly TheirBench[] }) {
  const router = useRouter();
  const tell = useTell();
  const picker = useRef<Picking>(null);
  const [chosen, setChosen] = useState<{ file: File; name: string } | null>(null);
  const [told, setTold] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);

  async function take() {
    if (!chosen) return;
    setBusy(true);
    setTold([]);
    const read = await readFile(chosen.file);
    const asked = { name: chosen.name, file: chosen.file.name };
    const result =
      'problem' in read
        ? { ok: false as const, error: read.problem }
        : await takeInBenchAction({ ...asked, ...read }).catch(notAnswered);
    setBusy(false);
    if (!result.ok) return setTold([`${chosen.file.name}: ${result.error}`]);
    setTold([`${chosen.name}: ${result.filters} ${result.filters === 1 ? 'filter' : 'filters'} taken in.`, ...result.problems]); // prettier-ignore
    setChosen(null);
    router.refresh();
  }

  async function putAway({ id, name }: TheirBench, away: boolean) {
    const result = await putBenchAwayAction(id, away).catch(notAnswered);
    if (!result.ok) return tell({ words: result.error, bad: true });
    if (away)
      tell({
        words: `“${name}” is put away and kept for 30 days.`,
        action: { words: 'Bring it back', run: () => void putAway({ id, name, file: '', filters: 0 }, false) },
      });
    router.refresh();
  }

  return (
    <section aria-label="Other benches" className="grid gap-2 content-start min-w-0">
      <div className="flex items-center justify-between gap-3 flex-wrap">
        <h2>Other benches</h2>
        <Button look="quiet" disabled={busy} onClick={() => picker.current?.open()}>
          <FileUp size={16} aria-hidden /> Take readings in
        </Button>
      </div>
      {chosen && (
        <form
          className="bg-sheet rounded-sheet p-3 flex items-end gap-3 flex-wrap"
          onSubmit={(event) => {
            event.preventDefault();
            void take();
          }}
        >
          <Labelled words={`Whose bench is ${chosen.file.name}?`} className="flex-1 basis-[220px]">
            <TextInput
              autoFocus
              value={chosen.name}
              maxLength={120}
              onChange={({ target }) => setChosen({ ...chosen, name: target.value })}
            />
          </Labelled>
          <Button type="submit" look="main" disabled={busy || chosen.name.trim() === ''}>
            Take in
          </Button>
          <Button type="button" look="quiet" onClick={() => setChosen(null)}>
            Leave it
          </Button>
        </form>
      )}
      {told.length > 0 && (
        <ul role="status" className="bg-well border-l-[3px] border-accent rounded-r-md px-4 py-2.5 grid gap-1">
          {told.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {benches.length > 0 ? (
        <ul aria-label="Benches" className="border-t border-rule">
          {benches.map((bench) => (
            <li key={bench.id} className="border-b border-rule py-2 flex items-center gap-3">
              <span className="min-w-0 flex-1">
                <span className="font-medium block truncate">{bench.name}</span>
                <span className="text-ink-3 text-label block truncate">
                  {bench.filters} {bench.filters === 1 ? 'filter' : 'filters'}, from {bench.file}
                </span>
              </span>
              <IconButton label={`Put ${bench.name} away`} onClick={() => void putAway(bench, true)}>
                <Archive size={16} aria-hidden />
              </IconButton>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-ink-2">
          None yet. Ask another bench for its <code>readings.glade.json</code> or <code>readings.csv</code>, as “Take
          away” of a measured session writes them; any table with the columns <code>filter</code>, <code>stops</code>{' '}
          and <code>stops_u95</code> will do.
        </p>
      )}
      <FilePicker
        picking={picker}
        label="Readings of another bench"
        accept=".csv,.tsv,.json,.txt"
        onFiles={([file]) => setChosen({ file, name: nameOfFile(file.name) })}
      />
    </section>
  );
}
