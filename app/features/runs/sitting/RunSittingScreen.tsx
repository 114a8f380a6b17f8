import { IfMay } from '../../../ui/Role';
import { ROUTES, type RunDetail } from '@pace-check/contract';
import { clock } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { useRun } from '../../../api/queries';
import { Answered } from '../../../ui/states';
import { BackTo } from '../../../ui/BackTo';
import { dayAndTime } from '../../../ui/figures';
import { useWide } from '../../../ui/Look';
import { Page } from '../../../ui/Page';
import { Row, Stack } from '../../../ui/parts';
import { Section } from '../../../ui/Section';
import { Heading, Quiet } from '../../../ui/words';
import { LimitsSection } from '../LimitsSection';
import { NoteSwitch } from '../NoteSwitch';
import type { Stretch } from '../useStretch';
import { OneClock } from './OneClock';
import { DrainList, HoursOfPlay, LevelList, SittingCautions, SwitchList, TitleList } from './told';
import { TakeApart } from './TakeApart';

/** A sitting: several titles on one clock, and what each switch did. */
export function RunSittingScreen({ id }: { id: string }): ReactNode {
  const run = useRun(id);
  return (
    <Page>
      <BackTo href={`/runs/${id}`} title={run.data?.name ?? 'Run'} />
      <Answered query={run} loading={{ rows: 4, height: 120, label: 'Loading session' }}>
        {(known) => <OfRun run={known} />}
      </Answered>
    </Page>
  );
}

function OfRun({ run }: { run: RunDetail }): ReactNode {
  const wide = useWide();
  const [drawn, setDrawn] = useState<Stretch | null>(null);
  const { sitting, longPlay } = run.figures;
  const note = (
    <IfMay route={ROUTES.addEntries}>
      <NoteSwitch key={drawn ? `${drawn.fromS} ${drawn.toS}` : 'typed'} run={run} drawn={drawn} />
    </IfMay>
  );
  const head = (
    <Stack gap={4}>
      <Heading level={1}>{run.name}</Heading>
      <Quiet>
        {[run.device, clock(run.figures.frames.seconds), run.startedAt ? dayAndTime(run.startedAt) : null]
          .filter(Boolean)
          .join(' · ')}
      </Quiet>
    </Stack>
  );
  if (sitting === null)
    return (
      <>
        {head}
        <Quiet>One title and no changes so far. Add a change or another title with its times.</Quiet>
        {note}
        {longPlay ? <HoursOfPlay play={longPlay} /> : null}
      </>
    );
  const numbers = (
    <>
      <Section title="Titles">
        <TitleList titles={sitting.titles} parts={run.parts} />
        <DrainList drain={sitting.drain} />
      </Section>
      {longPlay ? <HoursOfPlay play={longPlay} /> : null}
    </>
  );
  const effects = (
    <Section title="Changes during the run">
      <SwitchList sitting={sitting} />
      <SittingCautions run={run} />
      <LevelList sitting={sitting} />
    </Section>
  );
  return (
    <>
      {head}
      <Section title="Timeline">
        <OneClock
          run={run}
          sitting={sitting}
          drawn={drawn}
          onDraw={setDrawn}
          note={run.part === null ? note : null}
        />
        <Quiet>
          {run.part === null
            ? 'Drag the end of a bar to correct its time. Drag over the warmth curve to add a change.'
            : 'This is part of a session. Edit changes on the session’s page.'}
        </Quiet>
        {run.part === null && drawn === null ? note : null}
      </Section>
      {wide ? (
        <Row gap={28} align="flex-start">
          <Stack gap={16} flex={1} style={{ minWidth: 0 }}>
            {effects}
          </Stack>
          <Stack gap={16} flex={1} style={{ minWidth: 0 }}>
            {numbers}
            <Limits run={run} />
          </Stack>
        </Row>
      ) : (
        <>
          {effects}
          {numbers}
          <Limits run={run} />
        </>
      )}
      {run.joined ? (
        <IfMay route={ROUTES.takeApart}>
          <Row gap={10} align="center" wrap>
            <TakeApart run={run} />
            <Quiet>Its runs come back, with what was written here since.</Quiet>
          </Row>
        </IfMay>
      ) : null}
    </>
  );
}

/** What limits each of its titles; of one title, the run. */
function Limits({ run }: { run: RunDetail }): ReactNode {
  if (!run.isSitting) return <LimitsSection run={run} />;
  return run.parts.map((part) => <LimitsSection key={part.id} run={part} of={part.name} />);
}
