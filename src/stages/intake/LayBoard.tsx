'use client';

import { useState, type DragEvent, type ReactNode } from 'react';

export interface BoardRow {
  id: string;
  label: string;
  /** Said where nothing lies here; rows without it stay empty in silence. */
  missing?: string;
  tiles: { path: string; node: ReactNode }[];
}

export interface BoardGroup {
  id: string;
  title: string;
  rows: BoardRow[];
}

/** Rows with no more tiles than this stand two abreast. */
const FEW = 3;
const TYPE = 'application/x-glade-file';

/** Files by scene and filter; a tile can be dragged to another row. */
export function LayBoard({ groups, onMove }: { groups: BoardGroup[]; onMove: (path: string, row: string) => void }) {
  const [over, setOver] = useState<string | null>(null);
  const drop = (row: string) => ({
    onDragOver: (event: DragEvent) => {
      if (!event.dataTransfer.types.includes(TYPE)) return;
      event.preventDefault();
      event.stopPropagation();
      setOver(row);
    },
    onDragLeave: () => setOver((now) => (now === row ? null : now)),
    onDrop: (event: DragEvent) => {
      const path = event.dataTransfer.getData(TYPE);
      if (!path) return;
      event.preventDefault();
      event.stopPropagation();
      setOver(null);
      onMove(path, row);
    },
  });
  return (
    <>
      {groups.map((group) => (
        <section key={group.id} aria-label={group.title} className="mt-6">
          <h2>{group.title}</h2>
          <div
            className={`mt-1.5 ${group.rows.every((row) => row.tiles.length <= FEW) ? 'md:grid md:grid-cols-2 md:gap-x-8' : ''}`}
          >
            {group.rows.map((row) => (
              <div
                key={row.id}
                role="group"
                aria-label={`${row.label}, ${group.title}`}
                className={`grid grid-cols-[112px_1fr] gap-3 py-2 border-b border-rule items-start ${over === row.id ? 'bg-sheet' : ''}`}
                {...drop(row.id)}
              >
                <div className="pt-1 font-semibold">{row.label}</div>
                <div className="flex flex-wrap gap-3 min-h-[34px]">
                  {row.tiles.map(({ path, node }) => (
                    <div
                      key={path}
                      draggable
                      data-path={path}
                      className="cursor-grab"
                      onDragStart={(event) => event.dataTransfer.setData(TYPE, path)}
                    >
                      {node}
                    </div>
                  ))}
                  {row.tiles.length === 0 && row.missing && (
                    <p className="rounded-[6px] border border-dashed border-ink-4 text-ink-3 px-3 py-1.5">
                      {row.missing}
                    </p>
                  )}
                </div>
              </div>
            ))}
          </div>
        </section>
      ))}
    </>
  );
}
