import type { ComparisonRating } from '@pace-check/contract';
import {
  PART_WORDS,
  RATING_PARTS,
  sayOrder,
  USUAL_WEIGHTS,
  type DeviceRating,
  type LeftOutReason,
  type RatingPart,
  type RatingWeights,
} from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { NONE } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Slide } from '../../ui/Slide';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { useRating } from './useRating';

const MOST_WEIGHT = 50;

const WHY: Record<LeftOutReason, string> = {
  'not on all': 'not played on all devices',
  streamed: 'streamed: tests the connection, not the chip',
  synthetic: 'synthetic benchmark',
};

/** Devices rated over the titles that they have in common, by the reader's own weights. */
export function RatingSection({ rating }: { rating: ComparisonRating }): ReactNode {
  const [weights, setWeights] = useState<RatingWeights>(USUAL_WEIGHTS);
  const wide = useWide();
  const answer = useRating(rating.devices, weights);
  const total = RATING_PARTS.reduce((sum, part) => sum + weights[part], 0);
  if (rating.common.length === 0)
    return (
      <Section title="Rating">
        <Body>No title was rated on all devices. Play at least one title on each of them.</Body>
        <LeftOut rating={rating} />
      </Section>
    );
  const set = (part: RatingPart, value: number): void =>
    setWeights((before) => {
      const next = { ...before, [part]: value };
      // something has to count
      return RATING_PARTS.some((one) => next[one] > 0) ? next : before;
    });
  const sliders = (
    <Stack gap={0} flex={wide ? 1 : undefined}>
      <Row apart align="center">
        <Heading level={3}>Weights</Heading>
        <Button type="clear" title="Default weights" onPress={() => setWeights(USUAL_WEIGHTS)} />
      </Row>
      {RATING_PARTS.map((part) => {
        const share = `${Math.round((weights[part] / total) * 100)} %`;
        return (
          <Row key={part} gap={10} align="center">
            <Body style={{ width: 82 }}>{PART_WORDS[part]}</Body>
            <Stack flex={1}>
              <Slide
                label={`Weight of ${PART_WORDS[part]}`}
                value={weights[part]}
                most={MOST_WEIGHT}
                says={share}
                onChange={(value) => set(part, value)}
              />
            </Stack>
            <FigureText style={{ width: 48, textAlign: 'right' }}>{share}</FigureText>
          </Row>
        );
      })}
    </Stack>
  );
  const order = (
    <Stack gap={12} flex={wide ? 1.3 : undefined}>
      {answer ? (
        <Order rated={answer.rated} places={answer.places} />
      ) : (
        <Quiet>Calculating the rating…</Quiet>
      )}
      {answer ? (
        <Stack gap={4}>
          <Quiet>
            {`Small bars: how often each device comes first, second and so on with these weights, given run-to-run variation.${answer.rated.some((device) => device.partial) ? ' A dark line: possible range where a part is missing.' : ''}`}
          </Quiet>
          {sayOrder(answer.rated, answer.points).map((sentence) => (
            <Body key={sentence} small>
              {sentence}
            </Body>
          ))}
        </Stack>
      ) : null}
    </Stack>
  );
  return (
    <Section title="Rating">
      <Quiet>{`Over ${rating.common.join(', ')}.`}</Quiet>
      {wide ? (
        <Row gap={28} align="flex-start">
          {order}
          {sliders}
        </Row>
      ) : (
        <>
          {order}
          {sliders}
        </>
      )}
      <Parts rating={rating} />
      <LeftOut rating={rating} />
    </Section>
  );
}

