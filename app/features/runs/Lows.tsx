import type { Low } from '@pace-check/core';
import type { ReactNode } from 'react';
import { fpsColumn } from '../../ui/figures';
import { FigureText, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

const DEFINITIONS: { key: keyof Low; name: string }[] = [
  { key: 'quantile', name: 'percentile' },
  { key: 'worstMean', name: 'mean of the worst' },
  { key: 'timeShare', name: 'share of time' },
];

/** The lows, a row each, in the three definitions that are in use; the first leads. */
export function Lows(lows: { onePercent: Low; tenthPercent: Low }): ReactNode {
  const rows = [
    { name: '1 % low', low: lows.onePercent },
    { name: '0.1 % low', low: lows.tenthPercent },
  ];
  return (
    <Stack role="table" aria-label="Lows by definition" gap={2} style={{ paddingBottom: 6 }}>
      <Row role="row">
        <Quiet role="columnheader" style={{ flex: 1 }}>
          lows, fps
        </Quiet>
        {DEFINITIONS.map((definition) => (
          <Quiet key={definition.key} role="columnheader" style={{ flex: 1, textAlign: 'right' }}>
            {definition.name}
          </Quiet>
        ))}
      </Row>
      {rows.map(({ name, low }) => (
        <Row key={name} role="row" aria-label={name} align="baseline">
          <Quiet role="rowheader" style={{ flex: 1 }}>
            {name}
          </Quiet>
          {low.quantile === null ? (
            <Quiet style={{ flex: 3, textAlign: 'right' }}>not enough frames</Quiet>
          ) : (
            DEFINITIONS.map((definition) => (
              <FigureText key={definition.key} role="cell" size={17} style={{ flex: 1, textAlign: 'right' }}>
                {fpsColumn(low[definition.key])}
              </FigureText>
            ))
          )}
        </Row>
      ))}
    </Stack>
  );
}
