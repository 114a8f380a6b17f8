import { IfMay } from '../../ui/Role';
import { ROUTES, type ComparisonDetail } from '@pace-check/contract';
import { compareAnswer, fieldAnswer, matrixAnswer, otherWork } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { useChangeComparison, useComparison, useDeleteComparison } from '../../api/compare';
import { BackTo } from '../../ui/BackTo';
import { useWide } from '../../ui/Look';
import { Row, Sheet, Stack } from '../../ui/parts';
import { RemoveButton } from '../../ui/RemoveButton';
import { Answered } from '../../ui/states';
import { FONTS } from '../../ui/theme';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { Body, Heading, Quiet } from '../../ui/words';
import { FieldView } from './FieldView';
import { MatrixView } from './MatrixView';
import { PairView } from './PairView';
import { RatingSection } from './RatingSection';
import { SideLanes } from './SideLanes';
import { Sides } from './Sides';
import { WeakRows } from './WeakRows';

/** Runs beside each other: the answer first, then everything that it is said from. */
export function ComparisonScreen({ id }: { id: string }): ReactNode {
  const comparison = useComparison(id);
  const wide = useWide();
  return (
    <ScrollView contentContainerStyle={{ padding: wide ? 24 : 14, gap: 16, maxWidth: 1240, width: '100%' }}>
      {comparison.data ? null : <BackTo href="/compare" title="Compare" />}
      <Answered query={comparison} loading={{ rows: 4, height: 130, label: 'Loading comparison' }}>
        {(known) => <ComparisonPage comparison={known} />}
      </Answered>
    </ScrollView>
  );
}

function ComparisonPage({ comparison }: { comparison: ComparisonDetail }): ReactNode {
  const wide = useWide();
  const { pair, rows, side, rating } = comparison;
  const names = side.map((one) => one.name);
  const refused = pair !== null && pair.otherWork.length > 0 && !comparison.anyway;
  return (
    <>
      <Row align="center" apart>
        <BackTo href="/compare" title="Compare" />
        <Actions comparison={comparison} />
      </Row>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Name comparison={comparison} />
        <Answer comparison={comparison} wide={wide} />
        {comparison.gone > 0 ? (
          <Body>{`${comparison.gone === 1 ? 'One run of this comparison was' : `${comparison.gone} runs of this comparison were`} deleted. Restore them or choose other runs.`}</Body>
        ) : null}
      </Stack>
      {refused ? <NotTheSameWork comparison={comparison} /> : null}
      {pair ? <SideLanes side={side} /> : null}
      {pair && !refused ? (
        <PairView comparison={comparison} pair={pair} names={[names[0]!, names[1]!]} />
      ) : null}
      {comparison.kind === 'field' && rows.length > 0
        ? rows.map((row) => <FieldView key={row.title + row.setup} comparison={comparison} row={row} />)
        : null}
      {comparison.kind === 'matrix' ? <MatrixView comparison={comparison} /> : null}
      {rating ? <RatingSection rating={rating} /> : null}
      <WeakRows comparison={comparison} />
      <Sides comparison={comparison} />
    </>
  );
}

/** The first line, in the reader's own school and scale; and what it said when it was kept. */
function Answer({ comparison, wide }: { comparison: ComparisonDetail; wide: boolean }): ReactNode {
  const voice = useVoice();
  const { pair, rows, side, answer, answerThen, kept } = comparison;
  const names = side.map((one) => one.name);
  const lead = voice.school === 'median-and-hold' ? 'median' : 'average';
  const says =
    answer === null
      ? null
      : pair
        ? compareAnswer(pair.comparison, [names[0]!, names[1]!], voice)
        : comparison.kind === 'field' && rows.length === 1
          ? fieldAnswer(lead, rows[0]!.measures[lead], names, voice.unit)
          : matrixAnswer(
              lead,
              rows.map((row) => row.measures[lead]),
              names,
            );
  return (
    <>
      <Body
        style={{
          fontFamily: FONTS.head,
          fontSize: wide ? 24 : 21,
          lineHeight: wide ? 31 : 28,
          marginTop: 6,
          maxWidth: 860,
        }}
      >
        {says ??
          (pair
            ? 'Not compared: the test conditions differ too much.'
            : 'Nothing to compare yet. Choose at least two runs.')}
      </Body>
      {kept && answerThen !== null && answerThen !== answer ? (
        <Body small>{`Result when saved: “${answerThen}”`}</Body>
      ) : null}
    </>
  );
}

