import {
  type CollisionDetection,
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
import { GripVertical } from 'lucide-react';
import { type ReactNode, useCallback, useMemo, useRef } from 'react';

// Constant objects: rows re-render when their context's value changes.
const BY_POINTER = { activationConstraint: { distance: 4 } };
const BY_KEYS = { coordinateGetter: sortableKeyboardCoordinates };

/**
 * The furthest row whose middle the leading edge of the dragged row has passed. Rows differ much in
 * height (some are open); comparing middles, a tall one would have to travel far to pass a small
 * one.
 */
const byEdge: CollisionDetection = ({
  active,
  collisionRect: now,
  droppableRects: rects,
  droppableContainers: rows,
}) => {
  const start = rects.get(active.id);
  if (!start) return [];
  const passed = rows.filter(({ id }) => {
    const r = rects.get(id);
    if (!r || id === active.id) return false;
    const middle = r.top + r.height / 2;
    return r.top > start.top
      ? now.top > start.top && middle <= now.bottom + 1
      : now.top < start.top && middle >= now.top - 1;
  });
  const far = (id: string | number): number => Math.abs(rects.get(id)!.top - start.top);
  const over = passed.sort((a, b) => far(b.id) - far(a.id))[0];
  return [{ id: over?.id ?? active.id }];
};

/** A list whose rows can be dragged by pointer or keyboard. */
export function Sortable({
  keys,
  onMove,
  children,
}: {
  keys: readonly string[];
  onMove: (key: string, to: number) => void;
  children: ReactNode;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, BY_POINTER),
    useSensor(KeyboardSensor, BY_KEYS),
  );
  const latest = useRef({ keys, onMove });
  latest.current = { keys, onMove };
  const end = useCallback(({ active, over }: DragEndEvent) => {
    const { keys: now, onMove: move } = latest.current;
    if (over && active.id !== over.id) move(String(active.id), now.indexOf(String(over.id)));
  }, []);
  const text = JSON.stringify(keys);
  const items = useMemo(() => JSON.parse(text) as string[], [text]);
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={byEdge}
      onDragEnd={end}
      accessibility={{ container: document.body }}
    >
      <SortableContext items={items} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}
/** A row of such a list: its position, and the handle to drag it by. */
export function useRow(id: string, what: string) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id,
  });
  return {
    ref: setNodeRef,
    style: {
      transform: CSS.Transform.toString(transform),
      transition,
      ...(isDragging && { position: 'relative' as const, zIndex: 5 }),
    },
    grip: (
      <button
        className="quiet cursor-grab py-1 flex-none"
        aria-label={`Move ${what}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={12} aria-hidden="true" />
      </button>
    ),
  };
}
