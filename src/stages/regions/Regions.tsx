'use client';

import Link from 'next/link';
import { useEffect, useMemo, useRef, useState } from 'react';
import { placePatchAction } from '@/app/server/actions';
import type { WindowStatistics } from '@/app/server/statistics';
import type { Patch, Rect } from '@/core/session';
import { Button, buttonClass } from '@/ui/Button';
import { fixed, percent } from '@/ui/format';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { pictureUrl } from '@/ui/pictures';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { PictureWithPatches } from './PictureWithPatches';

const SAVE_AFTER_MS = 350;
const ASK_AFTER_MS = 120;
/** A patch of fewer pixels than this has more noise than it need have. */
const GOOD_PIXELS = 5000;

/** Where to measure: patches on the bare picture, shown on every take. */
export function Regions({ view }: { view: SessionView }) {
  const { session, files, frames } = view;
  const [selectedFilter, selectFilter] = useSelectedFilter(view.beads);
  const [patches, setPatches] = useState<Patch[]>(session.patches);
  const [sceneId, setScene] = useState(session.scenes[0]?.id ?? '');
  const [selected, setSelected] = useState<string | null>(
    session.patches.find((patch) => patch.scene === sceneId)?.id ?? null,
  );
  const [saved, setSaved] = useState<'saved' | 'saving' | string>('saved');
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);

  const here = patches.filter((patch) => patch.scene === sceneId);
  const takes = session.takes.filter((take) => take.scene === sceneId);
  const bare = takes.find((take) => take.filter === null && take.files.some((file) => frames[files[file]]));
  const bareFile = bare?.files.find((file) => frames[files[file]]);
  const frame = bareFile ? frames[files[bareFile]] : null;
  const active = here.find((patch) => patch.id === selected) ?? null;
  const statistics = useStatistics(view.id, bareFile, active?.rect ?? null);

  function save(id: string, rect: Rect | null) {
    setSaved('saving');
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(async () => {
      const result = await placePatchAction(view.id, sceneId, id, rect);
      setSaved(result.ok ? 'saved' : result.error);
    }, SAVE_AFTER_MS);
  }
  function change(rect: Rect) {
    const id = active?.id ?? freeName(patches);
    setSelected(id);
    setPatches((now) => {
      const known = now.some((patch) => patch.id === id);
      return known
        ? now.map((patch) => (patch.id === id ? { ...patch, rect } : patch))
        : [...now, { id, scene: sceneId, role: 'neutral', rect }];
    });
    save(id, rect);
  }
  function add() {
    const id = freeName(patches);
    const rect = { x: 0.42, y: 0.4, width: 0.16, height: 0.2 };
    setPatches((now) => [...now, { id, scene: sceneId, role: 'neutral', rect }]);
    setSelected(id);
    save(id, rect);
  }
  function remove() {
    if (!active) return;
    setPatches((now) => now.filter((patch) => patch.id !== active.id));
    setSelected(here.find((patch) => patch.id !== active.id)?.id ?? null);
    save(active.id, null);
  }

  return (
    <>
      <StopLadder beads={view.beads} selected={selectedFilter} onSelect={selectFilter} />
      <main id="main" className="px-[18px] py-[18px] grid gap-[18px] items-start lg:grid-cols-[minmax(0,1fr)_330px]">
        <section aria-label="Bare picture" className="min-w-0">
          {session.scenes.length > 1 && (
            <div className="flex gap-1 mb-2" role="tablist" aria-label="Scenes">
              {session.scenes.map((scene) => (
                <button
                  key={scene.id}
                  type="button"
                  role="tab"
                  aria-selected={scene.id === sceneId}
                  onClick={() => {
                    setScene(scene.id);
                    setSelected(patches.find((patch) => patch.scene === scene.id)?.id ?? null);
                  }}
                  className={`px-3 py-1 rounded-md ${scene.id === sceneId ? 'bg-ink text-[#1f1f1f] font-semibold' : 'text-ink-2'}`}
                >
                  {scene.id}
                </button>
              ))}
            </div>
          )}
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
                selected={selected}
                onSelect={setSelected}
                onChange={change}
                onCommit={() => undefined}
                onRemove={remove}
              />
              <p className="text-ink-3 text-[12.5px] mt-2">
                {bareFile}, bare, {frame.width} × {frame.height}. Drag to draw, arrow keys nudge by a pixel (Ctrl: ten),
                Shift sizes.
              </p>
            </div>
          ) : (
            <p className="text-ink-2">
              There is no readable bare picture of this scene. Say in Footage which takes are bare.
            </p>
          )}
          {frame && <TakeStrip view={view} takes={takes} patches={here} selectedFilter={selectedFilter} />}
        </section>
        <aside className="bg-sheet rounded-[10px] p-[18px]" aria-label="Patches">
          <h1 className="!text-[17px]">{here.length === 0 ? 'Draw the gray patch' : 'Where to measure'}</h1>
          <p className="text-ink-2 mt-1">
            An even, neutral area that every take shows, lit like the rest, with no highlight at its edge.
          </p>
          <ul className="mt-3 grid gap-1 max-h-[176px] overflow-y-auto p-0.5">
            {here.map((patch) => (
              <li key={patch.id}>
                <button
                  type="button"
                  aria-pressed={patch.id === selected}
                  onClick={() => setSelected(patch.id)}
                  className={`w-full flex justify-between rounded-md px-2.5 py-1.5 ${patch.id === selected ? 'bg-raised text-accent font-semibold' : 'hover:bg-raised'}`}
                >
                  {patch.id} <span className="text-ink font-normal">{patch.role}</span>
                </button>
              </li>
            ))}
          </ul>
          <div className="flex gap-2 mt-3">
            <Button onClick={add} disabled={!frame}>
              Add a patch
            </Button>
            <Button look="quiet" onClick={remove} disabled={!active}>
              Remove
            </Button>
          </div>
          {active && <StatisticsTable statistics={statistics} />}
          <p
            role="status"
            className={`text-[12.5px] mt-3 ${saved === 'saved' || saved === 'saving' ? 'text-ink-3' : 'text-failure'}`}
          >
            {saved === 'saved' ? 'Saved' : saved === 'saving' ? 'Saving …' : saved}
          </p>
          <Link href={`/sessions/${view.id}/measure`} className={`${buttonClass('main')} mt-3`}>
            Go on to Measure
          </Link>
        </aside>
      </main>
    </>
  );
}

