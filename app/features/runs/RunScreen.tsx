import { IfMay } from '../../ui/Role';
import { ROUTES } from '@pace-check/contract';
import type { RunDetail } from '@pace-check/contract';
import { clock, headline } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Linking, ScrollView } from 'react-native';
import { useSentResults } from '../../outbox/results';
import { useComparisonsOfRun } from '../../api/compare';
import { useDeleteRun, useRestoreRun, useRun } from '../../api/queries';
import { BackTo } from '../../ui/BackTo';
import { bytes, count, dayAndTime, fps } from '../../ui/figures';
import { useWide } from '../../ui/Look';
import { Answered } from '../../ui/states';
import { FONTS } from '../../ui/theme';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { Body, Heading, Quiet } from '../../ui/words';
import { preflightAnswers } from '../../forms/Preflight';
import { AddReadings } from './AddReadings';
import { Against } from './Against';
import { BodyMap } from '../../charts/BodyMap';
import { CorrectRun } from './CorrectRun';
import { Evidence } from './Evidence';
import { DoingSection } from './DoingSection';
import { ScenesSection } from './ScenesSection';
import { Lane } from '../../charts/Lane';
import { LimitsSection } from './LimitsSection';
import { LaneKey } from './LaneKey';
import { Measures } from './Measures';
import { PaceChart } from './PaceChart';
import { Section } from '../../ui/Section';
import { PartOf, SittingSection } from './sitting/SittingSection';
import { TakeApart } from './sitting/TakeApart';
import { Spans } from './Spans';
import { SplitTable } from './SplitTable';
import { Standing } from './Standing';
import { StandsOn } from './StandsOn';
import type { Stretch } from './useStretch';
import { Verdict } from './Verdict';
import { Row, Stack } from '../../ui/parts';

/** One run: what it says, then everything that it says it from. */
export function RunScreen({ id }: { id: string }): ReactNode {
  const run = useRun(id);
  useSentResults();
  const wide = useWide();
  return (
    <ScrollView contentContainerStyle={{ padding: wide ? 24 : 14, gap: 16, maxWidth: 1240, width: '100%' }}>
      {run.data ? null : <BackTo href="/" title="Results" />}
      <Answered query={run} loading={{ rows: 4, height: 130, label: 'Loading run' }}>
        {(known) => <RunPage run={known} wide={wide} />}
      </Answered>
    </ScrollView>
  );
}

