import type { Low } from '@pace-check/core';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { fpsColumn } from '../../ui/figures';
import { FigureText, Quiet } from '../../ui/words';

const DEFINITIONS: { key: keyof Low; name: string }[] = [
  { key: 'quantile', name: 'quantile' },
  { key: 'worstMean', name: 'worst mean' },
  { key: 'timeShare', name: 'time share' },
];

/** The lows, a row each, in the three definitions that are in use; the first leads. */
export function Lows(lows: { onePercent: Low; tenthPercent: Low }): ReactNode {
  const rows = [
    { name: '1 % low', low: lows.onePercent },
    { name: '0.1 % low', low: lows.tenthPercent },
  ];
  return (
    <View role="table" aria-label="Lows by definition" style={{ gap: 2, paddingBottom: 6 }}>
      <View role="row" style={{ flexDirection: 'row' }}>
        <Quiet role="columnheader" style={{ flex: 1 }}>
          lows, fps
        </Quiet>
        {DEFINITIONS.map((definition) => (
          <Quiet key={definition.key} role="columnheader" style={{ flex: 1, textAlign: 'right' }}>
            {definition.name}
          </Quiet>
        ))}
      </View>
      {rows.map(({ name, low }) => (
        <View
          key={name}
          role="row"
          aria-label={name}
          style={{ flexDirection: 'row', alignItems: 'baseline' }}
        >
          <Quiet role="rowheader" style={{ flex: 1 }}>
            {name}
          </Quiet>
          {low.quantile === null ? (
            <Quiet style={{ flex: 3, textAlign: 'right' }}>too few frames</Quiet>
          ) : (
            DEFINITIONS.map((definition) => (
              <FigureText key={definition.key} role="cell" size={17} style={{ flex: 1, textAlign: 'right' }}>
                {fpsColumn(low[definition.key])}
              </FigureText>
            ))
          )}
        </View>
      ))}
    </View>
  );
}
