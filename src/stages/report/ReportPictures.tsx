import { ArrowDown, ArrowUp, X } from 'lucide-react';
import type { ReportPicture } from '@/core/exports/report';
import { TextInput } from '@/ui/controls/fields';
import { IconButton } from '@/ui/controls/Tooltip';
import { pictureUrl } from '@/ui/pictures';

/** Pictures of a report with their captions, in the order in which they stand. */
export function ReportPictures({
  pictures,
  onChange,
}: {
  pictures: readonly ReportPicture[];
  onChange: (pictures: ReportPicture[]) => void;
}) {
  const exchanged = (i: number, k: number) => pictures.with(i, pictures[k]).with(k, pictures[i]);
  return (
    <fieldset className="mt-3">
      <legend className="text-ink-3 text-label">Pictures</legend>
      {pictures.length === 0 && (
        <p className="text-ink-2 text-small mt-1">None yet: “Save this view” in Compare puts one here.</p>
      )}
      <ol className="grid gap-2 mt-1">
        {pictures.map((one, i) => (
          <li key={`${i} ${one.sha256}`} className="flex items-center gap-2">
            <img
              src={pictureUrl(one.sha256, 320, { kind: 'srgb' })}
              alt=""
              className="w-[84px] h-[56px] object-cover rounded-sm bg-well shrink-0"
            />
            <TextInput
              aria-label={`Caption of picture ${i + 1}`}
              className="flex-1"
              placeholder="Caption"
              maxLength={500}
              value={one.caption}
              onChange={({ target }) => onChange(pictures.with(i, { ...one, caption: target.value }))}
            />
            <span className="flex shrink-0">
              <IconButton
                label={`Picture ${i + 1} up`}
                className="!p-1"
                disabled={i === 0}
                onClick={() => onChange(exchanged(i, i - 1))}
              >
                <ArrowUp size={15} aria-hidden />
              </IconButton>
              <IconButton
                label={`Picture ${i + 1} down`}
                className="!p-1"
                disabled={i === pictures.length - 1}
                onClick={() => onChange(exchanged(i, i + 1))}
              >
                <ArrowDown size={15} aria-hidden />
              </IconButton>
              <IconButton
                label={`Take picture ${i + 1} out`}
                className="!p-1"
                onClick={() => onChange(pictures.filter((_, k) => k !== i))}
              >
                <X size={15} aria-hidden />
              </IconButton>
            </span>
          </li>
        ))}
      </ol>
    </fieldset>
  );
}
