import { useState } from 'react';
import { parseShutter } from '@/core/formulas/optics/exposure';
import type { Take } from '@/core/session/schema';
import { formatTurn, parseTurn } from '@/core/sitting/intake/turnText';
import {
  editTakesAction,
  moveFileAction,
  restoreTakesAction,
  type TakeEdit,
  type TakesChanged,
} from '@/server/takeActions';
import { NO_LINE_NOW } from '@/ui/saving/asked';
import type { SessionView } from '@/ui/sessionView';
import { placeOfRow } from './board';

interface Message {
  text: string;
  bad: boolean;
  /** The takes as they were, where the change can be taken back. */
  before?: unknown[];
}

const RENEW = 'Measure again to renew the figures.';

/** What is typed into the takes' table and moved on the board; typed changes are sent together, moved files at once. */
export function useTakeEdits({ id: sessionId, session }: SessionView) {
  const [edits, setEdits] = useState<Record<string, Partial<TakeEdit>>>({});
  const [message, setMessage] = useState<Message | null>(null);
  const given = session.takes.map(asTyped);
  const filters = session.kits.flatMap((kit) => kit.filters);

  const tellChange = (change: TakesChanged, words: string) =>
    setMessage(
      change.ok ? { text: `${words} ${RENEW}`, bad: false, before: change.before } : { text: change.error, bad: true },
    );

  async function save() {
    const sent = edits;
    const result = await editTakesAction(
      sessionId,
      given.filter((take) => sent[take.id]).map((take) => ({ ...take, ...sent[take.id] })),
    ).catch(() => NO_LINE_NOW);
    setMessage(result.ok ? { text: `Saved. ${RENEW}`, bad: false } : { text: result.error, bad: true });
    // What was typed while it was under way is not saved yet.
    if (result.ok) setEdits((now) => (now === sent ? {} : now));
  }
  async function move(path: string, row: string) {
    const { scene, filter } = placeOfRow(row);
    const from = session.takes.find((take) => take.files.includes(path));
    if (!from || (from.scene === scene && from.filter === filter)) return;
    const name = filter === null ? 'bare' : (filters.find((one) => one.id === filter)?.name ?? filter);
    const change = await moveFileAction(sessionId, path, { take: null, filter, scene }).catch(() => NO_LINE_NOW);
    tellChange(change, `${path} is laid on ${name}.`);
  }
  async function takeBack(before: unknown[]) {
    const result = await restoreTakesAction(sessionId, before).catch(() => NO_LINE_NOW);
    setMessage(result.ok ? { text: 'Taken back.', bad: false } : { text: result.error, bad: true });
  }
  return {
    values: given.map((take) => ({ ...take, ...edits[take.id] })),
    changed: Object.keys(edits).length > 0,
    /** Whether anything typed can't be read. */
    wrong: Object.values(edits).some(
      (edit) => (edit.shutter && parseShutter(edit.shutter) === null) || (edit.turn && parseTurn(edit.turn) === null),
    ),
    message,
    tellChange,
    edit: (id: string, edit: Partial<TakeEdit>) => {
      setMessage(null);
      setEdits((now) => ({ ...now, [id]: { ...now[id], ...edit } }));
    },
    save,
    move,
    takeBack,
  };
}

const written = (value: string | number | undefined) => (value === undefined ? '' : String(value));

/** A take as its row shows it; empty for what the files are asked. */
export function asTyped({ id, filter, exposure, setting, turn }: Take): TakeEdit {
  return {
    id,
    filter,
    shutter: written(exposure.shutter),
    iso: written(exposure.iso),
    fNumber: written(exposure.fNumber),
    ringDegrees: written(setting?.ringDegrees),
    mark: written(setting?.mark),
    turn: formatTurn(turn),
  };
}
