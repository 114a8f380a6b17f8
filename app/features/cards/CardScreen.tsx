import { IfMay, useMay } from '../../ui/Role';
import { ROUTES } from '@pace-check/contract';
import { POLICIES, type Card, type ViewerRequest } from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import {
  toInput,
  useChangeCard,
  useCreateCard,
  useDeleteCard,
  useKit,
  useRequests,
  type CardChanger,
} from '../../api/queries';
import { BackTo } from '../../ui/BackTo';
import { Choices } from '../../ui/Choices';
import { count, span } from '../../ui/figures';
import { useWide } from '../../ui/Look';
import { useCardDay, type CardDay } from '../../outbox/cardDay';
import { NamePicker } from '../../ui/PickOrAdd';
import { Answered, Notice } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, Heading, Quiet } from '../../ui/words';
import { DayView } from './DayView';
import { copied, newStep, stepOf } from './newCard';
import { StepList, StepsToRead } from './StepList';
import { Row, Stack } from '../../ui/parts';

type Tab = 'steps' | 'day';
const TABS: { value: Tab; text: string }[] = [
  { value: 'steps', text: 'Steps' },
  { value: 'day', text: 'Schedule' },
];

/** A test card: its steps, and its day. */
export function CardScreen({ id }: { id: string }): ReactNode {
  const day = useCardDay(id);
  const wide = useWide();
  return (
    // no ScrollView: its node has a scrollTo of its own that dragging by keys does not understand
    <div style={{ height: '100%', overflowX: 'hidden', overflowY: 'auto' }}>
      <Stack gap={14} padding={wide ? 24 : 14} style={{ maxWidth: 1320, width: '100%' }}>
        {day.query.data ? null : <BackTo href="/cards" title="Plan" />}
        <Answered query={day.query} loading={{ rows: 4, height: 90, label: 'Loading card' }}>
          {(known) => <CardPage card={known} day={day} wide={wide} />}
        </Answered>
      </Stack>
    </div>
  );
}

function CardPage({ card, day: followed, wide }: { card: Card; day: CardDay; wide: boolean }): ReactNode {
  const kit = useKit().data;
  const changer = useChangeCard(card.id);
  const [tab, setTab] = useState<Tab>(card.plan ? 'day' : 'steps');
  const [wrong, setWrong] = useState<string | null>(null);
  const change = (edit: Parameters<CardChanger['change']>[0]): void =>
    void changer.change(edit).catch(() => undefined); // `changer.error` says it
  const may = useMay(ROUTES.changeCard);
  const steps = !may ? (
    <Stack gap={14}>
      <StepsHead card={card} may={false} />
      <Quiet>{`Settings tested, printed with the results: ${card.policy}.`}</Quiet>
      <StepsToRead steps={card.steps} />
    </Stack>
  ) : (
    <Stack gap={14}>
      <StepsHead card={card} may />
      <Stack gap={2}>
        <Quiet>Settings tested (printed with the results)</Quiet>
        <Choices
          label="Settings tested"
          options={POLICIES.map((value) => ({ value, text: value }))}
          selected={card.policy}
          onSelect={(policy) => change((before) => ({ ...before, policy }))}
          maxWidth={420}
        />
      </Stack>
      <StepList
        steps={card.steps}
        kit={kit}
        wrong={wrong}
        onSteps={(next) => change((before) => ({ ...before, steps: next }))}
      />
      <AddStep
        card={card}
        onAdd={(step) => change((before) => ({ ...before, steps: [...before.steps, step] }))}
      />
    </Stack>
  );
  const day = card.template ? (
    <Notice title="Your template">
      Templates have no schedule. Use “New card” to plan this one for other devices.
    </Notice>
  ) : (
    <DayView
      card={card}
      followed={followed}
      kit={kit}
      changer={changer}
      wide={wide}
      onWrong={(stepId) => {
        setWrong(stepId);
        if (stepId) setTab('steps');
      }}
    />
  );
  return (
    <>
      <Head card={card} change={change} />
      {changer.error ? (
        <Row role="alert" gap={10} align="center" wrap>
          <Body
            style={{ flexShrink: 1 }}
          >{`Not saved: ${changer.error.message} Your changes are still shown here.`}</Body>
          <Button title="Try again" loading={changer.saving} onPress={changer.retry} />
        </Row>
      ) : null}
      {wide ? (
        <Row gap={32} align="flex-start">
          <Stack flex={1.7} style={{ minWidth: 0 }}>
            {day}
          </Stack>
          <Stack flex={1} style={{ minWidth: 0 }}>
            {steps}
          </Stack>
        </Row>
      ) : (
        <>
          <Choices label="Sections of the card" options={TABS} selected={tab} onSelect={setTab} />
          {tab === 'steps' ? steps : day}
        </>
      )}
    </>
  );
}

