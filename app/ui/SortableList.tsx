import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Icon } from './Icon';
import { usePalette } from './Look';
import { Row, Stack } from './parts';
import { TARGET } from './theme';

interface Props<T> {
  items: readonly T[];
  idOf: (item: T) => string;
  /** What it is called while it is moved. */
  nameOf: (item: T, index: number) => string;
  label: string;
  /** What one of them is, such as "step". */
  what: string;
  onOrder: (items: T[]) => void;
  isWrong?: (item: T) => boolean;
  children: (item: T, index: number) => ReactNode;
  /** What opens below one of them, over its whole width. */
  below?: (item: T) => ReactNode;
}

/** Things that are dragged into order: by hand, or with space and the arrow keys. */
export function SortableList<T>(props: Props<T>): ReactNode {
  const { items, idOf, nameOf, label, what, onOrder, isWrong, children, below } = props;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const place = (id: UniqueIdentifier): number => items.findIndex((item) => idOf(item) === id);
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (over && active.id !== over.id) onOrder(arrayMove([...items], place(active.id), place(over.id)));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{
        announcements: announcements(props),
        screenReaderInstructions: {
          draggable: `Press space to pick up the ${what}, the arrow keys to move it, space to drop it, escape to cancel.`,
        },
      }}
    >
      <SortableContext items={items.map(idOf)} strategy={verticalListSortingStrategy}>
        <Stack role="list" aria-label={label} gap={8}>
          {items.map((item, i) => (
            <SortableRow
              key={idOf(item)}
              id={idOf(item)}
              moves={`Move ${nameOf(item, i)}`}
              wrong={isWrong?.(item) ?? false}
              below={below?.(item)}
            >
              {children(item, i)}
            </SortableRow>
          ))}
        </Stack>
      </SortableContext>
    </DndContext>
  );
}

function announcements<T>({ items, idOf, nameOf, what }: Props<T>): Announcements {
  const at = (id: UniqueIdentifier): number => items.findIndex((item) => idOf(item) === id);
  const name = (id: UniqueIdentifier): string =>
    at(id) < 0 ? `the ${what}` : nameOf(items[at(id)]!, at(id));
  const place = (id: UniqueIdentifier | undefined): string =>
    `position ${id === undefined ? 0 : at(id) + 1} of ${items.length}`;
  return {
    onDragStart: ({ active }) => `${name(active.id)} picked up from ${place(active.id)}.`,
    onDragOver: ({ active, over }) => `${name(active.id)} is over ${place(over?.id)}.`,
    onDragEnd: ({ active, over }) => `${name(active.id)} dropped at ${place(over?.id ?? active.id)}.`,
    onDragCancel: ({ active }) => `Move cancelled. ${name(active.id)} is back at its place.`,
  };
}

/** One of them, with the handle that it is dragged by. */
function SortableRow({
  id,
  moves,
  wrong,
  children,
  below,
}: {
  id: string;
  moves: string;
  wrong: boolean;
  children: ReactNode;
  below: ReactNode;
}): ReactNode {
  const { sheet, line, quiet, action, ink } = usePalette();
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id });
  return (
    <div
      ref={setNodeRef}
      role="listitem"
      style={{
        transform: CSS.Translate.toString(transform),
        transition,
        zIndex: isDragging ? 1 : undefined,
        position: 'relative',
      }}
    >
      <View
        style={{
          backgroundColor: sheet,
          borderWidth: wrong ? 2 : 1,
          borderColor: wrong || isDragging ? action : line,
          borderRadius: 8,
          boxShadow: isDragging ? '0 6px 18px rgba(0,0,0,0.25)' : undefined,
        }}
      >
        <Row align="stretch">
          <button
            ref={setActivatorNodeRef}
            {...attributes}
            {...listeners}
            aria-label={moves}
            style={{
              width: TARGET,
              minHeight: TARGET,
              border: 'none',
              background: 'none',
              color: ink,
              cursor: isDragging ? 'grabbing' : 'grab',
              touchAction: 'none',
              padding: 0,
              display: 'flex',
              alignItems: 'center',
              justifyContent: 'center',
            }}
          >
            <Icon name="grip" size={20} color={quiet} />
          </button>
          <Stack flex={1} style={{ minWidth: 0 }}>
            {children}
          </Stack>
        </Row>
        {below}
      </View>
    </div>
  );
}
