import { Eye } from 'lucide-react';
import type { TileFile } from '@/server/footage';
import { formatShutter, parseShutter } from '@/core/formulas/optics/exposure';
import type { Response, Take } from '@/core/session/schema';
import { Tile } from '../intake/Tile';
import { Histogram } from './Histogram';

/** A file on its take: the picture, its histogram, what was read of it. */
export function FileTile({
  path,
  take,
  tile,
  response,
  doubts,
}: {
  path: string;
  take: Take;
  tile: TileFile | undefined;
  response: Response;
  doubts: number;
}) {
  const { shutter, iso } = take.exposure;
  const seconds = shutter === undefined ? null : parseShutter(shutter);
  const exposure = [seconds !== null && formatShutter(seconds), iso !== undefined && `ISO ${iso}`]
    .filter(Boolean)
    .join(', ');
  return (
    <div className="w-[132px]" title={tile && `${tile.facts}; ${tile.from}`}>
      <div className="relative">
        <Tile
          sha256={tile?.histogram ? (tile.sha256 ?? undefined) : undefined}
          response={response}
          moments={tile?.moments.length ?? 0}
          alt={path}
          className="h-[88px]"
        />
        {doubts > 0 && (
          <span className="absolute top-1 right-1 rounded-sm bg-header text-warning px-1.5 py-0.5 text-small inline-flex gap-1 items-center">
            <Eye size={13} aria-label={`${doubts} to look at`} />
          </span>
        )}
      </div>
      {tile?.histogram && <Histogram channels={tile.histogram} label={`Histogram of ${path}`} />}
      <div className="text-small truncate mt-0.5">{path.replace(/^.*\//, '')}</div>
      <div className="text-small text-ink-3 truncate">{exposure || (tile?.from.split(',')[0] ?? '')}</div>
    </div>
  );
}
