import { zodResolver } from '@hookform/resolvers/zod';
import {
  benchPlan,
  FASTEST,
  runFacts,
  USUAL_BENCH_PLAN,
  type BenchPlan,
  type Card,
  type CardStep,
  type Kit,
  type Preflight,
  type RunFactsInput,
} from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { v4 as uuid } from 'uuid';
import { useCard, useKit } from '../../api/queries';
import { screensOf } from '../../forms/screensOf';
import { outbox, toBench, toCard } from '../../outbox';
import { BackTo } from '../../ui/BackTo';
import { Chips } from '../../ui/Chips';
import { Choices } from '../../ui/Choices';
import { NumberInput } from '../../ui/Field';
import { usePalette, useWide } from '../../ui/Look';
import { Failed, Loading } from '../../ui/states';
import { Body, Heading, Quiet } from '../../ui/words';
import { PreflightForm } from '../../forms/Preflight';
import { FactsFields } from '../../forms/FactsFields';
import { Row, Stack } from '../../ui/parts';

/** A run to be recorded: for the step of a card that the address names, or for none. */
export function NewRecordingScreen(): ReactNode {
  const {
    card: cardId = '',
    step: stepId,
    repeat,
    at,
    device = '',
    title = '',
    setup,
    minutes,
  } = useLocalSearchParams<{
    card?: string;
    step?: string;
    repeat?: string;
    at?: string;
    device?: string;
    title?: string;
    setup?: string;
    minutes?: string;
  }>();
  const card = useCard(cardId);
  const kit = useKit();
  if (cardId !== '' && card.error && !card.data)
    return <Failed error={card.error} retry={() => void card.refetch()} />;
  // without a network what can be typed is enough; another attempt at the kit must not take the form away
  if ((cardId !== '' && !card.data) || (kit.isPending && kit.errorUpdateCount === 0))
    return <Loading rows={4} height={80} label="Loading your devices and titles" />;
  const step = card.data?.steps.find((one) => one.id === stepId) ?? null;
  return (
    <Form
      key={stepId ?? `${device} ${title} ${minutes}`}
      kit={kit.data}
      card={step ? card.data! : null}
      step={step}
      asked={step ?? { device, title, setup: setup ?? null, minutes: minutesOf(minutes) }}
      repeat={Number(repeat ?? 1)}
      atMin={at === undefined ? null : Number(at)}
    />
  );
}

/** As the address says; none for what is no length of a run. */
function minutesOf(text: string | undefined): number | null {
  const minutes = Number(text ?? NaN);
  return Number.isInteger(minutes) && minutes > 0 ? minutes : null;
}

interface Props {
  /** What the step, or the address, says of the run. */
  asked: { device: string | null; title: string; setup: string | null; minutes: number | null };
  kit: Kit | undefined;
  card: Card | null;
  step: CardStep | null;
  repeat: number;
  atMin: number | null;
}

