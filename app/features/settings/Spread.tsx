import type { SpreadSummary } from '@pace-check/contract';
import { byLogarithm, MEASURE_WORDS } from '@pace-check/core';
import type { ReactNode } from 'react';
import { useSpread } from '../../api/compare';
import { count, NONE } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Answered } from '../../ui/states';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Quiet } from '../../ui/words';

/** How much a run differs from its like: what the library shows, habit, and what is taken of both. */
export function Spread(): ReactNode {
  const spread = useSpread();
  const { line } = usePalette();
  return (
    <Answered query={spread} loading={{ rows: 3, height: 30, label: 'Loading run-to-run variation' }}>
      {(rows) => (
        <Stack role="table" aria-label="Run-to-run variation">
          <Row role="row" gap={8} style={{ borderBottomWidth: 1, borderColor: line }}>
            {['measure', 'your repeats', 'typical', 'used'].map((head, i) => (
              <Quiet
                key={head}
                role="columnheader"
                style={{ flex: i === 0 ? 2 : 1, textAlign: i === 0 ? 'left' : 'right' }}
              >
                {head}
              </Quiet>
            ))}
          </Row>
          {rows.map((row) => (
            <SpreadRow key={row.measure} row={row} />
          ))}
        </Stack>
      )}
    </Answered>
  );
}

function SpreadRow({ row }: { row: SpreadSummary }): ReactNode {
  const { unit } = useVoice();
  const say = (sd: number | null): string =>
    sd === null
      ? NONE
      : !byLogarithm(row.measure)
        ? `${(unit === 'C' ? sd : sd * 1.8).toFixed(1)} °${unit}`
        : `${(sd * 100).toFixed(1)} %`;
  return (
    <Row role="row" gap={8} align="center" style={{ paddingVertical: 4 }}>
      <Stack role="rowheader" style={{ flex: 2 }}>
        <Body small>{MEASURE_WORDS[row.measure]}</Body>
        <Quiet>
          {row.groups === 0
            ? 'no repeats yet'
            : `${count(row.groups, 'group')} of repeats, ${row.freedom} degrees of freedom`}
        </Quiet>
      </Stack>
      {[row.archive, row.habit, row.taken].map((sd, i) => (
        <FigureText key={i} role="cell" style={{ flex: 1, textAlign: 'right' }}>
          {say(sd)}
        </FigureText>
      ))}
    </Row>
  );
}