/** Its name, to be typed over. */
function Name({ comparison }: { comparison: ComparisonDetail }): ReactNode {
  const [typed, setTyped] = useState<string | null>(null);
  const change = useChangeComparison(comparison.id);
  const toast = useToast();
  if (typed === null)
    return (
      <Row gap={4} align="center">
        <Heading level={1} style={{ flexShrink: 1 }}>
          {comparison.name}
        </Heading>
        <IfMay route={ROUTES.changeComparison}>
          <Button type="clear" title="Rename" onPress={() => setTyped(comparison.given ?? comparison.name)} />
        </IfMay>
      </Row>
    );
  const keep = (): void =>
    change.mutate(
      { name: typed.trim() === '' ? null : typed.trim() },
      {
        onSuccess: () => setTyped(null),
        onError: (error) => toast({ text: `Not renamed: ${error.message}` }),
      },
    );
  return (
    <Row gap={8} align="center">
      <Stack flex={1}>
        <Input
          label="Name"
          aria-label="Name"
          value={typed}
          onChangeText={setTyped}
          onSubmitEditing={keep}
          autoFocus
          maxLength={120}
          renderErrorMessage={false}
        />
      </Stack>
      <Button title="Save" loading={change.isPending} onPress={keep} />
    </Row>
  );
}

function Actions({ comparison }: { comparison: ComparisonDetail }): ReactNode {
  const router = useRouter();
  const toast = useToast();
  const change = useChangeComparison(comparison.id);
  const remove = useDeleteComparison();
  const failed = (error: Error): void => toast({ text: `Not done: ${error.message}` });
  return (
    <Row>
      <IfMay route={ROUTES.changeComparison}>
        {comparison.kept ? (
          <Button
            type="clear"
            title="Remove from saved"
            aria-label="Remove from saved"
            loading={change.isPending}
            onPress={() => change.mutate({ kept: false }, { onError: failed })}
          />
        ) : (
          <Button
            type="clear"
            title="Save"
            aria-label="Save comparison"
            loading={change.isPending}
            onPress={() => change.mutate({ kept: true }, { onError: failed })}
          />
        )}
      </IfMay>
      <RemoveButton
        title="Delete"
        gone={`“${comparison.name}” deleted.`}
        removal={remove}
        id={comparison.id}
        onGone={() => router.navigate('/compare')}
      />
    </Row>
  );
}

/** Two sides that did different work are compared only when somebody asks for it. */
function NotTheSameWork({ comparison }: { comparison: ComparisonDetail }): ReactNode {
  const change = useChangeComparison(comparison.id);
  const toast = useToast();
  const other = otherWork(comparison.pair!.comparison.mismatches);
  return (
    <Sheet gap={8} marked>
      <Heading>Test conditions differ</Heading>
      {other.map(({ kind, first, second }) => (
        <Body key={kind}>{`${kind}: ${first.join(', ')} and ${second.join(', ')}`}</Body>
      ))}
      <Quiet>
        The difference may come from the title or the scene, not from the device. Choose runs with the same
        title, scene, cap and target below, or compare anyway; the comparison then starts with this warning.
      </Quiet>
      <Row>
        <IfMay route={ROUTES.changeComparison}>
          <Button
            title="Compare anyway"
            type="outline"
            loading={change.isPending}
            onPress={() =>
              change.mutate(
                { anyway: true },
                { onError: (error) => toast({ text: `Not done: ${error.message}` }) },
              )
            }
          />
        </IfMay>
      </Row>
    </Sheet>
  );
}
