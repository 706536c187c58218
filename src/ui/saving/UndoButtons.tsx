import { Redo2, Undo2 } from 'lucide-react';
import { IconButton } from '../controls/Tooltip';
import type { Undo } from './useUndo';

/** Takes back the last change of this page, and does it again; with their keys. */
export function UndoButtons({ undo }: { undo: Pick<Undo, 'undo' | 'redo' | 'canUndo' | 'canRedo'> }) {
  return (
    <>
      <IconButton label="Undo" words="Undo (Ctrl+Z)" disabled={!undo.canUndo} onClick={() => void undo.undo()}>
        <Undo2 size={16} aria-hidden />
      </IconButton>
      <IconButton label="Redo" words="Redo (Ctrl+Shift+Z)" disabled={!undo.canRedo} onClick={() => void undo.redo()}>
        <Redo2 size={16} aria-hidden />
      </IconButton>
    </>
  );
}
