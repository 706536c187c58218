'use client';

import { Link } from '@/ui/Link';
import { useRef, useState } from 'react';
import { placePatchAction, placePatchesAction } from '@/server/actions';
import type { Patch, Rect } from '@/core/session/schema';
import { Button, buttonClass } from '@/ui/Button';
import { useKeys } from '@/ui/keys';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { pictureUrl } from '@/ui/pictures';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { PatchStatistics, useStatistics } from './PatchStatistics';
import { PictureWithPatches } from './PictureWithPatches';
import { ProposalList } from './ProposalList';
import { SceneOptics } from './SceneOptics';
import { TakeStrip } from './TakeStrip';
import { asPatches, useProposals } from './useProposals';

const SAVE_AFTER_MS = 350;

/** What each role measures, in the order they are offered. */
const ROLES: readonly [Patch['role'], string][] = [
  ['neutral', 'neutral: strength and cast'],
  ['edge', 'edge: sharpness'],
  ['field', 'field: shading'],
  ['black', 'black: flare'],
  ['color', 'color'],
  ['glare', 'glare'],
  ['reference', 'reference beside glare'],
  ['sky', 'sky'],
  ['frame', 'frame: the whole picture'],
];

/** What a kind of scene needs. */
const WHERE: Readonly<Record<string, string>> = {
  screen: 'The white screen, as much of it as every take shows.',
  water: 'The reflection (glare), and beside it something that doesn’t reflect (reference).',
  sky: 'Clear sky, and below it something matt in the same light (reference).',
};

/** Where a good patch of a role lies. */
const ADVICE: Partial<Record<Patch['role'], string>> = {
  glare: 'On the reflection itself, where it is brightest but not clipped. Bare must show it too.',
  reference:
    'Beside the glare or below the sky, in the same light: matt, even, not wet, not leaves, and no mirror of the sky. What happens there is taken for the filter’s plain strength.',
  sky: 'Even, clear sky with no cloud; two or three at different angles to the sun, and the one that darkens most speaks.',
  color: 'One surface of one color that fills the patch: leaves, paint, cloth.',
};

