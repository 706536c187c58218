'use client';

import { ImagePlus, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { HANDLING, type KeptFilter } from '@/core/sitting/kits/keptKit';
import { pictureUrl } from '@/ui/pictures';
import { Button } from '@/ui/Button';

/** How one filter handles, what was noted of it, and how it looks. */
export function FilterCard({ filter, onChange }: { filter: KeptFilter; onChange: (filter: KeptFilter) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  const name = filter.name ?? filter.id;

  function answer(key: (typeof HANDLING)[number]['key'], value: boolean | undefined) {
    const handling = { ...filter.handling };
    if (value === undefined) delete handling[key];
    else handling[key] = value;
    onChange({ ...filter, handling: Object.keys(handling).length > 0 ? handling : undefined });
  }

  async function add(files: FileList | null) {
    if (!files) return;
    setSending(true);
    setProblem(null);
    const photos = [...(filter.photos ?? [])];
    for (const file of files) {
      try {
        const sent = await fetch(`/api/photos?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file });
        const result = (await sent.json()) as { sha256?: string; name?: string; error?: string };
        if (!result.sha256) throw new Error(result.error ?? `${file.name} was not taken.`);
        if (!photos.some((one) => one.sha256 === result.sha256))
          photos.push({ sha256: result.sha256, name: file.name });
      } catch (error) {
        setProblem(error instanceof TypeError ? 'There is no line to the server.' : (error as Error).message);
      }
    }
    onChange({ ...filter, photos });
    setSending(false);
  }

  return (
    <section aria-label={`Handling of ${name}`} className="bg-sheet rounded-[10px] p-[18px]">
      <h2>{name}</h2>
      <table className="mt-2 w-full" aria-label="Checks of handling">
        <tbody>
          {HANDLING.map(({ key, question, good }) => {
            const value = filter.handling?.[key];
            return (
              <tr key={key}>
                <th scope="row" className="font-normal text-left py-1 pr-2">
                  {question}
                </th>
                <td className="py-1 text-right whitespace-nowrap">
                  {([true, false] as const).map((one) => (
                    <label
                      key={String(one)}
                      className={`inline-block rounded-md px-2.5 py-1 ml-1 cursor-pointer has-focus-visible:outline-2 has-focus-visible:outline-accent ${value === one ? (one === good ? 'bg-raised text-ink' : 'bg-well text-ink border-b-2 border-warning') : 'text-ink-3 hover:bg-well'}`}
                    >
                      <input
                        type="checkbox"
                        className="sr-only"
                        aria-label={`${question}: ${one ? 'yes' : 'no'}`}
                        checked={value === one}
                        onChange={() => answer(key, value === one ? undefined : one)}
                      />
                      {one ? 'yes' : 'no'}
                    </label>
                  ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <label className="grid gap-1 mt-3">
        <span className="text-ink-3 text-[12px]">Notes on handling</span>
        <textarea
          className="field w-full min-h-[72px]"
          value={filter.notes ?? ''}
          onChange={({ target }) => onChange({ ...filter, notes: target.value === '' ? undefined : target.value })}
        />
      </label>
      <div className="flex flex-wrap gap-2 mt-3">
        {(filter.photos ?? []).map((photo) => (
          <figure key={photo.sha256} className="relative">
            <img
              src={pictureUrl(photo.sha256, 320, { kind: 'srgb' })}
              alt={`${name}: ${photo.name}`}
              className="h-[84px] rounded-md bg-well"
            />
            <button
              type="button"
              aria-label={`Remove the photo ${photo.name}`}
              className="absolute top-1 right-1 rounded-md bg-header p-1"
              onClick={() =>
                onChange({ ...filter, photos: filter.photos?.filter((one) => one.sha256 !== photo.sha256) })
              }
            >
              <X size={13} aria-hidden />
            </button>
          </figure>
        ))}
      </div>
      <Button look="quiet" className="mt-1 -ml-3" disabled={sending} onClick={() => input.current?.click()}>
        <ImagePlus size={16} aria-hidden /> {sending ? 'Sending …' : 'Add a photo'}
      </Button>
      <input
        ref={input}
        type="file"
        aria-label={`Photos of ${name}`}
        accept="image/*"
        multiple
        hidden
        onChange={(event) => {
          void add(event.target.files);
          event.target.value = '';
        }}
      />
      {problem && (
        <p role="alert" className="text-failure mt-1">
          {problem}
        </p>
      )}
    </section>
  );
}
