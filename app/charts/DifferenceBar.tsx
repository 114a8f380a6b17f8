import { useId, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Defs, Line, Pattern, Rect } from 'react-native-svg';
import { usePalette } from '../ui/Look';
import { scale } from './scale';

const HEIGHT = 30;
/** The scale reaches at least so many times as far as what nobody feels. */
const LEAST_REACH = 4;

/**
 * A difference with its interval on a scale whose middle is "no difference".
 * Better for the second side is always to the right, whatever is measured; the
 * hatched band in the middle is too small to feel.
 *
 * @param at difference, better to the second side above 0; null where it has no end
 * @param interval ends of it in the same direction; null for an end that there is not
 * @param margin half of the band; null where there is no such thing
 */
export function DifferenceBar({
  at,
  interval: [low, high],
  margin,
  says,
}: {
  at: number | null;
  interval: [number | null, number | null];
  margin: number | null;
  says: string;
}): ReactNode {
  const { line, quiet, ink, pace, track } = usePalette();
  const [width, setWidth] = useState(0);
  const hatch = `small-${useId().replaceAll(':', '')}`;
  const least = (margin ?? 0.1) * LEAST_REACH;
  const reach = Math.max(least, ...[at, low, high].map((value) => Math.abs(value ?? 0))) * 1.08;
  const x = scale([-reach, reach], [0, width]);
  const middle = HEIGHT / 2;
  return (
    <View
      role="img"
      aria-label={says}
      onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
      style={{ height: HEIGHT, width: '100%' }}
    >
      {width > 0 ? (
        <Svg width={width} height={HEIGHT}>
          <Defs>
            <Pattern
              id={hatch}
              width={5}
              height={5}
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <Line x1={0} x2={0} y1={0} y2={5} stroke={quiet} strokeWidth={1} />
            </Pattern>
          </Defs>
          <Rect x={0} y={middle - 8} width={width} height={16} fill={track} rx={3} />
          {margin === null ? null : (
            <Rect
              x={x(-margin)}
              y={middle - 8}
              width={x(margin) - x(-margin)}
              height={16}
              fill={`url(#${hatch})`}
            />
          )}
          <Line x1={x(0)} x2={x(0)} y1={1} y2={HEIGHT - 1} stroke={ink} strokeWidth={1.5} />
          <Line
            x1={low === null ? 0 : x(low)}
            x2={high === null ? width : x(high)}
            y1={middle}
            y2={middle}
            stroke={pace}
            strokeWidth={6}
            strokeDasharray={low === null || high === null ? '6 4' : undefined}
          />
          {[low, high].map((end, i) =>
            end === null ? null : (
              <Line
                key={i}
                x1={x(end)}
                x2={x(end)}
                y1={middle - 8}
                y2={middle + 8}
                stroke={pace}
                strokeWidth={2}
              />
            ),
          )}
          {at === null ? null : (
            <Circle cx={x(at)} cy={middle} r={6} fill={ink} stroke={line} strokeWidth={1.5} />
          )}
        </Svg>
      ) : null}
    </View>
  );
}
