import type { CardStep, Kit } from '@pace-check/contract';
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
import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { span } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { TARGET } from '../../ui/theme';
import { Body, FigureText, Quiet } from '../../ui/words';
import { StepEditor } from './StepEditor';
import { Icon } from '../../ui/Icon';
import { Row, Stack } from '../../ui/parts';

interface Props {
  steps: CardStep[];
  kit: Kit | undefined;
  onSteps: (steps: CardStep[]) => void;
  /** Steps that something is wrong with. */
  wrong: string | null;
}

/** The card's steps, to be dragged into order: by hand, or with space and the arrow keys. */
export function StepList({ steps, kit, onSteps, wrong }: Props): ReactNode {
  const [open, setOpen] = useState<string | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const place = (id: UniqueIdentifier): number => steps.findIndex((step) => step.id === id);
    onSteps(arrayMove(steps, place(active.id), place(over.id)));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{
        announcements: announcements(steps),
        screenReaderInstructions: {
          draggable:
            'Press space to pick the step up, the arrow keys to move it, space to put it down, escape to leave it where it was.',
        },
      }}
    >
      <SortableContext items={steps.map((step) => step.id)} strategy={verticalListSortingStrategy}>
        <Stack role="list" aria-label="Steps" gap={8}>
          {steps.map((step, i) => (
            <StepRow
              key={step.id}
              step={step}
              number={i + 1}
              kit={kit}
              steps={steps}
              wrong={wrong === step.id}
              open={open === step.id}
              onOpen={() => setOpen(open === step.id ? null : step.id)}
              onSteps={onSteps}
            />
          ))}
        </Stack>
      </SortableContext>
    </DndContext>
  );
}

function announcements(steps: CardStep[]): Announcements {
  const name = (id: UniqueIdentifier): string => steps.find((step) => step.id === id)?.title ?? 'the step';
  const place = (id: UniqueIdentifier | undefined): string =>
    `place ${steps.findIndex((step) => step.id === id) + 1} of ${steps.length}`;
  return {
    onDragStart: ({ active }) => `${name(active.id)} is picked up from ${place(active.id)}.`,
    onDragOver: ({ active, over }) => `${name(active.id)} is over ${place(over?.id)}.`,
    onDragEnd: ({ active, over }) => `${name(active.id)} is put down at ${place(over?.id ?? active.id)}.`,
    onDragCancel: ({ active }) => `${name(active.id)} stays where it was.`,
  };
}

interface RowProps extends Pick<Props, 'kit' | 'steps' | 'onSteps'> {
  step: CardStep;
  number: number;
  wrong: boolean;
  open: boolean;
  onOpen: () => void;
}

function StepRow({ step, number, kit, steps, wrong, open, onOpen, onSteps }: RowProps): ReactNode {
  const { sheet, line, quiet, action, ink } = usePalette();
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id: step.id });
  const after = step.after.map((id) => steps.findIndex((one) => one.id === id) + 1);
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
            aria-label={`Move step ${number}, ${step.title}`}
            style={{
              width: TARGET,
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
          <Pressable
            role="button"
            aria-expanded={open}
            aria-label={`Step ${number}, ${step.title}${step.device ? ` on ${step.device}` : ''}`}
            onPress={onOpen}
            style={{
              flex: 1,
              flexDirection: 'row',
              alignItems: 'center',
              gap: 10,
              paddingVertical: 8,
              paddingRight: 12,
              minHeight: 56,
              minWidth: 0,
            }}
          >
            <Stack flex={1} style={{ minWidth: 0 }}>
              <Body head>{step.title}</Body>
              <Quiet>
                {[
                  step.device ?? 'no device',
                  step.setup,
                  step.attended ? null : 'unattended',
                  says(step),
                  after.length > 0 ? `after ${after.join(', ')}` : null,
                  step.requestId ? 'asked for' : null,
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </Quiet>
            </Stack>
            <Stack align="flex-end">
              <FigureText
                size={20}
              >{`${step.repeats > 1 ? `${step.repeats} × ` : ''}${span(step.minutes)}`}</FigureText>
              <Quiet>{`wanted ${step.wanted}`}</Quiet>
            </Stack>
          </Pressable>
        </Row>
        {open ? (
          <StepEditor key={step.id} step={step} steps={steps} kit={kit} onSteps={onSteps} onDone={onOpen} />
        ) : null}
      </View>
    </div>
  );
}

/** Conditions that belong to the step. */
function says({ conditions }: CardStep): string | null {
  const { cooler, charging, performanceMode, firstPlay } = conditions;
  const parts = [
    cooler && `${cooler} cooler`,
    charging,
    performanceMode,
    firstPlay === undefined ? null : firstPlay ? 'first play' : 'second play',
  ].filter(Boolean);
  return parts.length > 0 ? parts.join(', ') : null;
}