/** Devices in order, with how sure their places are. */
function Order({ rated, places }: { rated: DeviceRating[]; places: number[][] }): ReactNode {
  const { pace, track, ink, quiet } = usePalette();
  const ordered = rated
    .map((device, i) => ({ ...device, places: places[i]! }))
    .sort((a, b) => (b.overall ?? -1) - (a.overall ?? -1));
  return (
    <Stack role="list" aria-label="Ranking of the devices" gap={12}>
      {ordered.map(({ name, overall, low, high, partial, leads, places: own }, i) => (
        <Stack key={name} role="listitem" gap={2}>
          <Row apart align="baseline" gap={8}>
            <Heading level={3} style={{ flexShrink: 1 }}>{`${i + 1}  ${name}`}</Heading>
            <Row gap={8} align="baseline">
              {partial ? <Quiet>{`${low.toFixed(0)} to ${high.toFixed(0)}, partial`}</Quiet> : null}
              <FigureText size={24}>{overall === null ? NONE : overall.toFixed(0)}</FigureText>
            </Row>
          </Row>
          <View aria-hidden style={{ height: 12, backgroundColor: track, borderRadius: 3 }}>
            <View
              style={{
                position: 'absolute',
                height: 12,
                width: `${overall ?? 0}%`,
                backgroundColor: pace,
                borderRadius: 3,
              }}
            />
            {partial ? (
              <View
                style={{
                  position: 'absolute',
                  top: 4,
                  height: 4,
                  left: `${low}%`,
                  width: `${high - low}%`,
                  backgroundColor: ink,
                }}
              />
            ) : null}
          </View>
          <Row gap={6} align="center">
            <Row aria-hidden gap={2} style={{ width: 120 }}>
              {own.map((share, place) => (
                <View
                  key={place}
                  style={{
                    flex: 1,
                    height: 14,
                    justifyContent: 'flex-end',
                    borderBottomWidth: 1,
                    borderColor: quiet,
                  }}
                >
                  <View style={{ height: Math.round(share * 13), backgroundColor: quiet }} />
                </View>
              ))}
            </Row>
            <Quiet style={{ flexShrink: 1 }}>
              {`${surest(own)}; first in ${Math.round(leads * 100)} % of all weightings`}
            </Quiet>
          </Row>
        </Stack>
      ))}
    </Stack>
  );
}

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'];

/** The likeliest place under these weights. */
function surest(places: number[]): string {
  const best = places.indexOf(Math.max(...places));
  return `${ORDINALS[best] ?? `no. ${best + 1}`} in ${Math.round(places[best]! * 100)} %`;
}

/** The parts of each device: always shown with the overall figure. */
function Parts({ rating }: { rating: ComparisonRating }): ReactNode {
  const { line } = usePalette();
  return (
    <Stack role="table" aria-label="Parts of the rating">
      <Row role="row" gap={4} style={{ borderBottomWidth: 1, borderColor: line }}>
        <Quiet role="columnheader" style={{ flex: 1.5 }}>
          parts, 0–100
        </Quiet>
        {RATING_PARTS.map((part) => (
          <Quiet key={part} role="columnheader" style={{ flex: 1, textAlign: 'right' }}>
            {PART_WORDS[part]}
          </Quiet>
        ))}
      </Row>
      {rating.devices.map(({ name, parts, sd }) => (
        <Row key={name} role="row" gap={4} align="baseline" style={{ paddingVertical: 4 }}>
          <Body small role="rowheader" style={{ flex: 1.5 }}>
            {name}
          </Body>
          {RATING_PARTS.map((part) => (
            <FigureText key={part} role="cell" size={17} style={{ flex: 1, textAlign: 'right' }}>
              {parts[part] === null
                ? NONE
                : `${parts[part].toFixed(0)}${(sd[part] ?? 0) >= 0.5 ? ` ±${sd[part]!.toFixed(0)}` : ''}`}
            </FigureText>
          ))}
        </Row>
      ))}
    </Stack>
  );
}

function LeftOut({ rating }: { rating: ComparisonRating }): ReactNode {
  if (rating.leftOut.length === 0) return null;
  return (
    <Quiet>
      {`Not rated: ${rating.leftOut.map(({ title, reason }) => `${title} (${WHY[reason]})`).join('; ')}.`}
    </Quiet>
  );
}