function Form({ kit, card, step, asked, repeat, atMin }: Props): ReactNode {
  const wide = useWide();
  const router = useRouter();
  const { line, paper } = usePalette();
  const told = card?.events.findLast(
    (event) => event.kind === 'preflight' && event.stepId === step?.id && event.repeat === repeat,
  );
  const [preflight, setPreflight] = useState<Preflight>(told?.kind === 'preflight' ? told.preflight : {});
  const form = useForm<RunFactsInput>({
    resolver: zodResolver(runFacts),
    defaultValues: {
      device: asked.device ?? '',
      title: asked.title,
      setup: asked.setup,
      target: null,
      refresh: null,
    },
  });
  const device = useWatch({ control: form.control, name: 'device' });
  const known = kit?.devices.find((one) => one.name.toLowerCase() === device.trim().toLowerCase());
  const knownSpots =
    known && known.spots.length > 0 ? known.spots.map((one) => one.spot) : USUAL_BENCH_PLAN.spots;
  const [spots, setSpots] = useState<string[] | null>(null);
  const [plan, setPlan] = useState<Record<'minutes' | 'floorPercent' | 'everyMin', unknown>>({
    minutes: asked.minutes ?? USUAL_BENCH_PLAN.minutes,
    floorPercent: card?.rules.floorPercent ?? USUAL_BENCH_PLAN.floorPercent,
    everyMin: USUAL_BENCH_PLAN.everyMin,
  });
  const [endsItself, setEndsItself] = useState(false);
  const [speed, setSpeed] = useState<unknown>(1);
  const checked = benchPlan.safeParse({ ...plan, spots: spots ?? knownSpots, endsItself } satisfies Record<
    keyof BenchPlan,
    unknown
  >);
  const wrong = (field: keyof BenchPlan): string | undefined =>
    checked.success ? undefined : checked.error.issues.find((issue) => issue.path[0] === field)?.message;
  const speedWrong =
    typeof speed === 'number' && speed >= 1 && speed <= FASTEST ? undefined : `1 to ${FASTEST}`;
  const number = (field: keyof typeof plan, label: string, placeholder: string): ReactNode => (
    <Stack flex={1}>
      <NumberInput
        label={label}
        placeholder={placeholder}
        value={plan[field]}
        onChange={(value) => setPlan({ ...plan, [field]: value })}
        error={wrong(field)}
      />
    </Stack>
  );
  const open = form.handleSubmit(async (facts) => {
    if (!checked.success || speedWrong) return;
    const runId = uuid();
    const ofStep =
      step && card ? { cardId: card.id, stepId: step.id, repeat, atMin: atMin ?? card.day.startMin } : null;
    await outbox.add(
      toBench(runId, {
        kind: 'open',
        facts,
        preflight,
        plan: checked.data,
        speed: speed as number,
        step: ofStep,
      }),
    );
    if (ofStep) {
      const { cardId, stepId, atMin: startMin } = ofStep;
      await outbox.add(toCard(cardId, { kind: 'linked', stepId, repeat, atMin: startMin, runId }));
    }
    router.replace(`/bench/${runId}`);
  });
  return (
    <Stack flex={1}>
      <ScrollView
        keyboardShouldPersistTaps="handled"
        contentContainerStyle={{ padding: wide ? 24 : 14, gap: 14, maxWidth: 1100, width: '100%' }}
      >
        <BackTo href="/bench" title="Bench" />
        <Heading level={1}>Record run</Heading>
        <View
          style={{
            flexDirection: wide ? 'row' : 'column',
            gap: wide ? 32 : 14,
            alignItems: wide ? 'flex-start' : 'stretch',
          }}
        >
          <Stack flex={wide ? 1 : undefined} style={{ minWidth: 0 }}>
            <FactsFields form={form} isNew />
            <Row gap={12}>
              {number('minutes', 'Planned length, min', 'no planned end')}
              {number('floorPercent', 'Stop at battery, %', 'none')}
              {number('everyMin', 'Remind every, min', 'never')}
            </Row>
            <Stack gap={6} style={{ marginBottom: 10 }}>
              <Quiet>Spots to measure, in order</Quiet>
              <Chips
                label="Spots to measure"
                options={[...new Set([...knownSpots, ...USUAL_BENCH_PLAN.spots])]}
                selected={spots ?? knownSpots}
                onChange={setSpots}
              />
            </Stack>
            <Quiet>At the planned end</Quiet>
            <Choices
              label="At the planned end"
              options={[
                { value: 'told', text: 'remind me' },
                { value: 'itself', text: 'end automatically' },
              ]}
              selected={endsItself ? 'itself' : 'told'}
              onSelect={(value) => setEndsItself(value === 'itself')}
              maxWidth={360}
            />
            <View style={{ marginTop: 12, maxWidth: 360 }}>
              <NumberInput
                label="Clock speed: 1 is real time; up to 60 for practice with simulated devices"
                value={speed}
                onChange={setSpeed}
                error={speedWrong}
              />
            </View>
          </Stack>
          <Stack gap={12} flex={wide ? 1 : undefined} style={{ minWidth: 0 }}>
            <Heading>Checks before the run</Heading>
            <PreflightForm
              known={preflight}
              from={null}
              answers={preflight}
              onAnswers={setPreflight}
              screens={screensOf(kit, device)}
            />
          </Stack>
        </View>
      </ScrollView>
      <Stack gap={6} padding={12} style={{ borderTopWidth: 1, borderColor: line, backgroundColor: paper }}>
        {step ? (
          <Body small>{`For the card ${card!.name}: ${step.title} on ${step.device}.`}</Body>
        ) : (
          <Quiet>You can leave fields empty. The run then shows a caveat where it matters.</Quiet>
        )}
        <Button
          title="Continue to the bench"
          disabled={!checked.success || speedWrong !== undefined}
          onPress={() => void open()}
          buttonStyle={{ minHeight: 56 }}
        />
      </Stack>
    </Stack>
  );
}
