import type { Recording } from '@pace-check/contract';
import { clock, STOP_C, warmthBand } from '@pace-check/core';
import { type ReactNode } from 'react';
import { View } from 'react-native';
import { usePalette } from '../../ui/Look';
import { FONTS } from '../../ui/theme';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Quiet } from '../../ui/words';
import { sayDue, sayWarning } from './say';
import { useNow } from '../../outbox';
import { runClock } from './useBench';
import { PERCENT, type BenchView } from './view';
import { Icon } from '../../ui/Icon';
import { Row, Stack } from '../../ui/parts';

/** Last readings, and what they foretell. */
export function Latest({ recording, view }: { recording: Recording; view: BenchView }): ReactNode {
  const { warmth } = usePalette();
  const { degrees, unit } = useVoice();
  const { skin } = view;
  return (
    <Stack gap={4}>
      <Row role="list" aria-label="Latest readings" wrap style={{ columnGap: 16, rowGap: 4 }}>
        {skin.map(({ spot, c, atMs }) => (
          <Reading
            key={spot}
            value={`${degrees(c).toFixed(1)}°`}
            color={warmth[warmthBand(c)]!}
            label={spot}
            atMs={atMs}
            recording={recording}
          />
        ))}
      </Row>
      {recording.status === 'running' ? null : <BatteryAndPower view={view} recording={recording} />}
      {skin.length === 0 && recording.status !== 'ended' ? (
        <Quiet>{`No skin reading yet (°${unit}).`}</Quiet>
      ) : null}
      <Forecasts view={view} recording={recording} />
    </Stack>
  );
}

/** What the battery shows, and what is drawn from it. */
export function BatteryAndPower({
  view: { percent, watts },
  recording,
}: {
  view: BenchView;
  recording: Recording;
}): ReactNode {
  const { drain } = usePalette();
  if (!percent && !watts) return null;
  return (
    <Row role="list" aria-label="Battery and power" style={{ columnGap: 12 }}>
      {percent ? (
        <Reading
          value={`${percent.percent} %`}
          color={drain}
          label={percent.charging ? 'charging' : 'battery'}
          atMs={percent.atMs}
          recording={recording}
          size={20}
        />
      ) : null}
      {watts ? (
        <Reading
          value={`${(watts.mw / 1000).toFixed(1)} W`}
          color={drain}
          label="power"
          atMs={watts.atMs}
          recording={recording}
          size={20}
        />
      ) : null}
    </Row>
  );
}

function Reading({
  value,
  color,
  label,
  atMs,
  recording,
  size = 24,
}: {
  value: string;
  color: string;
  label: string;
  atMs: number;
  recording: Recording;
  size?: number;
}): ReactNode {
  const ageS = Math.max(0, (runClock(recording, useNow(1000)) - atMs) / 1000);
  const age = recording.status === 'ready' ? 'cold' : ageS < 10 ? 'now' : clock(ageS);
  return (
    <View role="listitem">
      {size < 24 ? (
        <Quiet style={{ fontSize: 13, lineHeight: 16 }}>{ageS < OLD_S ? label : `${label} ${age}`}</Quiet>
      ) : null}
      <Row gap={4} align="baseline">
        <FigureText size={size} style={{ color }}>
          {value}
        </FigureText>
        {size < 24 ? null : <Quiet style={{ fontSize: 13, lineHeight: 16 }}>{age}</Quiet>}
      </Row>
      {size < 24 ? null : <Quiet style={{ fontSize: 13, lineHeight: 15 }}>{label}</Quiet>}
    </View>
  );
}

/** A percent that is older than this says so, s. */
const OLD_S = 120;

function Forecasts({ view, recording }: { view: BenchView; recording: Recording }): ReactNode {
  const { temperature, unit } = useVoice();
  const { forecasts } = view;
  const nowS = runClock(recording, useNow(1000)) / 1000;
  if (recording.status === 'ended') return null;
  const hottest = forecasts.reduce<(typeof forecasts)[number] | null>(
    (most, one) => (most === null || one.finalC > most.finalC ? one : most),
    null,
  );
  if (!hottest)
    return view.skin.length > 0 && recording.status === 'running' ? (
      <Quiet>No forecast yet. It needs about five readings of one spot.</Quiet>
    ) : null;
  const { spot, finalC, finalHalfC, settlesInS, cautionAtS } = hottest;
  const half = (unit === 'F' ? 1.8 : 1) * finalHalfC;
  const last = view.skin.find((reading) => reading.spot === spot)!;
  if (settlesInS === 0 && Math.abs(last.c - finalC) > Math.max(1, finalHalfC))
    return <Quiet>{`${spot} no longer follows its warm-up curve.`}</Quiet>;
  const parts = [
    settlesInS > 0
      ? `will level off at ${temperature(finalC)} ± ${half.toFixed(1)} in ${Math.max(1, Math.round(settlesInS / 60))} min`
      : `levelled off at ${temperature(finalC)} ± ${half.toFixed(1)}`,
  ];
  if (cautionAtS !== null && cautionAtS > nowS) parts.push(`${temperature(43)} at ${clock(cautionAtS)}`);
  if (finalC >= STOP_C) parts.push('too hot to hold');
  return <Body role="note" small>{`${spot} ${parts.join('; ')}.`}</Body>;
}

/** Warnings, the gravest first; each with its reason. */
export function Warnings({ view }: { view: BenchView }): ReactNode {
  const { ink, sheet, action, onAction } = usePalette();
  const { temperature } = useVoice();
  return view.warnings.map((warning) => {
    const { title, why } = sayWarning(warning, temperature);
    const strong = warning.grave || warning.what === 'caution';
    if (!strong) {
      return (
        <Row key={warning.what} role="alert" gap={8} align="center">
          <Icon name="info" size={18} color={action} />
          <Quiet style={{ flex: 1, color: ink }}>{`${title}. ${why}`}</Quiet>
        </Row>
      );
    }
    const [ground, text] = warning.grave ? [action, onAction] : [sheet, ink];
    return (
      <Row
        key={warning.what}
        role="alert"
        gap={10}
        style={{
          backgroundColor: ground,
          borderWidth: 2,
          borderColor: action,
          borderRadius: 8,
          paddingHorizontal: 12,
          paddingVertical: 8,
        }}
      >
        <Icon name="warning" size={22} color={warning.grave ? onAction : action} />
        <Stack flex={1}>
          <Body
            style={{ fontFamily: FONTS.head, fontSize: warning.grave ? 22 : 18, lineHeight: 26, color: text }}
          >
            {title}
          </Body>
          <Quiet style={{ color: text }}>{why}</Quiet>
        </Stack>
      </Row>
    );
  });
}

/** The reading that is due, counted down. */
export function Due({ recording, view }: { recording: Recording; view: BenchView }): ReactNode {
  const nowMs = runClock(recording, useNow(500));
  const { action, ink } = usePalette();
  const { due } = view;
  if (!due) return null;
  const now = due.dueMs <= nowMs;
  return (
    <Row role="status" aria-label="Reading due" gap={8} align="center">
      <Icon name="clock" size={18} color={now ? action : ink} />
      <Body head style={{ color: now ? action : ink }}>
        {recording.status === 'ready'
          ? `${due.spot === PERCENT ? 'Battery percent' : due.spot}: reading before the start`
          : `${due.spot}, ${sayDue(due.dueMs, nowMs)}`}
      </Body>
    </Row>
  );
}
