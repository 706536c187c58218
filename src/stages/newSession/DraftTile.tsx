import { parseShutter } from '@/core/formulas/optics/exposure';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import type { DraftPicture } from '@/core/sitting/intake/draft';
import type { Response } from '@/core/session/schema';
import { momentsOf, Tile } from '../intake/Tile';

/** A file of a draft where it is laid. */
export function DraftTile({ row, file, response }: { row: DraftPicture; file: ArrivedFile; response: Response }) {
  const { facts, sha256 } = file.stored;
  return (
    <div className="w-[132px]">
      <Tile
        sha256={sha256}
        response={response}
        moments={facts.readable ? momentsOf(facts.look) : 0}
        alt={row.path}
        className="h-[88px]"
      />
      <div className="text-small truncate mt-0.5" title={row.path}>
        {row.path.replace(/^.*\//, '')}
      </div>
      <div className="text-small text-ink-3">{exposureOf(row)}</div>
    </div>
  );
}

/** What is known of a picture's exposure; what isn't one yet isn't shown as one. */
function exposureOf({ shutter, iso, telemetry }: DraftPicture): string {
  if (shutter === '') return telemetry ? 'from telemetry' : 'no exposure';
  if (parseShutter(shutter) === null) return 'no exposure yet';
  return iso === '' ? `${shutter} s, no ISO yet` : `${shutter} s, ISO ${iso}`;
}
