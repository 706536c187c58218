import { useMemo } from 'react';
import type { Patch } from '@/core/session/schema';
import { pictureUrl } from '@/ui/pictures';
import type { SessionView } from '@/ui/sessionView';

/** Every take of the scene with the patches on it. */
export function TakeStrip({
  view,
  takes,
  patches,
  selectedFilter,
}: {
  view: SessionView;
  takes: SessionView['session']['takes'];
  patches: Patch[];
  selectedFilter: string | null;
}) {
  const names = useMemo(() => new Map(view.beads.map((bead) => [bead.id, bead.name])), [view.beads]);
  return (
    <ul className="flex gap-2 mt-4 overflow-x-auto pb-2" aria-label="The patches on every take" tabIndex={0}>
      {takes.map((take) => {
        const sha = view.files[take.files[0]];
        const frame = view.frames[sha];
        return (
          <li key={take.id} className="shrink-0 w-[124px]">
            <div
              className="relative bg-well"
              style={{ aspectRatio: frame ? `${frame.width} / ${frame.height}` : '3 / 2' }}
            >
              {frame && (
                <img
                  src={pictureUrl(sha, 320, view.session.rig.response)}
                  alt=""
                  loading="lazy"
                  className="absolute inset-0 w-full h-full"
                />
              )}
              {patches.map(({ id, rect }) => (
                <span
                  key={id}
                  className="absolute outline outline-1 outline-white"
                  style={{
                    left: `${100 * rect.x}%`,
                    top: `${100 * rect.y}%`,
                    width: `${100 * rect.width}%`,
                    height: `${100 * rect.height}%`,
                    boxShadow: '0 0 0 2px rgb(0 0 0 / 0.5)',
                  }}
                />
              ))}
            </div>
            <p
              className={`text-small mt-1 truncate ${take.filter !== null && take.filter === selectedFilter ? 'text-accent font-semibold' : 'text-ink-2'}`}
            >
              {take.filter === null ? 'bare' : names.get(take.filter)}
              {take.files.length > 1 ? ` ×${take.files.length}` : ''}
            </p>
          </li>
        );
      })}
    </ul>
  );
}