function Head({
  card,
  change,
}: {
  card: Card;
  change: (edit: Parameters<CardChanger['change']>[0]) => void;
}): ReactNode {
  const router = useRouter();
  const toast = useToast();
  const remove = useDeleteCard();
  const create = useCreateCard();
  const [renaming, setRenaming] = useState<string | null>(null);
  const onDelete = (): void =>
    remove.mutate(
      { id: card.id },
      {
        onSuccess: () => (
          router.navigate('/cards'),
          toast({
            text: `“${card.name}” deleted.`,
            undo: () => remove.mutate({ id: card.id, restore: true }),
          })
        ),
        onError: (error) => toast({ text: `Not deleted: ${error.message}` }),
      },
    );
  const onTemplate = (): void =>
    create.mutate(
      {
        ...toInput(card),
        name: `${card.name} (template)`.slice(0, 120),
        template: true,
        steps: copied(card.steps, []),
        day: { ...card.day, date: null, devices: [] },
      },
      {
        onSuccess: () => toast({ text: 'Saved as template. You find it under “New card”.' }),
        onError: (error) => toast({ text: `Not saved: ${error.message}` }),
      },
    );
  const keepName = (): void => {
    const name = renaming?.trim();
    if (name) change((before) => ({ ...before, name }));
    setRenaming(null);
  };
  return (
    <Stack gap={2}>
      <Row align="center" apart wrap>
        <BackTo href="/cards" title="Plan" />
        <IfMay route={ROUTES.changeCard}>
          <Row>
            <Tight
              title={renaming === null ? 'Rename' : 'Save name'}
              onPress={() => (renaming === null ? setRenaming(card.name) : keepName())}
            />
            {card.template ? null : (
              <Tight title="Save as template" label="Save as template" onPress={onTemplate} />
            )}
            <Tight title="Delete" onPress={onDelete} />
          </Row>
        </IfMay>
      </Row>
      {renaming === null ? (
        <Heading level={1}>{card.name}</Heading>
      ) : (
        <Input
          aria-label="Card name"
          value={renaming}
          onChangeText={setRenaming}
          onSubmitEditing={keepName}
          autoFocus
          renderErrorMessage={false}
        />
      )}
    </Stack>
  );
}

const Tight = ({
  title,
  label = title,
  onPress,
}: {
  title: string;
  label?: string;
  onPress: () => void;
}): ReactNode => (
  <Button
    type="clear"
    title={title}
    aria-label={label}
    onPress={onPress}
    buttonStyle={{ paddingHorizontal: 8 }}
  />
);

function StepsHead({ card, may }: { card: Card; may: boolean }): ReactNode {
  const runs = card.steps.reduce((sum, step) => sum + step.repeats, 0);
  const minutes = card.steps.reduce((sum, step) => sum + step.repeats * step.minutes, 0);
  if (runs === 0) return <Quiet>{`No steps yet.${may ? ' Add the first one below.' : ''}`}</Quiet>;
  return (
    <View>
      <Heading>{`${count(runs, 'run')}, ${span(minutes)} of play`}</Heading>
      {may ? (
        <Quiet>{`Drag by the handle, or press space and use the arrow keys.${card.day.order === 'light-to-heavy' ? ' Each device plays light titles first; your order decides among titles of the same type.' : ''}`}</Quiet>
      ) : null}
    </View>
  );
}

function AddStep({
  card,
  onAdd,
}: {
  card: Card;
  onAdd: (step: ReturnType<typeof newStep>) => void;
}): ReactNode {
  const kit = useKit().data;
  const requests = useRequests().data ?? [];
  const [title, setTitle] = useState('');
  const devices = [...new Set(card.steps.flatMap((step) => step.device ?? []))];
  const wanted = requests.filter(
    (request) => !request.answeredBy && !card.steps.some((step) => step.requestId === request.id),
  );
  // a wish for no device in particular goes to the card's first
  const ofRequest = (request: ViewerRequest): ReturnType<typeof newStep> => {
    const step = stepOf(request);
    return { ...step, device: step.device ?? devices[0] ?? null };
  };
  return (
    <Stack gap={8}>
      <NamePicker
        label="Title for a new step"
        what="title"
        known={kit?.titles.map((one) => one.name) ?? []}
        value={title}
        onChange={setTitle}
      />
      <Row gap={8} wrap style={{ marginTop: -10 }}>
        <Button
          title="Add step"
          disabled={title.trim() === ''}
          onPress={() => (onAdd(newStep(title.trim(), { device: devices[0] ?? null })), setTitle(''))}
        />
      </Row>
      {wanted.length > 0 ? (
        <Stack gap={6}>
          <Quiet>Requested by viewers</Quiet>
          <Stack gap={6} align="flex-start">
            {wanted.slice(0, 5).map((request) => (
              <Button
                key={request.id}
                type="outline"
                title={`${request.asked} × ${request.title}${request.device ? ` on ${request.device}` : ''}`}
                aria-label={`Add the request for ${request.title}`}
                onPress={() => onAdd(ofRequest(request))}
              />
            ))}
          </Stack>
        </Stack>
      ) : null}
    </Stack>
  );
}
