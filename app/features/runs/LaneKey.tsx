import type { Lane } from '@pace-check/core';
import type { ReactNode } from 'react';
import Svg, { Line, Path, Rect } from 'react-native-svg';
import { usePalette } from '../../ui/Look';
import { Quiet } from '../../ui/words';
import { Row } from '../../ui/parts';

/** How a lane is read. */
export function LaneKey({ measures = 'target' }: { measures?: Lane['measures'] }): ReactNode {
  const { pace, track, drain, ink, action, warmth } = usePalette();
  return (
    <Row wrap style={{ columnGap: 18, rowGap: 4 }}>
      <Item
        label={
          {
            target: 'share of time on target',
            hold: 'share of seconds near the median (no target set)',
            speed: 'share of full speed',
            highest: 'share of the highest reading (no target set)',
          }[measures]
        }
      >
        <Rect x={2} y={1} width={10} height={12} fill={track} />
        <Rect x={2} y={5} width={10} height={8} fill={pace} />
      </Item>
      <Item label="manual reading, hatched">
        <Path d="M0 13L8 4M4 13L12 4M8 13L16 4" stroke={pace} strokeWidth={2} fill="none" />
        <Line x1={8} x2={8} y1={1} y2={9} stroke={ink} strokeWidth={2} />
      </Item>
      <Item label="battery, narrowing">
        <Rect x={0} y={3} width={16} height={8} fill={track} />
        <Path d="M0 11V3L16 8V11Z" fill={drain} />
      </Item>
      <Item label="stutter or stall">
        <Line x1={4} x2={4} y1={5} y2={12} stroke={ink} strokeWidth={1.2} />
      </Item>
      <Item label="freeze">
        <Line x1={5} x2={5} y1={0} y2={13} stroke={action} strokeWidth={3} />
      </Item>
      <Item label="skin temperature, cool to hot">
        {warmth.map((color, band) => (
          <Rect key={color} x={band * 3.2} y={10 - (1.5 + band)} width={3} height={1.5 + band} fill={color} />
        ))}
      </Item>
    </Row>
  );
}

function Item({ label, children }: { label: string; children: ReactNode }): ReactNode {
  return (
    <Row gap={6} align="center">
      <Svg width={16} height={14} aria-hidden>
        {children}
      </Svg>
      <Quiet>{label}</Quiet>
    </Row>
  );
}
