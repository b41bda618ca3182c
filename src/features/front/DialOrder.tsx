'use client';
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import type { Announcements, UniqueIdentifier } from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import type { ReactNode } from 'react';
import { placeDial } from '@/core/edit/dials';
import type { GroupDefinition } from '@/core/graph/document';
import { commit } from '@/state/editing';

interface OrderProps {
  readonly group: GroupDefinition;
  readonly children: ReactNode;
}

/** How far a handle is pulled before it drags, pixels. */
const PULL = 3;

/** Rows of dials that are put in order by dragging their handles, by pointer or keys. */
export function DialOrder({ group, children }: OrderProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: PULL } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const nameOf = (id: UniqueIdentifier): string =>
    group.dials.find((dial) => dial.id === id)?.name ?? '';
  const announcements: Announcements = {
    onDragStart: ({ active }) => `Took “${nameOf(active.id)}”.`,
    onDragOver: ({ over }) => (over ? `Over “${nameOf(over.id)}”.` : undefined),
    onDragEnd: ({ active, over }) =>
      over ? `Put “${nameOf(active.id)}” where “${nameOf(over.id)}” was.` : 'Left it where it was.',
    onDragCancel: () => 'Left it where it was.',
  };
  return (
    <DndContext
      id="dials"
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{ announcements }}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id)
          commit('Ordered the dials', (current) =>
            placeDial(current, group.id, String(active.id), String(over.id)),
          );
      }}
    >
      <SortableContext
        items={group.dials.map(({ id }) => id)}
        strategy={verticalListSortingStrategy}
      >
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** What a row needs to be dragged: where it is shown, and its handle. */
export function useDialDrag(id: string, name: string) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } =
    useSortable({ id });
  const handle = (
    <button
      ref={setActivatorNodeRef}
      type="button"
      {...attributes}
      {...listeners}
      aria-label={`Drag ${name} to its place`}
      title="Drag to its place; or press space, move with the arrows, press space"
      className="grid min-h-[24px] min-w-[24px] cursor-grab touch-none place-items-center text-soft"
    >
      <GripVertical size={12} />
    </button>
  );
  return {
    handle,
    setNodeRef,
    style: { transform: CSS.Translate.toString(transform), transition },
  };
}
