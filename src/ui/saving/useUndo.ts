import { useCallback, useEffect, useRef, useState } from 'react';
import { undoAction } from '@/server/editActions';
import { notAnswered } from './asked';

export interface Undo {
  /** Notes an edit by the revision that it made; what was taken back before can't be done again then. */
  note: (revision: number | null) => void;
  undo: () => Promise<void>;
  redo: () => Promise<void>;
  canUndo: boolean;
  canRedo: boolean;
  /** Why the last one couldn't be taken back. */
  problem: string | null;
}

/**
 * Takes back what was changed of a session on this page, the last first, and does it again: Ctrl+Z, Ctrl+Shift+Z. Each takes back its own
 * change alone; what others have changed since stays.
 *
 * @param settle writes what still waits, so that the last change is the last revision
 */
export function useUndo(sessionId: string, settle?: () => Promise<void>): Undo {
  const [problem, setProblem] = useState<string | null>(null);
  const [depth, setDepth] = useState({ done: 0, undone: 0 });
  const stacks = useRef({ done: [] as number[], undone: [] as number[], busy: false });
  const tell = useCallback(() => {
    const { done, undone } = stacks.current;
    setDepth({ done: done.length, undone: undone.length });
  }, []);

  const note = useCallback(
    (revision: number | null) => {
      if (revision === null) return;
      stacks.current.done.push(revision);
      stacks.current.undone = [];
      setProblem(null);
      tell();
    },
    [tell],
  );
  const step = useCallback(
    async (from: 'done' | 'undone', to: 'done' | 'undone') => {
      if (stacks.current.busy) return;
      stacks.current.busy = true;
      try {
        await settle?.();
        const revision = stacks.current[from].pop();
        if (revision === undefined) return;
        const result = await undoAction(sessionId, revision).catch(notAnswered);
        setProblem(result.ok ? null : result.error);
        if (result.ok && result.revision !== null) stacks.current[to].push(result.revision);
        // Where there is no line nothing was changed: it can be tried again.
        if ('nothingReached' in result) stacks.current[from].push(revision);
        tell();
      } finally {
        stacks.current.busy = false;
      }
    },
    [sessionId, settle, tell],
  );
  const undo = useCallback(() => step('done', 'undone'), [step]);
  const redo = useCallback(() => step('undone', 'done'), [step]);

  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.defaultPrevented) return;
      const key = event.key.toLowerCase();
      // What is being typed has an undo of its own.
      if (
        (key !== 'z' && key !== 'y') ||
        (event.target as HTMLElement).closest('input, textarea, [contenteditable="true"]')
      )
        return;
      event.preventDefault();
      void (key === 'y' || event.shiftKey ? redo() : undo());
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [undo, redo]);
  return { note, undo, redo, canUndo: depth.done > 0, canRedo: depth.undone > 0, problem };
}
