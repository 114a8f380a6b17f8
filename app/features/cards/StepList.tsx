import type { CardStep, Kit } from '@pace-check/contract';
import { useState, type ReactNode } from 'react';
import { Pressable } from 'react-native';
import { span } from '../../ui/figures';
import { Stack } from '../../ui/parts';
import { SortableList } from '../../ui/SortableList';
import { Body, FigureText, Quiet } from '../../ui/words';
import { StepEditor } from './StepEditor';

interface Props {
  steps: CardStep[];
  kit: Kit | undefined;
  onSteps: (steps: CardStep[]) => void;
  /** Steps that something is wrong with. */
  wrong: string | null;
}

/** The card's steps, to be dragged into order. */
export function StepList({ steps, kit, onSteps, wrong }: Props): ReactNode {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <SortableList
      items={steps}
      idOf={(step) => step.id}
      nameOf={(step, i) => `step ${i + 1}, ${step.title}`}
      label="Steps"
      what="step"
      onOrder={onSteps}
      isWrong={(step) => wrong === step.id}
      below={(step) =>
        open === step.id ? (
          <StepEditor
            key={step.id}
            step={step}
            steps={steps}
            kit={kit}
            onSteps={onSteps}
            onDone={() => setOpen(null)}
          />
        ) : null
      }
    >
      {(step, i) => (
        <StepRow
          step={step}
          number={i + 1}
          steps={steps}
          open={open === step.id}
          onOpen={() => setOpen(open === step.id ? null : step.id)}
        />
      )}
    </SortableList>
  );
}

/** The same steps for those who do not change them. */
export function StepsToRead({ steps }: Pick<Props, 'steps'>): ReactNode {
  return (
    <Stack role="list" aria-label="Steps">
      {steps.map((step, i) => (
        <Stack key={step.id} role="listitem">
          <StepRow step={step} number={i + 1} steps={steps} />
        </Stack>
      ))}
    </Stack>
  );
}

interface RowProps extends Pick<Props, 'steps'> {
  step: CardStep;
  number: number;
  open?: boolean;
  /** Left out where it cannot be opened. */
  onOpen?: () => void;
}

function StepRow({ step, number, steps, open, onOpen }: RowProps): ReactNode {
  const after = step.after.map((id) => steps.findIndex((one) => one.id === id) + 1);
  return (
    <Pressable
      {...(onOpen ? ({ role: 'button', 'aria-expanded': open } as const) : null)}
      disabled={onOpen === undefined}
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
            step.then.length > 0 ? `then ${step.then.map((one) => one.title).join(', ')}` : null,
            step.attended ? null : 'unattended',
            says(step),
            after.length > 0 ? `after ${after.join(', ')}` : null,
            step.requestId ? 'requested' : null,
            step.ladderId === null ? null : 'ladder',
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Stack>
      <Stack align="flex-end">
        <FigureText
          size={20}
        >{`${step.repeats > 1 ? `${step.repeats} × ` : ''}${span(step.minutes)}`}</FigureText>
        <Quiet>{`priority ${step.wanted}`}</Quiet>
      </Stack>
    </Pressable>
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
