import type { Recording } from '@pace-check/contract';
import { clock, lineTimeMs } from '@pace-check/core';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Line, Path } from 'react-native-svg';
import { pathOf, scale } from '../../charts/scale';
import { fpsColumn, NONE } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { FigureText, Quiet } from '../../ui/words';
import { useNow } from '../../outbox';
import { runClock, usePace } from './useBench';
import { BatteryAndPower } from './Latest';
import { paceNow, splitNow, type BenchView } from './view';
import { Row, Stack } from '../../ui/parts';

const TRAIL_WIDTH = 120;
/** Seconds that the trail shows. */
const TRAIL_S = 60;
const TRAIL_HEIGHT = 34;
/** Frames that were heard longer ago than this are old, ms. */
const OLD_MS = 3000;

/** The clock, the pace of this second, and how the split goes beside the one before and the opening. */
export function PaceNow({ recording, view }: { recording: Recording; view: BenchView }): ReactNode {
  const pace = usePace(recording.runId);
  const { pace: ink, action } = usePalette();
  const nowMs = runClock(recording, useNow(1000));
  // what was heard a while ago is not the pace now; what was read off since then comes nearer
  const old =
    pace !== null && recording.status === 'running' && (nowMs - pace.heardMs) / recording.speed >= OLD_MS;
  const rate = view.rate && (pace === null || lineTimeMs(view.rate) > pace.heardMs) ? view.rate : null;
  const now = old ? null : pace && paceNow(pace.figures);
  const split = pace && splitNow(pace.figures);
  return (
    <Stack gap={2}>
      <Row gap={10} align="flex-end" apart>
        <Row gap={6} align="flex-end">
          <FigureText
            size={72}
            style={{ color: ink, lineHeight: 74, minWidth: 128 }}
            aria-label="Current pace"
            {...{ dataSet: { heard: pace ? Math.round(pace.heardMs) : '' } }}
          >
            {now === null
              ? rate
                ? String(Math.round(rate.fps ?? rate.high ?? rate.low ?? 0))
                : NONE
              : now.toFixed(now < 100 ? 1 : 0)}
          </FigureText>
          <Quiet style={{ marginBottom: 12, width: 64 }}>
            {now === null && rate ? `fps, entered at ${clock(lineTimeMs(rate) / 1000)}` : 'fps, last second'}
          </Quiet>
        </Row>
        <Stack align="flex-end">
          <RunClock recording={recording} />
          {pace ? <Trail values={pace.figures.recent} color={ink} /> : null}
        </Stack>
      </Row>
      {old ? (
        <Quiet
          style={{ color: action, marginTop: -4 }}
        >{`no frames since ${clock(pace.heardMs / 1000)}`}</Quiet>
      ) : null}
      {pace && split ? (
        <Row style={{ columnGap: 12 }}>
          <Labelled label={`split ${split.number}`} value={fpsColumn(split.average)} />
          <Labelled label="previous split" value={fpsColumn(split.before)} />
          <Labelled label="opening" value={fpsColumn(split.opening)} />
          <Labelled label="1 % low" value={fpsColumn(pace.figures.onePercentLow)} />
          <Stack flex={1} />
          <BatteryAndPower view={view} recording={recording} />
        </Row>
      ) : (
        <Row align="center" style={{ columnGap: 12 }}>
          <Quiet style={{ flex: 1 }}>No frames yet. Add a logger, or enter the rate you see.</Quiet>
          <BatteryAndPower view={view} recording={recording} />
        </Row>
      )}
    </Stack>
  );
}

export function RunClock({ recording }: { recording: Recording }): ReactNode {
  const nowMs = runClock(recording, useNow(250));
  return (
    <FigureText size={34} aria-label="Run time" role="timer">
      {clock(nowMs / 1000)}
    </FigureText>
  );
}

function Labelled({ label, value }: { label: string; value: string }): ReactNode {
  return (
    <View>
      <Quiet style={{ fontSize: 13, lineHeight: 16 }}>{label}</Quiet>
      <FigureText size={20}>{value}</FigureText>
    </View>
  );
}

/** Per-second pace of the last minute. */
function Trail({ values, color }: { values: (number | null)[]; color: string }): ReactNode {
  const { line } = usePalette();
  const known = values.filter((value) => value !== null);
  if (known.length < 2) return <View style={{ height: TRAIL_HEIGHT, width: TRAIL_WIDTH }} />;
  const top = Math.max(...known) * 1.05;
  const x = scale([values.length - TRAIL_S, values.length - 1], [0, TRAIL_WIDTH]);
  const y = scale([0, top], [TRAIL_HEIGHT - 2, 2]);
  return (
    <Svg width={TRAIL_WIDTH} height={TRAIL_HEIGHT} role="img" aria-label="Pace, last minute">
      <Line
        x1={0}
        x2={TRAIL_WIDTH}
        y1={TRAIL_HEIGHT - 1}
        y2={TRAIL_HEIGHT - 1}
        stroke={line}
        strokeWidth={1}
      />
      <Path
        d={pathOf(values.map((value, i) => (value === null ? null : [x(i), y(value)])))}
        fill="none"
        stroke={color}
        strokeWidth={2}
      />
    </Svg>
  );
}