function StatisticsTable({ statistics }: { statistics: WindowStatistics | string | null }) {
  if (typeof statistics === 'string')
    return (
      <p role="alert" className="text-failure mt-4">
        {statistics}
      </p>
    );
  const channels = ['R', 'G', 'B'];
  const triple = (values: number[] | undefined, decimals: number) =>
    channels.map((name, c) => (
      <td key={name} className="text-right pl-3">
        {values ? fixed(100 * values[c], decimals) : '–'}
      </td>
    ));
  return (
    <div className="mt-4 min-h-[190px]" aria-live="polite" data-testid="statistics">
      <table className="w-full">
        <thead>
          <tr className="text-ink-3 text-[12px]">
            <th className="text-left font-medium">bare, in %</th>
            {channels.map((name) => (
              <th key={name} className="text-right font-medium">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th className="text-left font-normal text-ink-2">mean code</th>
            {triple(statistics?.meanCode, 1)}
          </tr>
          <tr>
            <th className="text-left font-normal text-ink-2">noise and structure</th>
            {triple(statistics?.noise, 1)}
          </tr>
        </tbody>
      </table>
      <dl className="grid grid-cols-[1fr_auto] gap-y-0.5 mt-2">
        <dt className="text-ink-2">pixels</dt>
        <dd className="text-right">{statistics ? statistics.pixels.toLocaleString('en-US') : '–'}</dd>
        <dt className="text-ink-2">clipped</dt>
        <dd className="text-right">{statistics ? percent(statistics.clipped, 2) : '–'}</dd>
        <dt className="text-ink-2">at code 0</dt>
        <dd className="text-right">{statistics ? percent(statistics.black, 2) : '–'}</dd>
      </dl>
      {statistics && <p className="mt-2">{advice(statistics)}</p>}
    </div>
  );
}

function advice(statistics: WindowStatistics): string {
  if (statistics.clipped > 0.001)
    return 'Clipped here: no strength can be measured. Choose a darker area, or shoot bare with less exposure.';
  if (Math.max(...statistics.noise) > 0.08) return 'Not even: an edge or a shade runs through. Make it smaller.';
  if (statistics.pixels < GOOD_PIXELS) return 'Even, but small: a larger patch has less noise.';
  return 'Even, unclipped and large: a good patch.';
}

function TakeStrip({
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
              className={`text-[12px] mt-1 truncate ${take.filter !== null && take.filter === selectedFilter ? 'text-accent font-semibold' : 'text-ink-2'}`}
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

/** Statistics of a rectangle on the bare picture, asked for when it rests a moment. A sentence on failure. */
function useStatistics(
  sessionId: string,
  file: string | undefined,
  rect: Rect | null,
): WindowStatistics | string | null {
  const [statistics, setStatistics] = useState<WindowStatistics | string | null>(null);
  const key = rect && JSON.stringify(rect);
  useEffect(() => {
    if (!file || !key) return;
    const controller = new AbortController();
    const wait = setTimeout(async () => {
      try {
        const response = await fetch(`/api/sessions/${sessionId}/statistics`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ file, rect: JSON.parse(key) }),
          signal: controller.signal,
        });
        const answer = await response.json();
        setStatistics(response.ok ? answer : answer.error);
      } catch {
        if (!controller.signal.aborted) setStatistics('The server does not answer; the patch is kept here.');
      }
    }, ASK_AFTER_MS);
    return () => {
      clearTimeout(wait);
      controller.abort();
    };
  }, [sessionId, file, key]);
  return statistics;
}

function freeName(patches: readonly Patch[]): string {
  const taken = new Set(patches.map((patch) => patch.id));
  if (!taken.has('gray')) return 'gray';
  for (let i = 2; ; i++) if (!taken.has(`gray-${i}`)) return `gray-${i}`;
}
