import type { Card, CardStep, Preflight } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { usePreflight, useKit } from '../../api/queries';
import { screensOf } from '../../forms/screensOf';
import { PreflightForm } from '../../forms/Preflight';
import { useCardDay, type CardDay } from '../../outbox/cardDay';
import { timeOfDay } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Answered, Notice } from '../../ui/states';
import { Body, Heading, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

/** Asks, before a run, what is not known from the last one. */
export function PreflightScreen({
  cardId,
  stepId,
  repeat,
  atMin,
}: {
  cardId: string;
  stepId: string;
  repeat: number;
  atMin: number | null;
}): ReactNode {
  const { query: card, note } = useCardDay(cardId);
  const known = usePreflight(cardId, stepId);
  const step = card.data?.steps.find((one) => one.id === stepId);
  const loading = { rows: 4, height: 80, label: 'Loading checks' };
  return (
    <Answered query={card} loading={loading}>
      {(ofDay) => (
        <Answered query={known} loading={loading}>
          {(told) =>
            step ? (
              <Ask
                card={ofDay}
                note={note}
                step={step}
                repeat={repeat}
                atMin={atMin}
                known={told.known}
                from={told.from}
                seen={told.seen}
              />
            ) : (
              <Notice title="Step not found">The step may have been removed from the card.</Notice>
            )
          }
        </Answered>
      )}
    </Answered>
  );
}

interface AskProps {
  card: Card;
  note: CardDay['note'];
  step: CardStep;
  repeat: number;
  atMin: number | null;
  known: Preflight;
  from: string | null;
  seen: string[];
}

function Ask({ card, note, step, repeat, atMin, known, from, seen }: AskProps): ReactNode {
  const { line, paper, action } = usePalette();
  const router = useRouter();
  const [answers, setAnswers] = useState<Preflight>(known);
  const [open, setOpen] = useState(0);
  const screens = screensOf(useKit().data, step.device);
  const of = { stepId: step.id, repeat, atMin: atMin ?? card.day.startMin };
  const told = { kind: 'preflight' as const, ...of, preflight: answers };
  const onStart = async (): Promise<void> => {
    await note(told, { kind: 'started', ...of });
    router.navigate(`/cards/${card.id}`);
  };
  // on the bench the run starts when its clock does
  const onBench = async (): Promise<void> => {
    await note(told);
    router.navigate(`/bench/new?card=${card.id}&step=${step.id}&repeat=${repeat}&at=${of.atMin}`);
  };
  return (
    <Stack flex={1}>
      <ScrollView contentContainerStyle={{ padding: 14, gap: 14, maxWidth: 620, width: '100%' }}>
        <View>
          <Heading level={1}>Checks before the run</Heading>
          <Body>
            {[`${step.title} on ${step.device ?? 'no device'}`, step.setup, `${step.minutes} min`]
              .filter(Boolean)
              .join(' · ')}
          </Body>
        </View>
        {seen.length > 0 ? (
          <Stack
            gap={2}
            role="note"
            aria-label="Last known conditions"
            padding={10}
            style={{ borderLeftWidth: 3, borderColor: action }}
          >
            {seen.map((says) => (
              <Body key={says} small>
                {says}
              </Body>
            ))}
          </Stack>
        ) : null}
        <PreflightForm
          known={known}
          from={from}
          answers={answers}
          onAnswers={setAnswers}
          onOpen={setOpen}
          screens={screens}
        />
      </ScrollView>
      <Stack gap={6} padding={12} style={{ borderTopWidth: 1, borderColor: line, backgroundColor: paper }}>
        <Quiet>
          {open === 0
            ? 'All fields are filled in.'
            : `${open} ${open === 1 ? 'field is' : 'fields are'} empty. The run will show a caveat where it matters.`}
        </Quiet>
        <Row gap={8}>
          <Button
            title="Continue to the bench"
            disabled={step.device === null}
            onPress={() => void onBench()}
            buttonStyle={{ minHeight: 56 }}
            containerStyle={{ flex: 1.2 }}
          />
          <Button
            type="outline"
            title={`Start at ${timeOfDay(of.atMin)}`}
            onPress={() => void onStart()}
            buttonStyle={{ minHeight: 56 }}
            containerStyle={{ flex: 1 }}
          />
        </Row>
      </Stack>
    </Stack>
  );
}
