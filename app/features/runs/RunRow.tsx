import type { RunSummary } from '@pace-check/contract';
import { clock, headline, type HeadlineFacts } from '@pace-check/core';
import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { count, day, fps, fpsColumn, NONE, percent } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { Lane } from './Lane';
import { Row, Stack } from '../../ui/parts';

const PENDING = 'Its figures are being computed anew. Open it to have them at once.';

/** What a row says, as the reader's school and scale have it. */
function useSaid(run: RunSummary): {
  headline: string;
  lead: string;
  leadColumn: string;
  leadUnit: string;
  second: string;
  peak: string;
  word: string;
} {
  const voice = useVoice();
  const facts = run.recording ? null : run.headline;
  const medianLeads = voice.school === 'median-and-hold' && facts?.pace.source === 'frames';
  // an emulator's own percent, where no rate was read
  const speed = facts && facts.pace.interval === null && facts.pace.source !== 'frames' ? facts.speed : null;
  const lead = (medianLeads ? facts?.pace.median : facts?.pace.average) ?? null;
  const said = (say: (value: number | null) => string): string =>
    speed !== null
      ? percent(speed)
      : facts?.pace.interval?.high === null
        ? `≥${say(facts.pace.interval.low)}`
        : `${facts?.pace.source === 'eye' ? '~' : ''}${say(lead)}`;
  return {
    headline: run.recording
      ? run.recording === 'running'
        ? 'Being recorded at the bench.'
        : 'At the bench, not started.'
      : facts
        ? headline(facts, voice)
        : PENDING,
    lead: said(fps),
    leadColumn: said(fpsColumn),
    leadUnit:
      speed !== null
        ? 'of full speed, read off'
        : facts && facts.pace.source !== 'frames' && facts.pace.source !== null
          ? readUnit(facts.pace)
          : medianLeads
            ? 'fps median'
            : 'fps average',
    second:
      voice.school === 'median-and-hold'
        ? percent(facts?.pace.hold ?? null)
        : fpsColumn(facts?.onePercentLow ?? null),
    peak: voice.temperature(facts?.peakC ?? null),
    word: facts?.stamina.word ?? NONE,
  };
}

/** "50 to 55 fps, read off": the ends, where they tell more than the digits. */
function readUnit({ source, interval }: HeadlineFacts['pace']): string {
  const by = source === 'eye' ? 'by eye' : 'read off';
  return interval && interval.high !== null && interval.high - interval.low > 1.001
    ? `${Math.round(interval.low)} to ${Math.round(interval.high)} fps, ${by}`
    : `fps, ${by}`;
}

/** A run that is recorded is opened at the bench. */
const hrefOf = (run: RunSummary): `/runs/${string}` | `/bench/${string}` =>
  run.recording ? `/bench/${run.id}` : `/runs/${run.id}`;

/** A run of the list on a phone. */
export function RunCard({ run, scaleS }: { run: RunSummary; scaleS: number }): ReactNode {
  const { sheet, line } = usePalette();
  const said = useSaid(run);
  return (
    <Link href={hrefOf(run)} asChild>
      <Pressable
        style={{
          backgroundColor: sheet,
          borderWidth: 1,
          borderColor: line,
          borderRadius: 8,
          padding: 12,
          gap: 8,
        }}
      >
        <Row gap={12} apart>
          <Stack flex={1}>
            <Heading level={2} style={{ fontSize: 19 }}>
              {run.name}
            </Heading>
            <Quiet>
              {[
                run.setup,
                run.lane.seconds > 0 ? clock(run.lane.seconds) : null,
                run.headline?.stamina.word,
                run.pictures > 0 ? count(run.pictures, 'picture') : null,
              ]
                .filter(Boolean)
                .join(' · ')}
            </Quiet>
          </Stack>
          <Stack align="flex-end">
            <FigureText size={30}>{said.lead}</FigureText>
            <Quiet>{said.leadUnit}</Quiet>
          </Stack>
        </Row>
        <Lane lane={run.lane} scaleS={scaleS} height={54} />
        <Body small>{said.headline}</Body>
      </Pressable>
    </Link>
  );
}

/** Heads of the scale: as many as can be read. */
const STEPS_S = [300, 1800, 3600, 7200, 14_400];
const MOST_HEADS = 18;

const COLUMNS = { name: 270, word: 64, average: 84, low: 66, peak: 76 };

export function ColumnHeads({ scaleS }: { scaleS: number }): ReactNode {
  const medianLeads = useVoice().school === 'median-and-hold';
  const step = STEPS_S.find((seconds) => scaleS / seconds <= MOST_HEADS) ?? scaleS;
  const marks = Array.from({ length: Math.floor(scaleS / step) + 1 }, (_, i) => i * step).filter(
    (at) => at < 0.96 * scaleS,
  );
  return (
    <Row gap={16} align="flex-end" style={{ paddingHorizontal: 8 }}>
      <Quiet style={{ width: COLUMNS.name }}>title on device</Quiet>
      <Stack flex={1} style={{ height: 20 }}>
        {marks.map((at) => (
          <Quiet key={at} style={{ position: 'absolute', left: `${(at / scaleS) * 100}%` }}>
            {at === 0 ? '0 min' : String(at / 60)}
          </Quiet>
        ))}
      </Stack>
      <Quiet style={{ width: COLUMNS.word }}>stamina</Quiet>
      <Quiet style={{ width: COLUMNS.average, textAlign: 'right' }}>
        {medianLeads ? 'median fps' : 'average fps'}
      </Quiet>
      <Quiet style={{ width: COLUMNS.low, textAlign: 'right' }}>{medianLeads ? 'hold' : '1 % low'}</Quiet>
      <Quiet style={{ width: COLUMNS.peak, textAlign: 'right' }}>hottest</Quiet>
    </Row>
  );
}

/** A run of the list on a wide screen. */
export function RunRow({ run, scaleS }: { run: RunSummary; scaleS: number }): ReactNode {
  const { line } = usePalette();
  const said = useSaid(run);
  return (
    <Link href={hrefOf(run)} asChild>
      <Pressable style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 10, paddingHorizontal: 8 }}>
        <Row gap={16} align="center">
          <View style={{ width: COLUMNS.name }}>
            <Heading level={2} style={{ fontSize: 18 }}>
              {run.name}
            </Heading>
            <Quiet>
              {[run.setup, run.startedAt ? day(run.startedAt) : null].filter(Boolean).join(' · ')}
            </Quiet>
          </View>
          <Stack flex={1}>
            <Lane lane={run.lane} scaleS={scaleS} height={46} />
          </Stack>
          <FigureText size={18} style={{ width: COLUMNS.word }}>
            {said.word}
          </FigureText>
          <FigureText size={24} style={{ width: COLUMNS.average, textAlign: 'right' }}>
            {said.leadColumn}
          </FigureText>
          <FigureText size={18} style={{ width: COLUMNS.low, textAlign: 'right' }}>
            {said.second}
          </FigureText>
          <FigureText size={18} style={{ width: COLUMNS.peak, textAlign: 'right' }}>
            {said.peak}
          </FigureText>
        </Row>
        <Quiet style={{ marginTop: 4 }}>{said.headline}</Quiet>
      </Pressable>
    </Link>
  );
}
