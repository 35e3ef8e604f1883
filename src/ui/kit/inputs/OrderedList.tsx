'use client';
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { IconGripVertical } from '@tabler/icons-react';
import type { ReactNode } from 'react';

interface OrderedProps<T> {
  /** Names the list among others of a page. */
  id: string;
  rows: readonly T[];
  keyOf(row: T): string;
  /** What a row is called when it is moved. */
  nameOf(row: T, at: number): string;
  className?: string;
  /** @param before the row that it now stands before; undefined at the end */
  onMove(moved: T, before: T | undefined): void;
  /** @param grip what it is moved by */
  children(row: T, at: number, grip: ReactNode): ReactNode;
}

/** Rows in an order of the person's own: dragged by a grip, or moved with Space and the arrow keys on it. */
export function OrderedList<T>({
  id,
  rows,
  keyOf,
  nameOf,
  className = '',
  onMove,
  children,
}: OrderedProps<T>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = rows.map(keyOf);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const from = ids.indexOf(String(active.id));
    const to = ids.indexOf(String(over.id));
    const moved = rows[from];
    if (moved !== undefined) onMove(moved, rows[from < to ? to + 1 : to]);
  };
  return (
    <DndContext id={id} sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        {rows.map((row, at) => (
          <OrderedRow key={ids[at]} id={ids[at] ?? ''} name={nameOf(row, at)} className={className}>
            {(grip) => children(row, at, grip)}
          </OrderedRow>
        ))}
      </SortableContext>
    </DndContext>
  );
}

interface OrderedRowProps {
  id: string;
  name: string;
  className: string;
  children(grip: ReactNode): ReactNode;
}

function OrderedRow({ id, name, className, children }: OrderedRowProps) {
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id });
  return (
    <div
      ref={setNodeRef}
      className={`${className} ${isDragging ? 'dragging' : ''}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      {children(
        <button
          type="button"
          className="plain grip"
          aria-label={`Move ${name}`}
          {...attributes}
          {...listeners}
        >
          <IconGripVertical size={15} />
        </button>,
      )}
    </div>
  );
}

/** A list with one row moved before another, or to the end. */
export function movedBefore<T>(rows: readonly T[], moved: T, before: T | undefined): T[] {
  const rest = rows.filter((row) => row !== moved);
  const at = before === undefined ? rest.length : rest.indexOf(before);
  return [...rest.slice(0, at), moved, ...rest.slice(at)];
}
