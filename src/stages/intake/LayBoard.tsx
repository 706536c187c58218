'use client';

import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { useState, type ReactNode } from 'react';
import { announced, rowByArrow } from './carrying';

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
/** Pixels that a pointer goes before a tile is carried: less is a click. */
const CARRIED_FROM = 6;

/** Files by scene and filter; a tile is carried to another row by pointer, by finger, or by space and arrows. */
export function LayBoard({ groups, onMove }: { groups: BoardGroup[]; onMove: (path: string, row: string) => void }) {
  const [carried, setCarried] = useState<string | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: CARRIED_FROM } }),
    useSensor(KeyboardSensor, { coordinateGetter: rowByArrow }),
  );
  const labels = new Map(
    groups.flatMap((group) => group.rows.map((row) => [row.id, `${row.label}, ${group.title}`] as const)),
  );
  const tile = groups.flatMap(({ rows }) => rows.flatMap(({ tiles }) => tiles)).find(({ path }) => path === carried);
  return (
    <DndContext
      id="board"
      sensors={sensors}
      accessibility={{ announcements: announced(labels) }}
      onDragStart={({ active }) => setCarried(String(active.id))}
      onDragCancel={() => setCarried(null)}
      onDragEnd={({ active, over }) => {
        setCarried(null);
        if (over) onMove(String(active.id), String(over.id));
      }}
    >
      {groups.map((group) => (
        <section key={group.id} aria-label={group.title} className="mt-6">
          <h2>{group.title}</h2>
          <div
            className={`mt-1.5 ${group.rows.every((row) => row.tiles.length <= FEW) ? 'md:grid md:grid-cols-2 md:gap-x-8' : ''}`}
          >
            {group.rows.map((row) => (
              <Row key={row.id} row={row} label={labels.get(row.id)!} />
            ))}
          </div>
        </section>
      ))}
      <DragOverlay dropAnimation={null}>{tile && <div className="opacity-85">{tile.node}</div>}</DragOverlay>
    </DndContext>
  );
}

function Row({ row, label }: { row: BoardRow; label: string }) {
  const { setNodeRef, isOver } = useDroppable({ id: row.id });
  return (
    <div
      ref={setNodeRef}
      role="group"
      aria-label={label}
      className={`grid grid-cols-[112px_1fr] gap-3 py-2 border-b border-rule items-start ${isOver ? 'bg-sheet' : ''}`}
    >
      <div className="pt-1 font-semibold">{row.label}</div>
      <div className="flex flex-wrap gap-3 min-h-[34px]">
        {row.tiles.map(({ path, node }) => (
          <CarriedTile key={path} path={path}>
            {node}
          </CarriedTile>
        ))}
        {row.tiles.length === 0 && row.missing && (
          <p className="rounded-md border border-dashed border-ink-4 text-ink-3 px-3 py-1.5">{row.missing}</p>
        )}
      </div>
    </div>
  );
}

function CarriedTile({ path, children }: { path: string; children: ReactNode }) {
  const { setNodeRef, listeners, attributes, isDragging } = useDraggable({ id: path });
  return (
    <div
      ref={setNodeRef}
      data-path={path}
      className={`cursor-grab touch-manipulation ${isDragging ? 'opacity-40' : ''}`}
      {...listeners}
      {...attributes}
      aria-label={path}
      aria-roledescription="file that can be carried to another row"
    >
      {children}
    </div>
  );
}
