'use client';

import { ImagePlus, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { HANDLING, type KeptFilter } from '@/core/sitting/kits/keptKit';
import { pictureUrl } from '@/ui/pictures';
import { Button } from '@/ui/Button';
import { Labelled, TextArea, TextInput } from '@/ui/controls/fields';
import { FilePicker, type Picking } from '@/ui/controls/FilePicker';
import { Toggle } from '@/ui/controls/Toggle';
import { IconButton } from '@/ui/controls/Tooltip';
import { FilterEvents } from './FilterEvents';

/** How one filter handles, what was noted of it, and how it looks. */
export function FilterCard({ filter, onChange }: { filter: KeptFilter; onChange: (filter: KeptFilter) => void }) {
  const picker = useRef<Picking>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  const name = filter.name ?? filter.id;

  function answer(key: (typeof HANDLING)[number]['key'], value: boolean | undefined) {
    const handling = { ...filter.handling };
    if (value === undefined) delete handling[key];
    else handling[key] = value;
    onChange({ ...filter, handling: Object.keys(handling).length > 0 ? handling : undefined });
  }

  async function add(files: File[]) {
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
        setProblem(error instanceof TypeError ? 'No connection to the server.' : (error as Error).message);
      }
    }
    onChange({ ...filter, photos });
    setSending(false);
  }

  return (
    <section aria-label={`Handling of ${name}`} className="bg-sheet rounded-sheet p-[18px]">
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
                    <Toggle
                      key={String(one)}
                      on={value === one}
                      label={`${question}: ${one ? 'yes' : 'no'}`}
                      className={`ml-1 ${one === good ? '' : 'data-[state=on]:bg-well data-[state=on]:text-warning'}`}
                      onChange={(on) => answer(key, on ? one : undefined)}
                    >
                      {one ? 'yes' : 'no'}
                    </Toggle>
                  ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Labelled words="Serial number" className="mt-3">
        <TextInput
          className="w-full"
          maxLength={100}
          value={filter.serial ?? ''}
          onChange={({ target }) => onChange({ ...filter, serial: target.value === '' ? undefined : target.value })}
        />
      </Labelled>
      <FilterEvents
        name={name}
        events={filter.events ?? []}
        onChange={(events) => onChange({ ...filter, events: events.length > 0 ? events : undefined })}
      />
      <Labelled words="Notes on handling" className="mt-3">
        <TextArea
          className="min-h-[72px]"
          value={filter.notes ?? ''}
          onChange={({ target }) => onChange({ ...filter, notes: target.value === '' ? undefined : target.value })}
        />
      </Labelled>
      <div className="flex flex-wrap gap-2 mt-3">
        {(filter.photos ?? []).map((photo) => (
          <figure key={photo.sha256} className="relative">
            <img
              src={pictureUrl(photo.sha256, 320, { kind: 'srgb' })}
              alt={`${name}: ${photo.name}`}
              className="h-[84px] rounded-md bg-well"
            />
            <IconButton
              label={`Remove the photo ${photo.name}`}
              words="Remove"
              className="absolute top-1 right-1 bg-header !p-1"
              onClick={() =>
                onChange({ ...filter, photos: filter.photos?.filter((one) => one.sha256 !== photo.sha256) })
              }
            >
              <X size={13} aria-hidden />
            </IconButton>
          </figure>
        ))}
      </div>
      <Button look="quiet" className="mt-1 -ml-3" disabled={sending} onClick={() => picker.current?.open()}>
        <ImagePlus size={16} aria-hidden /> {sending ? 'Sending …' : 'Add a photo'}
      </Button>
      <FilePicker
        picking={picker}
        label={`Photos of ${name}`}
        accept="image/*"
        multiple
        onFiles={(files) => void add(files)}
      />
      {problem && (
        <p role="alert" className="text-failure mt-1">
          {problem}
        </p>
      )}
    </section>
  );
}
