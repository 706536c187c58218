import { useEffect, useRef, useState } from 'react';
import type { Patch, Rect } from '@/core/session/schema';
import type { Edited } from '@/server/edited';
import { placePatchAction, placePatchesAction, renamePatchAction, type PatchStand } from '@/server/patchActions';
import type { SessionView } from '@/ui/sessionView';
import { useSaving } from '@/ui/saving/useSaving';
import { useUndo } from '@/ui/saving/useUndo';
import { OwnPatches } from './ownPatches';
import { overlap, SAME_PLACE } from './rects';
import { asPatches } from './useProposals';

/** Names of one patch that are remembered as this page's own. */
const MOST_NAMES = 20;

/** Where a patch is made that is not drawn: a little above the middle. */
const FIRST_RECT: Rect = { x: 0.42, y: 0.4, width: 0.16, height: 0.2 };

/** The session's patches as they are placed, each on its way to the server by itself; one scene's are at hand. */
export function usePatches({ id: sessionId, session }: SessionView) {
  const [patches, setPatches] = useState<Patch[]>(session.patches);
  const [sceneId, setSceneId] = useState(session.scenes[0]?.id ?? '');
  const [selected, select] = useState<string | null>(
    session.patches.find((patch) => patch.scene === sceneId)?.id ?? null,
  );
  const { state, problem, save: keepLater, flush, isPending } = useSaving();
  const { note, ...undo } = useUndo(sessionId, flush);
  const [refused, setRefused] = useState<string | null>(null);
  const own = useRef(new OwnPatches(session.patches));
  const adopted = useRef(session.patches);
  /** Names that were shown or sent from here. */
  const names = useRef(new Map<string, (string | null)[]>());
  const here = patches.filter((patch) => patch.scene === sceneId);
  const active = here.find((patch) => patch.id === selected) ?? null;

  // What the server answers with is what stands: an undo, or what another window has done meanwhile.
  useEffect(() => {
    if (isPending() || adopted.current === session.patches) return;
    adopted.current = session.patches;
    own.current = new OwnPatches(session.patches);
    names.current = new Map();
    setPatches(session.patches);
  }, [session.patches, state, isPending]);

  /** Every change of a session is a revision, by which it is taken back. */
  const save = (key: string, write: () => Promise<Edited>) =>
    keepLater(key, async () => {
      const result = await write();
      if (!result.ok) return result;
      note(result.revision);
      setRefused(result.refused[0] ?? null);
      return result;
    });
  const keep = (id: string, rect: Rect | null, role: Patch['role']) => {
    const to: PatchStand = rect && { rect, role };
    save(id, async () => {
      // What was drawn and drawn again before it was sent has been seen by nobody.
      const seen = own.current.send(id, to);
      const result = await placePatchAction(sessionId, sceneId, own.current.nameOf(id), to, seen);
      if (result.ok) {
        own.current.rename(id, result.id);
        if (result.id !== id) select((now) => (now === id ? result.id : now));
        if (result.refused.length > 0) own.current.send(id, result.stands);
      }
      return result;
    });
  };

  function setScene(next: string) {
    setSceneId(next);
    select(patches.find((patch) => patch.scene === next)?.id ?? null);
  }
  /** Places the patch at hand, or a new one. */
  function change(rect: Rect) {
    const id = active?.id ?? freeName(patches);
    const role = active?.role ?? 'neutral';
    select(id);
    setPatches((now) =>
      now.some((patch) => patch.id === id)
        ? now.map((patch) => (patch.id === id ? { ...patch, rect } : patch))
        : [...now, { id, scene: sceneId, role, rect }],
    );
    keep(id, rect, role);
  }
  function changeRole(role: Patch['role']) {
    if (!active) return;
    setPatches((now) => now.map((patch) => (patch.id === active.id ? { ...patch, role } : patch)));
    keep(active.id, active.rect, role);
  }
  function rename(name: string) {
    if (!active) return;
    const { id } = active;
    setPatches((now) => now.map((patch) => (patch.id === id ? { ...patch, name: name || undefined } : patch)));
    save(`name ${id}`, () => {
      const seen = names.current.get(id) ?? [adopted.current.find((patch) => patch.id === id)?.name ?? null];
      names.current.set(id, [...seen, name.trim() || null].slice(-MOST_NAMES));
      return renamePatchAction(sessionId, own.current.nameOf(id), name.trim() || null, seen);
    });
  }
  function add() {
    const id = freeName(patches);
    setPatches((now) => [...now, { id, scene: sceneId, role: 'neutral', rect: FIRST_RECT }]);
    select(id);
    keep(id, FIRST_RECT, 'neutral');
  }
  function remove() {
    if (!active) return;
    setPatches((now) => now.filter((patch) => patch.id !== active.id));
    select(here.find((patch) => patch.id !== active.id)?.id ?? null);
    keep(active.id, null, active.role);
  }
  /** Takes patches that were proposed. */
  function place(placed: Patch[]) {
    if (placed.length === 0) return;
    setPatches((now) => [...now, ...placed]);
    select(placed[0].id);
    save(placed.map((one) => one.id).join(), () => placePatchesAction(sessionId, placed));
  }
  /** The patches at hand in another scene too, at the same places of its frame; those that are there already aren't doubled. */
  function copyTo(scene: string) {
    const there = patches.filter((patch) => patch.scene === scene);
    const isThere = ({ role, rect }: Patch) =>
      there.some((one) => one.role === role && overlap(one.rect, rect) > SAME_PLACE);
    const copies = here.filter((patch) => !isThere(patch));
    const placed = asPatches(copies, scene, patches).map((one, i) => ({
      ...one,
      ...(copies[i].name === undefined ? {} : { name: copies[i].name }),
    }));
    setSceneId(scene);
    if (placed.length > 0) place(placed);
    else select(there[0]?.id ?? null);
  }
  return {
    patches,
    here,
    active,
    selected,
    select,
    sceneId,
    setScene,
    change,
    changeRole,
    rename,
    copyTo,
    add,
    remove,
    place,
    save,
    undo,
    saved: { state, problem: problem ?? refused ?? undo.problem },
  };
}

/** A name that no patch has: gray, gray-2, gray-3 … */
export function freeName(patches: readonly Patch[]): string {
  const taken = new Set(patches.map((patch) => patch.id));
  if (!taken.has('gray')) return 'gray';
  for (let i = 2; ; i++) if (!taken.has(`gray-${i}`)) return `gray-${i}`;
}