function RunPage({ run, wide }: { run: RunDetail; wide: boolean }): ReactNode {
  const [open, setOpen] = useState<'correct' | 'readings' | 'against' | null>(null);
  const [drawn, setDrawn] = useState<Stretch | null>(null);
  const voice = useVoice();
  if (run.recording) {
    return (
      <>
        <BackTo href="/" title="Results" />
        <Heading level={1}>{run.name}</Heading>
        <StandsOn run={run} />
      </>
    );
  }
  const facts = (
    <>
      <PaceChart run={run} drawn={drawn} onDraw={setDrawn} />
      {run.part === null ? <Spans run={run} drawn={drawn} /> : null}
      {run.isSitting ? null : <SittingSection run={run} />}
      <SplitTable run={run} />
      <ScenesSection run={run} />
      <DoingSection run={run} />
      <BodyMap run={run} />
    </>
  );
  return (
    <>
      <Row align="center" apart>
        <BackTo href="/" title="Results" />
        <Actions run={run} onOpen={(what) => setOpen(open === what ? null : what)} />
      </Row>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Heading level={1}>{run.name}</Heading>
        <Quiet style={{ fontSize: 15 }}>
          {[
            run.device,
            ...(run.isSitting ? [`${run.parts.length} titles`] : [run.title, run.setup]),
            run.figures.frames.seconds > 0 ? clock(run.figures.frames.seconds) : null,
            run.startedAt ? dayAndTime(run.startedAt) : null,
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
        <Body
          style={{
            fontFamily: FONTS.head,
            fontSize: wide ? 24 : 21,
            lineHeight: wide ? 31 : 28,
            marginTop: 6,
            maxWidth: 820,
          }}
        >
          {run.headline ? headline(run.headline, voice) : null}
        </Body>
        <PartOf run={run} />
      </Stack>
      {open === 'correct' ? <CorrectRun run={run} onDone={() => setOpen(null)} /> : null}
      {open === 'readings' ? <AddReadings run={run} onDone={() => setOpen(null)} /> : null}
      <StandsOn run={run} />
      {run.isSitting ? null : <Verdict run={run} />}
      {run.isSitting ? (
        <SittingSection run={run} />
      ) : (
        <IfMay route={ROUTES.newComparison}>
          <Row>
            <Button
              type="outline"
              title={open === 'against' ? 'Close' : 'Compare with…'}
              aria-label={open === 'against' ? 'Close the list of runs' : 'Compare with other runs'}
              onPress={() => setOpen(open === 'against' ? null : 'against')}
            />
          </Row>
        </IfMay>
      )}
      {open === 'against' ? <Against run={run} /> : null}
      <Stack gap={8}>
        <Lane lane={run.lane} scaleS={run.lane.seconds} height={wide ? 92 : 84} />
        <LaneKey measures={run.lane.measures} />
      </Stack>
      {wide ? (
        <Row gap={28} align="flex-start">
          <Stack gap={16} flex={1.45} style={{ minWidth: 0 }}>
            {facts}
          </Stack>
          <Stack gap={16} flex={1} style={{ minWidth: 0 }}>
            <Measures run={run} />
          </Stack>
        </Row>
      ) : (
        <>
          <Measures run={run} />
          {facts}
        </>
      )}
      {run.isSitting ? null : (
        <>
          <LimitsSection run={run} />
          <Standing run={run} />
        </>
      )}
      <Evidence run={run} />
      <HowItWasRun run={run} />
      <Source run={run} />
    </>
  );
}

function Actions({
  run,
  onOpen,
}: {
  run: RunDetail;
  onOpen: (what: 'correct' | 'readings') => void;
}): ReactNode {
  const router = useRouter();
  const toast = useToast();
  const remove = useDeleteRun();
  const restore = useRestoreRun();
  const comparisons = useComparisonsOfRun(run.id);
  const onDelete = async (): Promise<void> => {
    // whoever taps before they are there is told of them all the same
    const losing = comparisons.data ?? (await comparisons.refetch()).data ?? [];
    remove.mutate(run.id, {
      onSuccess: () => {
        router.navigate('/');
        toast({
          text: `“${run.name}” deleted.${losing.length > 0 ? ` ${losing.length === 1 ? 'One comparison no longer includes' : `${losing.length} comparisons no longer include`} it: ${losing.map((one) => one.name).join('; ')}.` : ''}`,
          undo: () =>
            restore.mutate(run.id, {
              onError: (error) => toast({ text: `Could not restore the run: ${error.message}` }),
            }),
        });
      },
      onError: (error) => toast({ text: `Not deleted: ${error.message}` }),
    });
  };
  const file = (
    <Button
      type="clear"
      title="Export"
      aria-label="Export the run as a file"
      buttonStyle={TIGHT}
      onPress={() => void Linking.openURL(`/api/runs/${run.id}/file`)}
    />
  );
  // a stretch of a sitting is changed there
  if (run.part !== null) return <Row>{file}</Row>;
  return (
    <Row>
      <IfMay route={ROUTES.addEntries}>
        <Button
          type="clear"
          title="Add readings"
          aria-label="Add readings from notes"
          buttonStyle={TIGHT}
          onPress={() => onOpen('readings')}
        />
        <Button
          type="clear"
          title="Edit"
          aria-label="Edit run"
          buttonStyle={TIGHT}
          onPress={() => onOpen('correct')}
        />
      </IfMay>
      {file}
      {run.joined ? (
        // its runs would go with it
        <IfMay route={ROUTES.takeApart}>
          <TakeApart run={run} type="clear" buttonStyle={TIGHT} />
        </IfMay>
      ) : (
        <IfMay route={ROUTES.deleteRun}>
          <Button
            type="clear"
            title="Delete"
            buttonStyle={TIGHT}
            loading={remove.isPending}
            onPress={() => void onDelete()}
          />
        </IfMay>
      )}
    </Row>
  );
}

const TIGHT = { paddingHorizontal: 8 };

/** The step that the run was made for, and its conditions. */
function HowItWasRun({ run }: { run: RunDetail }): ReactNode {
  const { temperature } = useVoice();
  const answers = preflightAnswers(run.preflight, temperature);
  const kit = fromKit(run);
  if (answers.length === 0 && !run.onCard && kit.length === 0) return null;
  return (
    <Section title="Conditions">
      {run.onCard ? (
        <Link href={`/cards/${run.onCard.cardId}`}>
          <Body style={{ textDecorationLine: 'underline' }}>{`For the card “${run.onCard.cardName}”`}</Body>
          <Body>{`, settings: ${run.onCard.policy}`}</Body>
        </Link>
      ) : null}
      <Row role="list" aria-label="Conditions" wrap style={{ columnGap: 18, rowGap: 4 }}>
        {answers.map(({ asks, says }) => (
          <Body key={asks} role="listitem" small>{`${asks}: ${says}`}</Body>
        ))}
      </Row>
      {kit.length > 0 ? <Quiet>{`From Kit: ${kit.join(', ')}. Use Edit to change it.`}</Quiet> : null}
    </Section>
  );
}

/** Facts that nobody stated but the kit knew. */
function fromKit(run: RunDetail): string[] {
  const facts: Record<string, string> = {
    target: `target ${fps(run.target)} fps`,
    refresh: `panel ${run.refresh} Hz`,
    native: `native ${fps(run.native)} fps`,
    need: `title type ${run.need}`,
    batteryWh: `battery ${run.batteryWh?.toFixed(1)} Wh`,
  };
  return run.fromKit
    .filter((fact) => !fact.startsWith('none:'))
    .map((fact) => facts[fact] ?? fact.replace('condition:', ''));
}

/** Where the frames came from, and what of the file was not used. */
function Source({ run }: { run: RunDetail }): ReactNode {
  const { upload } = run;
  const { dropped } = run.figures.frames;
  if (!upload) {
    return (
      <Section title="Source">
        <Quiet>{`Entered by hand on ${dayAndTime(run.importedAt)}. Figures: method version ${run.figures.methodVersion}.`}</Quiet>
      </Section>
    );
  }
  return (
    <Section title="Imported file">
      <Quiet>{`${upload.fileName}, ${bytes(upload.bytes)}, imported ${dayAndTime(run.importedAt)}. SHA-256 ${upload.sha256.slice(0, 16)}…`}</Quiet>
      <Quiet>{`${count(run.figures.frames.count, 'frame')} over ${clock(run.figures.frames.seconds)}. Figures: method version ${run.figures.methodVersion}.`}</Quiet>
      {dropped > 0 ? (
        <Body>
          {`${count(dropped, 'row')} of ${upload.rows.toLocaleString('en-GB')} could not be read and ${dropped === 1 ? 'was' : 'were'} skipped: ${upload.dropped
            .slice(0, 5)
            .map((row) => `line ${row.line}, ${row.reason}`)
            .join('; ')}${dropped > 5 ? '; …' : '.'}`}
        </Body>
      ) : null}
      {upload.passedOver > 0 ? (
        <Body>{`${count(upload.passedOver, 'line')} of a type unknown to this version ${upload.passedOver === 1 ? 'was' : 'were'} skipped.`}</Body>
      ) : null}
      {upload.cutOff ? <Body>The file ends in the middle of a line. That line was skipped.</Body> : null}
    </Section>
  );
}
