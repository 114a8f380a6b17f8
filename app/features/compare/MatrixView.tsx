import type { ComparisonDetail } from '@pace-check/contract';
import { MEASURE_WORDS, type RunMeasure } from '@pace-check/core';
import { Input } from '@rneui/themed';
import {
  createColumnHelper,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { Link } from 'expo-router';
import { memo, useMemo, useState, type CSSProperties, type ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import Svg, { Rect } from 'react-native-svg';
import { usePalette, useWide } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { TARGET } from '../../ui/theme';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { MeasurePicker } from './FieldView';
import { matrixRows, type ShownCell, type ShownRow } from './matrixRows';

/** From so many rows on it pays to search. */
const MANY = 6;

/** Titles down, devices across. */
export function MatrixView({ comparison }: { comparison: ComparisonDetail }): ReactNode {
  const voice = useVoice();
  const wide = useWide();
  const [measure, setMeasure] = useState<RunMeasure>(
    voice.school === 'median-and-hold' ? 'median' : 'average',
  );
  const [q, setQ] = useState('');
  const rows = useMemo(
    () => matrixRows(comparison, measure, voice.unit, q),
    [comparison, measure, voice.unit, q],
  );
  const names = useMemo(() => comparison.side.map((side) => side.name), [comparison.side]);
  return (
    <Section title="Titles and devices" aside={<MeasurePicker measure={measure} onChange={setMeasure} />}>
      {comparison.rows.length >= MANY ? (
        <Input
          label="Search titles"
          aria-label="Search titles"
          value={q}
          onChangeText={setQ}
          renderErrorMessage={false}
        />
      ) : null}
      {rows.length === 0 ? <Body>No matching titles.</Body> : null}
      {wide ? <WideMatrix rows={rows} names={names} /> : <PairByPair rows={rows} names={names} />}
      <Quiet>{`${MEASURE_WORDS[measure]}. A frame marks the best value of a row if it is clearly the best under the same conditions. Tap a heading to sort.`}</Quiet>
    </Section>
  );
}

const column = createColumnHelper<ShownRow>();

/** A head of the matrix: its name, and how the rows are sorted by it. */
interface Head {
  name: string;
  sorted: false | 'asc' | 'desc';
  onSort: () => void;
}

/** The rows, sorted by the title or by a device; the heads, the title's first. */
function useMatrix(rows: ShownRow[], names: string[]): { rows: ShownRow[]; heads: Head[] } {
  const [sorting, setSorting] = useState<SortingState>([]);
  const columns = useMemo(
    () => [
      column.accessor((row) => `${row.title} ${row.setup ?? ''}`, { id: 'title', header: 'Title' }),
      ...names.map((name, i) =>
        column.accessor((row) => row.cells[i]!.value ?? undefined, {
          id: `side-${i}`,
          header: name,
          sortUndefined: 'last',
          sortDescFirst: true,
        }),
      ),
    ],
    [names],
  );
  // eslint-disable-next-line react-hooks/incompatible-library -- the table stays the same while its sorting changes: what is shown is taken out of it here, in a hook that the compiler leaves alone
  const table = useReactTable({
    data: rows,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  return {
    rows: table.getRowModel().rows.map((row) => row.original),
    heads: table.getFlatHeaders().map(({ column: of }) => ({
      name: String(of.columnDef.header),
      sorted: of.getIsSorted(),
      onSort: () => of.toggleSorting(),
    })),
  };
}

const FIRST = 190;
const OTHER = 132;

/** The whole table, its heads staying in view. (A table of the platform: it knows sticky heads.) */
function WideMatrix({ rows, names }: { rows: ShownRow[]; names: string[] }): ReactNode {
  const { rows: sorted, heads } = useMatrix(rows, names);
  const { paper, line } = usePalette();
  const head = (left: boolean): CSSProperties => ({
    position: 'sticky',
    top: 0,
    left: left ? 0 : undefined,
    zIndex: left ? 2 : 1,
    background: paper,
    textAlign: 'left',
    verticalAlign: 'bottom',
    padding: 0,
    width: left ? FIRST : OTHER,
    borderBottom: `1px solid ${line}`,
  });
  return (
    <div
      style={{ overflow: 'auto', maxHeight: '70vh', border: `1px solid ${line}`, borderRadius: 8 }}
      tabIndex={0}
      role="region"
      aria-label="Table of titles and devices"
    >
      <table style={{ borderCollapse: 'separate', borderSpacing: 0, width: '100%' }}>
        <thead>
          <tr>
            {heads.map(({ name, sorted, onSort }, i) => (
              <th
                key={name}
                scope="col"
                aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
                style={head(i === 0)}
              >
                <SortHead name={name} sorted={sorted} onSort={onSort} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sorted.map((row) => (
            <WideRow key={row.title + row.setup} row={row} paper={paper} line={line} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

const WideRow = memo(function WideRow({
  row,
  paper,
  line,
}: {
  row: ShownRow;
  paper: string;
  line: string;
}): ReactNode {
  const under = `1px solid ${line}`;
  return (
    <tr>
      <th
        scope="row"
        style={{
          position: 'sticky',
          left: 0,
          background: paper,
          textAlign: 'left',
          padding: '8px 10px',
          borderBottom: under,
          verticalAlign: 'top',
        }}
      >
        <Title row={row} />
      </th>
      {row.cells.map((cell, i) => (
        <td key={i} style={{ padding: 6, borderBottom: under, verticalAlign: 'top' }}>
          <Cell cell={cell} />
        </td>
      ))}
    </tr>
  );
});

function SortHead({ name, sorted, onSort }: Head): ReactNode {
  const { action, ink } = usePalette();
  return (
    <Pressable
      role="button"
      aria-label={`Sort by ${name}`}
      onPress={onSort}
      style={{ minHeight: TARGET, justifyContent: 'center', paddingHorizontal: 10 }}
    >
      <Body head style={{ color: sorted ? action : ink }}>
        {`${name}${sorted === 'asc' ? ' ↑' : sorted === 'desc' ? ' ↓' : ''}`}
      </Body>
    </Pressable>
  );
}

function Title({ row }: { row: ShownRow }): ReactNode {
  return (
    <Stack>
      <Heading level={3}>{row.title}</Heading>
      {row.setup ? <Quiet>{row.setup}</Quiet> : null}
    </Stack>
  );
}

/** One device on one title: the figure, its word, and its lane as small as a stamp. */
function Cell({ cell }: { cell: ShownCell }): ReactNode {
  const { action, quiet } = usePalette();
  const without = cell.value === null;
  const body = (
    <Stack
      gap={2}
      style={{
        minHeight: TARGET,
        padding: 6,
        borderRadius: 6,
        borderWidth: 2,
        borderColor: cell.best ? action : 'transparent',
      }}
    >
      {without ? (
        <Body small style={{ color: quiet }}>
          {cell.says}
        </Body>
      ) : (
        <FigureText size={20}>{cell.says}</FigureText>
      )}
      {cell.best ? <Quiet style={{ color: action }}>clearly best</Quiet> : null}
      {cell.word ? <Quiet>{cell.word}</Quiet> : null}
      {cell.lane ? <Stamp cell={cell} /> : null}
    </Stack>
  );
  return cell.runId === null ? (
    body
  ) : (
    <Link href={`/runs/${cell.runId}`} asChild>
      <Pressable>{body}</Pressable>
    </Link>
  );
}

const STAMP_W = 92;
const STAMP_H = 16;

/** A lane reduced to its cells; what was read off is paler. */
function Stamp({ cell: { lane } }: { cell: ShownCell }): ReactNode {
  const { pace, track } = usePalette();
  if (!lane || lane.cells.length === 0 || lane.seconds === 0) return null;
  return (
    <View aria-hidden>
      <Svg width={STAMP_W} height={STAMP_H}>
        {lane.cells.map((cell) => {
          const x = (cell.fromS / lane.seconds) * STAMP_W;
          const width = Math.max(1, ((cell.toS - cell.fromS) / lane.seconds) * STAMP_W - 1);
          const tall = (cell.height ?? 0) * STAMP_H;
          return [
            <Rect key={`t${cell.fromS}`} x={x} y={0} width={width} height={STAMP_H} fill={track} />,
            <Rect
              key={`p${cell.fromS}`}
              x={x}
              y={STAMP_H - tall}
              width={width}
              height={tall}
              fill={pace}
              opacity={lane.readOff ? 0.5 : 1}
            />,
          ];
        })}
      </Svg>
    </View>
  );
}

/** On a phone: two devices at a time, the next pair by a swipe or a tap. */
function PairByPair({ rows, names }: { rows: ShownRow[]; names: string[] }): ReactNode {
  const { rows: sorted, heads } = useMatrix(rows, names);
  const [width, setWidth] = useState(0);
  const pairs = names.length < 2 ? [[0]] : names.slice(1).map((_, i) => [i, i + 1]);
  return (
    <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
      <ScrollView
        horizontal
        pagingEnabled
        tabIndex={0}
        aria-label="Table of titles, two devices at a time"
        showsHorizontalScrollIndicator
      >
        {width > 0
          ? pairs.map((sides, i) => (
              <Stack
                key={sides.join('-')}
                style={{ width }}
                role="table"
                aria-label={sides.map((side) => names[side]).join(' and ')}
              >
                <Row role="row" gap={8}>
                  {sides.map((side) => (
                    <Stack key={side} flex={1} role="columnheader">
                      <SortHead {...heads[side + 1]!} />
                    </Stack>
                  ))}
                </Row>
                {sorted.map((row) => (
                  <PhoneRow key={row.title + row.setup} row={row} sides={sides} />
                ))}
                <Quiet style={{ textAlign: 'center', paddingTop: 6 }}>
                  {`${i + 1} of ${pairs.length}${pairs.length > 1 ? ': swipe for the next two devices' : ''}`}
                </Quiet>
              </Stack>
            ))
          : null}
      </ScrollView>
    </View>
  );
}

function PhoneRow({ row, sides }: { row: ShownRow; sides: number[] }): ReactNode {
  const { line } = usePalette();
  return (
    <Stack role="row" style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 6 }}>
      <Stack role="rowheader">
        <Title row={row} />
      </Stack>
      <Row gap={8}>
        {sides.map((side) => (
          <Stack key={side} flex={1} role="cell">
            <Cell cell={row.cells[side]!} />
          </Stack>
        ))}
      </Row>
    </Stack>
  );
}
