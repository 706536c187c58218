'use client';

import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, Plus, X } from 'lucide-react';
import { useForm } from 'react-hook-form';
import { Button } from '@/ui/Button';
import { TextInput } from '@/ui/controls/fields';
import { IconButton } from '@/ui/controls/Tooltip';
import { Tick } from './Checklist';

const MOST_LETTERS = 300;

/** Lines of one's own below the checklist, in an order of one's own; the plan keeps them. */
export function OwnChecklist({ lines, onChange }: { lines: string[]; onChange: (lines: string[]) => void }) {
  const { register, handleSubmit, reset } = useForm({ defaultValues: { line: '' } });
  const sensors = useSensors(
    useSensor(PointerSensor),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const add = handleSubmit(({ line: text }) => {
    const line = text.trim();
    if (line === '') return;
    if (!lines.includes(line)) onChange([...lines, line]);
    reset();
  });
  return (
    <>
      <DndContext
        id="own-checklist"
        sensors={sensors}
        // What is read out would be no line of this list.
        accessibility={{ container: typeof document === 'undefined' ? undefined : document.body }}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => {
          if (over && over.id !== active.id)
            onChange(arrayMove(lines, lines.indexOf(String(active.id)), lines.indexOf(String(over.id))));
        }}
      >
        <SortableContext items={lines} strategy={verticalListSortingStrategy}>
          {lines.map((line) => (
            <OwnLine key={line} line={line} onRemove={() => onChange(lines.filter((one) => one !== line))} />
          ))}
        </SortableContext>
      </DndContext>
      <li className="print:hidden">
        <form className="flex gap-2 mt-1" onSubmit={(event) => void add(event)}>
          <TextInput
            className="w-full max-w-[420px]"
            aria-label="A line of your own"
            placeholder="Spare batteries, gray card, the wind’s forecast …"
            maxLength={MOST_LETTERS}
            {...register('line')}
          />
          <Button type="submit" look="quiet">
            <Plus size={16} aria-hidden /> Add the line
          </Button>
        </form>
      </li>
    </>
  );
}

function OwnLine({ line, onRemove }: { line: string; onRemove: () => void }) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({ id: line });
  return (
    <li
      ref={setNodeRef}
      className="flex gap-1 items-start"
      style={{ transform: CSS.Transform.toString(transform), transition }}
    >
      <Tick>{line}</Tick>
      <span className="flex print:hidden">
        <button
          type="button"
          ref={setActivatorNodeRef}
          className="p-1 text-ink-3 hover:text-ink cursor-grab touch-none"
          {...attributes}
          {...listeners}
          aria-label={`Move “${line}”`}
        >
          <GripVertical size={14} aria-hidden />
        </button>
        <IconButton label={`Remove “${line}”`} words="Remove" className="!p-1" onClick={onRemove}>
          <X size={15} aria-hidden />
        </IconButton>
      </span>
    </li>
  );
}
