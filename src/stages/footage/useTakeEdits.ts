import { useEffect, useRef, useState } from 'react';
import { parseShutter } from '@/core/formulas/optics/exposure';
import { parseTurn } from '@/core/sitting/intake/turnText';
import { asTyped, type TakeEdit, type TypedTake } from '@/core/sitting/intake/typedTake';
import type { TakesChanged } from '@/server/addFiles';
import { editTakesAction, moveFileAction } from '@/server/takeActions';
import { notAnswered } from '@/ui/saving/asked';
import { useUndo } from '@/ui/saving/useUndo';
import type { SessionView } from '@/ui/sessionView';
import { placeOfRow } from './board';

interface Message {
  text: string;
  bad: boolean;
}

const RENEW = 'Measure again to renew the figures.';

/** What is typed into the takes' table and moved on the board; typed changes are sent together, moved files at once. */
export function useTakeEdits({ id: sessionId, session }: SessionView) {
  const [edits, setEdits] = useState<Record<string, Partial<TypedTake>>>({});
  /** What each field showed when it was first typed into: what others do to it since isn't overwritten unseen. */
  const shown = useRef<Record<string, Partial<TypedTake>>>({});
  const [message, setMessage] = useState<Message | null>(null);
  const given = session.takes.map(asTyped);
  const filters = session.kits.flatMap((kit) => kit.filters);

  const undo = useUndo(sessionId);

  const tellChange = (change: TakesChanged, words: string) => {
    setMessage(change.ok ? { text: `${words} ${RENEW}`, bad: false } : { text: change.error, bad: true });
    if (change.ok) undo.note(change.revision);
  };

  const latest = useRef(edits);
  useEffect(() => {
    latest.current = edits;
  }, [edits]);

  async function save() {
    const sent = edits;
    const changes = Object.entries(sent).map(([id, to]): TakeEdit => ({ id, seen: shown.current[id], to }));
    const result = await editTakesAction(sessionId, changes).catch(notAnswered);
    if (!result.ok) setMessage({ text: result.error, bad: true });
    else if (result.refused.length > 0)
      setMessage({ text: ['The rest is saved.', ...result.refused].join(' '), bad: true });
    else setMessage({ text: `Saved. ${RENEW}`, bad: false });
    if (result.ok) undo.note(result.revision);
    // What was typed while it was under way is not saved yet.
    if (!result.ok) return;
    for (const [id, to] of Object.entries(sent)) shown.current[id] = { ...shown.current[id], ...to };
    setEdits((now) => (now === sent ? {} : now));
    if (latest.current === sent) shown.current = {};
  }
  async function move(path: string, row: string) {
    const { scene, filter } = placeOfRow(row);
    const from = session.takes.find((take) => take.files.includes(path));
    if (!from || (from.scene === scene && from.filter === filter)) return;
    const name = filter === null ? 'bare' : (filters.find((one) => one.id === filter)?.name ?? filter);
    const change = await moveFileAction(sessionId, path, { take: null, filter, scene }).catch(notAnswered);
    tellChange(change, `${path} is laid on ${name}.`);
  }
  async function takeBack() {
    setMessage({ text: 'Taking it back …', bad: false });
    await undo.undo();
    setMessage({ text: 'Taken back.', bad: false });
  }
  return {
    values: session.takes.map(({ id }, i) => ({ ...given[i], ...edits[id] })),
    changed: Object.keys(edits).length > 0,
    /** Whether anything typed can't be read. */
    wrong: Object.values(edits).some(
      (edit) => (edit.shutter && parseShutter(edit.shutter) === null) || (edit.turn && parseTurn(edit.turn) === null),
    ),
    message: undo.problem === null ? message : { text: undo.problem, bad: true },
    /** Whether the last change can be taken back. */
    canTakeBack: undo.canUndo,
    tellChange,
    edit: (id: string, edit: Partial<TypedTake>) => {
      setMessage(null);
      const was = session.takes.findIndex((take) => take.id === id);
      if (was >= 0) shown.current[id] = { ...given[was], ...shown.current[id] };
      setEdits((now) => ({ ...now, [id]: { ...now[id], ...edit } }));
    },
    save,
    move,
    takeBack,
  };
}
