import type { ReactNode } from 'react';
import type { Session, Take } from '@/core/session/schema';
import type { BoardGroup, BoardRow } from '../intake/LayBoard';

/** Rows that are no filter's; no filter's id begins with this dot. */
const BARE = '·bare';
const BRACKET = '·bracket';

/** A session's files by scene and filter, as the board shows them. */
export function boardOf(session: Session, tileOf: (path: string, take: Take) => ReactNode): BoardGroup[] {
  const filters = session.kits.flatMap((kit) => kit.filters);
  return session.scenes.flatMap((scene): BoardGroup[] => {
    const takes = session.takes.filter((take) => take.scene === scene.id);
    if (takes.length === 0) return [];
    const row = (id: string, label: string, own: readonly Take[], missing?: string): BoardRow => ({
      id: JSON.stringify([scene.id, id]),
      label,
      missing,
      tiles: own.flatMap((take) => take.files.map((path) => ({ path, node: tileOf(path, take) }))),
    });
    const measured = takes.filter((take) => take.role !== 'bracket');
    const brackets = takes.filter((take) => take.role === 'bracket');
    const bare = measured.filter((take) => take.filter === null);
    return [
      {
        id: scene.id,
        title: titleOf(scene),
        rows: [
          row(BARE, 'bare', bare, 'no bare take: nothing to compare with'),
          ...filters.map(({ id, name }) =>
            row(
              id,
              name ?? id,
              measured.filter((take) => take.filter === id),
              'no take yet',
            ),
          ),
          ...(brackets.length > 0 ? [row(BRACKET, 'bracket', brackets)] : []),
        ],
      },
    ];
  });
}

/** The scene and filter of a row of the board. */
export function placeOfRow(row: string): { scene: string; filter: string | null } {
  const [scene, name] = JSON.parse(row) as [string, string];
  return { scene, filter: name === BARE || name === BRACKET ? null : name };
}

function titleOf({ id, kind }: Session['scenes'][number]): string {
  const words = id === kind ? id : `${id} (${kind})`;
  return words[0].toUpperCase() + words.slice(1);
}