/** Where to measure: patches on the bare picture, proposed or drawn, shown on every take. */
export function Regions({ view }: { view: SessionView }) {
  const { session, files, frames } = view;
  const [selectedFilter, selectFilter] = useSelectedFilter(view.beads);
  const [patches, setPatches] = useState<Patch[]>(session.patches);
  const [sceneId, setScene] = useState(session.scenes[0]?.id ?? '');
  const [selected, setSelected] = useState<string | null>(
    session.patches.find((patch) => patch.scene === sceneId)?.id ?? null,
  );
  const [saved, setSaved] = useState<'saved' | 'saving' | string>('saved');
  // One a patch: a second patch moved soon after the first must not keep the first from being saved.
  const timers = useRef(new Map<string, ReturnType<typeof setTimeout>>());

  const scene = session.scenes.find((one) => one.id === sceneId);
  const here = patches.filter((patch) => patch.scene === sceneId);
  const takes = session.takes.filter((take) => take.scene === sceneId);
  const bare = takes.find((take) => take.filter === null && take.files.some((file) => frames[files[file]]));
  const bareFile = bare?.files.find((file) => frames[files[file]]);
  const frame = bareFile ? frames[files[bareFile]] : null;
  const active = here.find((patch) => patch.id === selected) ?? null;
  const statistics = useStatistics(view.id, bareFile, active?.rect ?? null);
  const { proposals, ask, drop } = useProposals(view.id, sceneId, patches, frame !== null);

  useKeys((key) => {
    if (key === 'a' && proposals.patches.length > 0) take(proposals.patches.map((one) => one.id));
    else if (key === 'p' && frame) void ask();
    else return false;
    return true;
  });

  function save(id: string, rect: Rect | null, role: Patch['role']) {
    setSaved('saving');
    clearTimeout(timers.current.get(id));
    const timer = setTimeout(async () => {
      timers.current.delete(id);
      const result = await placePatchAction(view.id, sceneId, id, rect, role);
      if (timers.current.size === 0) setSaved(result.ok ? 'saved' : result.error);
    }, SAVE_AFTER_MS);
    timers.current.set(id, timer);
  }
  async function take(ids: readonly string[]) {
    const chosen = proposals.patches.filter((one) => ids.includes(one.id));
    const placed = asPatches(chosen, sceneId, patches);
    if (placed.length === 0) return;
    setPatches((now) => [...now, ...placed]);
    setSelected(placed[0].id);
    setSaved('saving');
    const result = await placePatchesAction(view.id, placed);
    setSaved(result.ok ? 'saved' : result.error);
  }
  function change(rect: Rect) {
    const id = active?.id ?? freeName(patches);
    const role = active?.role ?? 'neutral';
    setSelected(id);
    setPatches((now) => {
      const known = now.some((patch) => patch.id === id);
      return known
        ? now.map((patch) => (patch.id === id ? { ...patch, rect } : patch))
        : [...now, { id, scene: sceneId, role, rect }];
    });
    save(id, rect, role);
  }
  function changeRole(role: Patch['role']) {
    if (!active) return;
    setPatches((now) => now.map((patch) => (patch.id === active.id ? { ...patch, role } : patch)));
    save(active.id, active.rect, role);
  }
  function add() {
    const id = freeName(patches);
    const rect = { x: 0.42, y: 0.4, width: 0.16, height: 0.2 };
    setPatches((now) => [...now, { id, scene: sceneId, role: 'neutral', rect }]);
    setSelected(id);
    save(id, rect, 'neutral');
  }
  function remove() {
    if (!active) return;
    setPatches((now) => now.filter((patch) => patch.id !== active.id));
    setSelected(here.find((patch) => patch.id !== active.id)?.id ?? null);
    save(active.id, null, active.role);
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
                proposed={proposals.patches}
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
          <h1 className="!text-[17px]">
            {proposals.patches.length > 0
              ? 'Places to measure, proposed'
              : here.length === 0
                ? 'Draw the gray patch'
                : 'Where to measure'}
          </h1>
          <p className="text-ink-2 mt-1">
            {proposals.patches.length > 0
              ? 'Take them all, or those you like, and correct them by hand.'
              : (WHERE[scene?.kind ?? ''] ??
                'An even, neutral area that every take shows, lit like the rest, with no highlight at its edge.')}
          </p>
          <ProposalList
            proposals={proposals}
            onTake={(id) => void take([id])}
            onTakeAll={() => void take(proposals.patches.map((one) => one.id))}
            onDrop={drop}
          />
          {here.length > 0 && (
            <ul className="mt-3 grid gap-1 max-h-[176px] overflow-y-auto p-0.5" aria-label="Patches of this scene">
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
          )}
          <div className="flex flex-wrap gap-2 mt-3">
            <Button onClick={add} disabled={!frame}>
              Add a patch
            </Button>
            <Button look="quiet" onClick={remove} disabled={!active}>
              Remove
            </Button>
            {proposals.patches.length === 0 && proposals.state !== 'looking' && (
              <Button look="quiet" onClick={() => void ask()} disabled={!frame}>
                Propose places
              </Button>
            )}
          </div>
          {active && (
            <>
              <label className="flex items-center gap-2 mt-4">
                <span className="text-ink-2">measures</span>
                <select
                  className="field flex-1"
                  value={active.role}
                  aria-label={`What ${active.id} measures`}
                  onChange={(event) => changeRole(event.target.value as Patch['role'])}
                >
                  {ROLES.map(([role, words]) => (
                    <option key={role} value={role}>
                      {words}
                    </option>
                  ))}
                </select>
              </label>
              {ADVICE[active.role] && <p className="text-[12.5px] text-ink-3 mt-2">{ADVICE[active.role]}</p>}
              <PatchStatistics statistics={statistics} role={active.role} />
            </>
          )}
          {scene && <SceneOptics key={scene.id} sessionId={view.id} scene={scene} takes={takes} />}
          <p
            role="status"
            className={`text-[12.5px] mt-3 ${saved === 'saved' || saved === 'saving' ? 'text-ink-3' : 'text-failure'}`}
          >
            {saved === 'saved' ? 'Saved' : saved === 'saving' ? 'Saving …' : saved}
          </p>
          {here.length > 0 && (
            <Link
              href={`/sessions/${view.id}/measure`}
              className={`${buttonClass(proposals.patches.length > 0 ? 'plain' : 'main')} mt-3`}
            >
              Go on to Measure
            </Link>
          )}
        </aside>
      </main>
    </>
  );
}

function freeName(patches: readonly Patch[]): string {
  const taken = new Set(patches.map((patch) => patch.id));
  if (!taken.has('gray')) return 'gray';
  for (let i = 2; ; i++) if (!taken.has(`gray-${i}`)) return `gray-${i}`;
}
