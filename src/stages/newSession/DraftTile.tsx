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
      <div className="text-small text-ink-3">
        {row.shutter === '' ? (row.telemetry ? 'from telemetry' : 'no exposure') : `${row.shutter} s, ISO ${row.iso}`}
      </div>
    </div>
  );
}
