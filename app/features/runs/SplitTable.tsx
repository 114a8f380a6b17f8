import { ROUTES, type RunDetail } from '@pace-check/contract';
import { clock, SPLIT_MINUTES, type Split } from '@pace-check/core';
import type { ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { useCorrectRun } from '../../api/queries';
import { Choices } from '../../ui/Choices';
import { fpsColumn, NONE, percent } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { IfMay } from '../../ui/Role';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { FigureText, Quiet } from '../../ui/words';
import { Section } from '../../ui/Section';
import { Row } from '../../ui/parts';

interface Column {
  head: string;
  width: number;
  leads?: boolean;
  cell: (split: Split) => string;
}

/** The run as a runner's split table. */
export function SplitTable({ run }: { run: RunDetail }): ReactNode {
  const { line, track } = usePalette();
  const wide = useWide();
  const voice = useVoice();
  const { figures } = run;
  const columns = columnsFor(run, wide, voice);
  // of what was read off only the splits in which something was
  const splits = figures.splits.filter(
    (split) => figures.frames.count > 0 || columns.slice(1).some((column) => column.cell(split) !== NONE),
  );
  if (splits.length === 0) return null;
  const width = columns.reduce((sum, column) => sum + column.width, 0);
  return (
    <Section
      title="Splits"
      aside={
        <IfMay route={ROUTES.correctRun}>
          <Lengths run={run} />
        </IfMay>
      }
    >
      <ScrollView
        horizontal
        tabIndex={0}
        aria-label="Split table"
        contentContainerStyle={{ flexGrow: 1 }}
        showsHorizontalScrollIndicator
      >
        <View role="table" aria-label="Splits" style={{ minWidth: width, flexGrow: 1 }}>
          <Row role="row" style={{ borderBottomWidth: 1, borderColor: line, paddingBottom: 4 }}>
            {columns.map((column, i) => (
              <Quiet
                key={column.head}
                role="columnheader"
                style={{ width: column.width, flexGrow: 1, textAlign: i === 0 ? 'left' : 'right' }}
              >
                {column.head}
              </Quiet>
            ))}
          </Row>
          {splits.map((split, row) => (
            <Row
              key={split.fromS}
              role="row"
              style={{ paddingVertical: 6, backgroundColor: row % 2 === 1 ? `${track}66` : 'transparent' }}
            >
              {columns.map((column, i) => (
                <FigureText
                  key={column.head}
                  role="cell"
                  size={(column.leads ? 20 : 17) - (wide ? 0 : 1)}
                  style={{
                    width: column.width,
                    flexGrow: 1,
                    textAlign: i === 0 ? 'left' : 'right',
                    alignSelf: 'center',
                  }}
                >
                  {column.cell(split)}
                </FigureText>
              ))}
            </Row>
          ))}
        </View>
      </ScrollView>
      <Quiet>
        {figures.frames.count === 0
          ? `Mean of the readings in each split, with its range. °${voice.unit}: hottest reading of any spot.`
          : `${voice.school === 'median-and-hold' ? 'Median' : 'Average'} and 1 % low (percentile) in fps. Near median: share of seconds within 20 % of the split’s own median${run.target === null ? '' : '; target: share of seconds at 95 % of the target or more'}. °${voice.unit}: hottest reading of any spot.`}
      </Quiet>
    </Section>
  );
}

/** What a row shows; on a phone as narrow as the figures allow, so that warmth is still in view. */
function columnsFor(
  { target, figures }: RunDetail,
  wide: boolean,
  voice: ReturnType<typeof useVoice>,
): Column[] {
  const any = (has: (split: Split) => boolean): boolean => figures.splits.some(has);
  if (figures.frames.count === 0) return readColumns(any, wide, voice);
  return [
    { head: 'from', width: wide ? 56 : 46, cell: (split) => clock(split.fromS) },
    voice.school === 'median-and-hold'
      ? { head: 'median', leads: true, width: wide ? 66 : 58, cell: (split) => fpsColumn(split.median) }
      : { head: 'average', leads: true, width: wide ? 66 : 58, cell: (split) => fpsColumn(split.average) },
    {
      head: wide ? '1 % low' : 'low',
      width: wide ? 62 : 50,
      cell: (split) => fpsColumn(split.onePercentLow),
    },
    { head: 'near median', width: wide ? 62 : 50, cell: (split) => percent(split.hold) },
    ...(target === null
      ? []
      : [
          {
            head: wide ? 'on target' : 'target',
            width: wide ? 72 : 52,
            cell: (split: Split) => percent(split.onTarget),
          },
        ]),
    { head: 'breaks', width: wide ? 56 : 46, cell: (split) => breaks(split) },
    ...(any((split) => hottest(split) !== null)
      ? [
          {
            head: `°${voice.unit}`,
            width: wide ? 54 : 44,
            cell: (split: Split) => inDegrees(hottest(split), voice),
          },
        ]
      : []),
    ...(any((split) => split.percentUsed !== null)
      ? [
          {
            head: '% used',
            width: wide ? 58 : 50,
            cell: (split: Split) => split.percentUsed?.toFixed(1) ?? NONE,
          },
        ]
      : []),
    ...(any((split) => split.watts !== null)
      ? [{ head: 'watts', width: wide ? 54 : 46, cell: (split: Split) => split.watts?.toFixed(1) ?? NONE }]
      : []),
  ];
}

/** Of a run that was read off: the middle and its ends, and what was read beside it. */
function readColumns(
  any: (has: (split: Split) => boolean) => boolean,
  wide: boolean,
  voice: ReturnType<typeof useVoice>,
): Column[] {
  const columns: (Column & { has: (split: Split) => boolean })[] = [
    {
      head: 'fps',
      leads: true,
      width: wide ? 66 : 58,
      has: () => true,
      cell: (split) => fpsColumn(split.average),
    },
    {
      head: 'between',
      width: 110,
      has: ({ interval }) => interval !== null,
      cell: ({ interval }) =>
        interval === null
          ? NONE
          : interval.high === null
            ? `${fpsColumn(interval.low)} or more`
            : `${fpsColumn(interval.low)} to ${fpsColumn(interval.high)}`,
    },
    {
      head: `°${voice.unit}`,
      width: 54,
      has: (split) => hottest(split) !== null,
      cell: (split) => inDegrees(hottest(split), voice),
    },
    {
      head: '% used',
      width: 58,
      has: (split) => split.percentUsed !== null,
      cell: (split) => split.percentUsed?.toFixed(1) ?? NONE,
    },
    {
      head: 'watts',
      width: 54,
      has: (split) => split.watts !== null,
      cell: (split) => split.watts?.toFixed(1) ?? NONE,
    },
  ];
  return [
    { head: 'from', width: wide ? 56 : 46, cell: (split) => clock(split.fromS) },
    ...columns.filter((column) => any(column.has)),
  ];
}

const inDegrees = (celsius: number | null, { degrees }: ReturnType<typeof useVoice>): string =>
  celsius === null ? NONE : degrees(celsius).toFixed(1);

function breaks({ stutters, stalls, freezes }: Split): string {
  const all = stutters + stalls + freezes;
  return freezes > 0 ? `${all}, ${freezes} fr.` : String(all);
}

function hottest({ hottestC }: Split): number | null {
  const values = Object.values(hottestC);
  return values.length === 0 ? null : Math.max(...values);
}

/** How long a split is. */
function Lengths({ run }: { run: RunDetail }): ReactNode {
  const correct = useCorrectRun(run.id);
  const toast = useToast();
  return (
    <Row gap={8} align="center">
      <Quiet>min</Quiet>
      <Choices
        label="Split length, minutes"
        options={SPLIT_MINUTES.map((minutes) => ({ value: minutes, text: String(minutes) }))}
        selected={run.figures.splitMinutes}
        disabled={correct.isPending}
        onSelect={(splitMinutes) =>
          correct.mutate(
            { splitMinutes },
            { onError: (error) => toast({ text: `Split length not changed: ${error.message}` }) },
          )
        }
      />
    </Row>
  );
}
