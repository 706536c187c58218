'use client';

import { StopLadder } from '@/ui/ladder/StopLadder';
import { Tabs } from '@/ui/controls/Tabs';
import { useKeys } from '@/ui/keys';
import { pictureUrl } from '@/ui/pictures';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { PatchPanel } from './PatchPanel';
import { PictureWithPatches } from './PictureWithPatches';
import { TakeStrip } from './TakeStrip';
import { usePatches } from './usePatches';
import { asPatches, useProposals } from './useProposals';

/** Where to measure: patches on the bare picture, proposed or drawn, shown on every take. */
export function Regions({ view }: { view: SessionView }) {
  const { session, files, frames } = view;
  const [selectedFilter, selectFilter] = useSelectedFilter(view.beads);
  const placing = usePatches(view);
  const { patches, here, sceneId } = placing;
  const takes = session.takes.filter((take) => take.scene === sceneId);
  const bare = takes.find((take) => take.filter === null && take.files.some((file) => frames[files[file]]));
  const bareFile = bare?.files.find((file) => frames[files[file]]);
  const frame = bareFile ? frames[files[bareFile]] : null;
  const { proposals, ask, drop } = useProposals(view.id, sceneId, patches, frame !== null);
  const take = (ids: readonly string[]) =>
    placing.place(
      asPatches(
        proposals.patches.filter((one) => ids.includes(one.id)),
        sceneId,
        patches,
      ),
    );

  useKeys((key) => {
    if (key === 'a' && proposals.patches.length > 0) take(proposals.patches.map((one) => one.id));
    else if (key === 'p' && frame) void ask();
    else return false;
    return true;
  });

  return (
    <>
      <StopLadder beads={view.beads} selected={selectedFilter} onSelect={selectFilter} />
      <main id="main" className="px-[18px] py-[18px] grid gap-[18px] items-start lg:grid-cols-[minmax(0,1fr)_330px]">
        <section aria-label="Bare picture" className="min-w-0">
          <Tabs
            label="Scenes"
            value={sceneId}
            tabs={session.scenes.map(({ id }) => [id, id] as const)}
            onChange={placing.setScene}
          >
            {bareFile && frame ? (
              <div
                className="mx-auto"
                style={{
                  maxWidth: `calc((100dvh - 330px) * ${frame.width / frame.height})`,
                  minWidth: 'min(100%, 480px)',
                }}
              >
                <PictureWithPatches
                  src={pictureUrl(files[bareFile], 1600, session.rig.response)!}
                  frame={frame}
                  patches={here}
                  proposed={proposals.patches}
                  selected={placing.selected}
                  onSelect={placing.select}
                  onChange={placing.change}
                  onRemove={placing.remove}
                />
                <p className="text-ink-3 text-small mt-2">
                  {bareFile}, bare, {frame.width} × {frame.height}. Drag to draw, arrow keys nudge by a pixel (Ctrl:
                  ten), Shift sizes.
                </p>
              </div>
            ) : (
              <p className="text-ink-2">
                There is no readable bare picture of this scene. Say in Footage which takes are bare.
              </p>
            )}
            {frame && <TakeStrip view={view} takes={takes} patches={here} selectedFilter={selectedFilter} />}
          </Tabs>
        </section>
        <PatchPanel
          view={view}
          placing={placing}
          takes={takes}
          bareFile={frame ? bareFile : undefined}
          proposals={proposals}
          onTake={take}
          onAsk={() => void ask()}
          onDrop={drop}
        />
      </main>
    </>
  );
}
