import type { RunSummary } from '@pace-check/contract';
import { clock, headline, sayReadShort, writtenHull } from '@pace-check/core';
import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, View, type ViewStyle } from 'react-native';
import { count, day, fps, fpsColumn, NONE, percent } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { Lane } from '../../charts/Lane';
import { Row, Stack } from '../../ui/parts';
import { choose, startChoosing } from './chosen';

const PENDING = 'Its figures are being recalculated. Open the run to see them first.';

/** What a row says, as the reader's school and scale have it. */
export function useSaid(run: RunSummary): {
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
  const titles = facts?.titles?.length ?? null;
  const lead = (medianLeads ? facts?.pace.median : facts?.pace.average) ?? null;
  // what was read off is said as it was written
  const read = facts?.said ?? null;
  const said = (say: (value: number | null) => string): string =>
    read ? sayReadShort(read, true) : say(lead);
  return {
    headline: run.recording
      ? run.recording === 'running'
        ? 'Recording at the bench'
        : 'Ready at the bench, not started'
      : facts
        ? headline(facts, voice)
        : PENDING,
    lead: titles === null ? said(fps) : String(titles),
    // the heading says fps: a speed says what it is
    leadColumn: titles !== null ? NONE : read ? sayReadShort(read).replace(/ speed$/, '') : fpsColumn(lead),
    leadUnit:
      titles !== null
        ? 'titles'
        : read
          ? `${writtenHull([read])?.unit ?? 'fps'}, ${facts?.pace.source === 'eye' ? 'by eye' : 'from a counter'}`
          : medianLeads
            ? 'fps median'
            : 'fps average',
    second:
      titles !== null
        ? NONE
        : voice.school === 'median-and-hold'
          ? percent(facts?.pace.hold ?? null)
          : fpsColumn(facts?.onePercentLow ?? null),
    peak: voice.temperature(facts?.peakC ?? null),
    word: (titles === null ? facts?.stamina.word : null) ?? NONE,
  };
}

/** A run that is recorded is opened at the bench. */
const hrefOf = (run: RunSummary): `/runs/${string}` | `/bench/${string}` =>
  run.recording ? `/bench/${run.id}` : `/runs/${run.id}`;

/** Where a run stands in a sitting, or that it is one. */
const sittingOf = ({ part, isSitting, lane }: RunSummary): string | null =>
  part !== null
    ? `starts at ${clock(part.fromMs / 1000)} of “${part.sittingName}”`
    : isSitting
      ? `session of ${clock(lane.seconds)}, lane at its own scale`
      : null;

/**
 * A run that is opened by a tap, or, while runs are being chosen, taken in or out.
 *
 * @param chosen null while nobody chooses, and where it cannot be
 */
function Tappable({
  run,
  chosen,
  style,
  children,
}: {
  run: RunSummary;
  chosen: boolean | null;
  style: ViewStyle;
  children: ReactNode;
}): ReactNode {
  const { action, quiet } = usePalette();
  if (chosen === null)
    return (
      <Link href={hrefOf(run)} asChild>
        <Pressable style={style} onLongPress={run.recording ? undefined : () => startChoosing(run)}>
          {children}
        </Pressable>
      </Link>
    );
  return (
    <Pressable
      role="checkbox"
      aria-checked={chosen}
      aria-label={`Select ${[run.name, run.part === null ? null : sittingOf(run)].filter(Boolean).join(', ')}`}
      onPress={() => choose(run)}
      {...SPACE_TOO(() => choose(run))}
      style={[style, chosen ? { borderColor: action, borderWidth: 2, borderRadius: 8 } : null]}
    >
      {children}
      <Body small head style={{ color: chosen ? action : quiet }}>
        {chosen ? '✓ selected' : '□ tap to select'}
      </Body>
    </Pressable>
  );
}

/** A checkbox answers to the space bar, too. */
const SPACE_TOO = (press: () => void): object => ({
  onKeyDown: (event: KeyboardEvent) => {
    if (event.key !== ' ') return;
    event.preventDefault();
    press();
  },
});

/** A run of the list on a phone. */
export function RunCard({
  run,
  scaleS,
  chosen = null,
}: {
  run: RunSummary;
  scaleS: number;
  chosen?: boolean | null;
}): ReactNode {
  const { sheet, line } = usePalette();
  const said = useSaid(run);
  return (
    <Tappable
      run={run}
      chosen={chosen}
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
              sittingOf(run),
              run.lane.seconds > 0 && !run.isSitting ? clock(run.lane.seconds) : null,
              run.isSitting ? null : run.headline?.stamina.word,
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
    </Tappable>
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
      <Quiet style={{ width: COLUMNS.name }}>Title and device</Quiet>
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
      <Quiet style={{ width: COLUMNS.low, textAlign: 'right' }}>
        {medianLeads ? 'near median' : '1 % low'}
      </Quiet>
      <Quiet style={{ width: COLUMNS.peak, textAlign: 'right' }}>hottest</Quiet>
    </Row>
  );
}

/** A run of the list on a wide screen. */
export function RunRow({
  run,
  scaleS,
  chosen = null,
}: {
  run: RunSummary;
  scaleS: number;
  chosen?: boolean | null;
}): ReactNode {
  const { line } = usePalette();
  const said = useSaid(run);
  return (
    <Tappable
      run={run}
      chosen={chosen}
      style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 10, paddingHorizontal: 8 }}
    >
      <Row gap={16} align="center">
        <View style={{ width: COLUMNS.name }}>
          <Heading level={2} style={{ fontSize: 18 }}>
            {run.name}
          </Heading>
          <Quiet>
            {[run.setup, sittingOf(run), run.startedAt ? day(run.startedAt) : null]
              .filter(Boolean)
              .join(' · ')}
          </Quiet>
        </View>
        <Stack flex={1}>
          <Lane lane={run.lane} scaleS={scaleS} height={46} />
        </Stack>
        <FigureText size={18} style={{ width: COLUMNS.word }}>
          {said.word}
        </FigureText>
        <FigureText
          size={said.leadColumn.length > 7 ? 18 : 24}
          style={{ width: COLUMNS.average, textAlign: 'right' }}
        >
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
    </Tappable>
  );
}
