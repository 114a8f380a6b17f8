import type { ComparisonDetail, PairDetail } from '@pace-check/contract';
import {
  clock,
  PART_WORDS,
  RATING_PARTS,
  sayDirection,
  sayMismatch,
  whatWouldSettle,
  type CompareMeasure,
  type RatingPart,
} from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { DifferenceBar } from '../../charts/DifferenceBar';
import { fpsColumn, NONE } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { drawn, measuresOf, sayMeasureOf } from './differences';

interface Props {
  comparison: ComparisonDetail;
  pair: PairDetail;
  names: readonly [string, string];
}

/** Two sides closely: the five measures, what was not the same, and what lies under them. */
export function PairView(props: Props): ReactNode {
  const wide = useWide();
  const closely = (
    <>
      <SplitsBeside {...props} />
      <WarmthBeside {...props} />
    </>
  );
  return wide ? (
    <Row gap={28} align="flex-start">
      <Stack gap={16} flex={1.4} style={{ minWidth: 0 }}>
        <Differences {...props} />
      </Stack>
      <Stack gap={16} flex={1} style={{ minWidth: 0 }}>
        <NotTheSame {...props} />
        {closely}
      </Stack>
    </Row>
  ) : (
    <>
      <Differences {...props} />
      <NotTheSame {...props} />
      {closely}
    </>
  );
}

function Differences({ comparison, pair, names }: Props): ReactNode {
  const [sure, setSure] = useState(false);
  const { line } = usePalette();
  return (
    <Section
      title="Five measures"
      aside={
        <Button
          type="clear"
          title={sure ? 'Less' : 'Certainty'}
          aria-expanded={sure}
          onPress={() => setSure(!sure)}
        />
      }
    >
      <Row gap={8} apart aria-hidden>
        <Quiet>{`← better: ${names[0]}`}</Quiet>
        <Quiet>{`better: ${names[1]} →`}</Quiet>
      </Row>
      {RATING_PARTS.map((part) => (
        <PartOfPair key={part} part={part} comparison={comparison} pair={pair} names={names} sure={sure} />
      ))}
      <Quiet style={{ borderTopWidth: 1, borderColor: line, paddingTop: 8 }}>
        {`The difference column shows ${names[1]} compared with ${names[0]}. The bar is the 95 % interval. Differences within the hatched band are too small to notice: ${Math.round(comparison.margin * 1000) / 10} % either way, 1 °C for warmth.`}
      </Quiet>
    </Section>
  );
}

function PartOfPair({
  part,
  comparison,
  pair,
  names,
  sure,
}: Props & { part: RatingPart; sure: boolean }): ReactNode {
  const { school } = useVoice();
  const measures = measuresOf(part, school).filter((measure) => pair.comparison.measures[measure] !== null);
  return (
    <Stack gap={10} role="group" aria-label={PART_WORDS[part]} style={{ paddingTop: 4 }}>
      <Heading level={3}>{PART_WORDS[part]}</Heading>
      {measures.map((measure) => (
        <MeasureOfPair
          key={measure}
          measure={measure}
          comparison={comparison}
          pair={pair}
          names={names}
          sure={sure}
        />
      ))}
      {measures.length === 0 ? <Quiet>Not measured on both sides.</Quiet> : null}
      {part === 'drain' ? <Energy pair={pair} names={names} /> : null}
    </Stack>
  );
}

function MeasureOfPair({
  measure,
  comparison,
  pair,
  names,
  sure,
}: Props & { measure: CompareMeasure; sure: boolean }): ReactNode {
  const { unit } = useVoice();
  const said = sayMeasureOf(measure, pair.comparison, names, unit);
  if (!said) return null;
  return (
    <Stack gap={2}>
      <Row gap={10} apart align="baseline">
        <FigureText size={22}>{said.first}</FigureText>
        <Quiet style={{ textAlign: 'center', flexShrink: 1 }}>{said.name}</Quiet>
        <FigureText size={22}>{said.second}</FigureText>
      </Row>
      <DifferenceBar
        {...drawn(measure, pair.comparison.measures[measure]!, comparison.margin)}
        says={`${said.name}: ${said.difference}, ${said.verdict}`}
      />
      <Row gap={10} apart wrap>
        <Body head>{said.verdict}</Body>
        <Quiet>{said.difference}</Quiet>
      </Row>
      {sure && said.spread ? <Quiet>{said.spread}</Quiet> : null}
    </Stack>
  );
}

/** The energy of both, where nobody knows exactly how long they were used. */
function Energy({ pair, names }: { pair: PairDetail; names: readonly [string, string] }): ReactNode {
  const { energy } = pair.comparison;
  if (!energy) return null;
  const more = (ratio: number): string => `${Math.round(ratio * 100)} %`;
  return (
    <Body small>
      {`Both were played equally long, so the unknown length does not matter: ${names[1]} used ${more(energy.ratio)} of the energy of ${names[0]} (${more(energy.range[0])} to ${more(energy.range[1])}; ${energy.second.toFixed(1)} and ${energy.first.toFixed(1)} Wh).`}
    </Body>
  );
}

/** What was not the same, which way it pushes, and what would settle it. */
function NotTheSame({ comparison, pair, names }: Props): ReactNode {
  const voice = useVoice();
  const { line, action } = usePalette();
  const { mismatches } = pair.comparison;
  const settle = whatWouldSettle(
    pair.comparison,
    [comparison.side[0]!.runs.length, comparison.side[1]!.runs.length],
    voice,
  );
  return (
    <Section title="Different conditions">
      {mismatches.length === 0 ? <Body>None recorded.</Body> : null}
      <Stack role="list" aria-label="Different conditions" gap={6}>
        {mismatches.map((mismatch) => (
          <Stack
            key={mismatch.kind}
            role="listitem"
            style={{ borderLeftWidth: 3, borderColor: mismatch.favours ? action : line, paddingLeft: 10 }}
          >
            <Body>{upper(sayMismatch(mismatch, voice.unit))}</Body>
            <Quiet>{sayDirection(mismatch, names)}</Quiet>
          </Stack>
        ))}
      </Stack>
      {settle.length > 0 ? (
        <>
          <Heading level={3}>How to get a clear answer</Heading>
          <Stack role="list" aria-label="How to get a clear answer" gap={2}>
            {settle.map((one) => (
              <Body key={one} role="listitem" small>
                {`– ${upper(one)}`}
              </Body>
            ))}
          </Stack>
        </>
      ) : null}
    </Section>
  );
}

const upper = (text: string): string => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`;

const CELL = { flex: 1, textAlign: 'right' } as const;

/** Both split tables, minute by minute. */
function SplitsBeside({ comparison, pair, names }: Props): ReactNode {
  const [first, second] = pair.splits;
  const { track } = usePalette();
  const starts = [...new Set([...first, ...second].map((split) => split.fromS))].sort((a, b) => a - b);
  if (starts.length === 0) return null;
  const at = (splits: typeof first, fromS: number): number | null =>
    splits.find((split) => split.fromS === fromS)?.average ?? null;
  return (
    <Section title="Splits side by side">
      <Stack role="table" aria-label="Splits side by side">
        <Row role="row" gap={8}>
          <Quiet role="columnheader" style={{ width: 52 }}>
            from
          </Quiet>
          {[...names, 'difference'].map((head) => (
            <Quiet key={head} role="columnheader" numberOfLines={1} style={CELL}>
              {head}
            </Quiet>
          ))}
        </Row>
        {starts.map((fromS, i) => {
          const [a, b] = [at(first, fromS), at(second, fromS)];
          return (
            <Row
              key={fromS}
              role="row"
              gap={8}
              style={{ paddingVertical: 4, backgroundColor: i % 2 === 1 ? `${track}66` : 'transparent' }}
            >
              <FigureText role="rowheader" style={{ width: 52 }}>
                {clock(fromS)}
              </FigureText>
              {[a, b].map((value, side) => (
                <FigureText key={side} role="cell" style={CELL}>
                  {fpsColumn(value)}
                </FigureText>
              ))}
              <FigureText role="cell" style={CELL}>
                {a === null || b === null ? NONE : signed(b - a)}
              </FigureText>
            </Row>
          );
        })}
      </Stack>
      <Quiet>{`Average fps${comparison.runs > 2 ? ', of the first run of each side' : ''}.`}</Quiet>
    </Section>
  );
}

const signed = (value: number): string =>
  `${value > 0.05 ? '+' : value < -0.05 ? '−' : '±'}${Math.abs(value).toFixed(1)}`;

/** The skin of both at the same spot and minute. */
function WarmthBeside({ pair, names }: Props): ReactNode {
  const voice = useVoice();
  const spots = pair.warmth.filter((spot) => spot.rows.length > 0);
  if (spots.length === 0) return null;
  const degrees = (c: number): string => voice.degrees(c).toFixed(1);
  return (
    <Section title="Warmth, same spot and minute">
      {spots.map((spot) => (
        <Stack key={spot.spot} role="table" aria-label={spot.spot}>
          <Row role="row" gap={8}>
            <Quiet role="columnheader" style={{ flex: 1.4 }}>
              {`${spot.spot}, °${voice.unit}`}
            </Quiet>
            {[...names, 'difference'].map((head) => (
              <Quiet key={head} role="columnheader" numberOfLines={1} style={CELL}>
                {head}
              </Quiet>
            ))}
          </Row>
          {spot.rows.map(({ atS, first, second }) => (
            <Row key={atS} role="row" gap={8} style={{ paddingVertical: 3 }}>
              <FigureText role="rowheader" style={{ flex: 1.4 }}>
                {clock(atS)}
              </FigureText>
              {[first!, second!].map(({ c, how }, side) => (
                <FigureText key={side} role="cell" style={CELL}>
                  {`${how === 'between' ? '~' : ''}${degrees(c)}`}
                </FigureText>
              ))}
              <FigureText role="cell" style={CELL}>
                {signed((second!.c - first!.c) * (voice.unit === 'F' ? 1.8 : 1))}
              </FigureText>
            </Row>
          ))}
          {spot.by[0] === spot.by[1] ? null : (
            <Quiet>{`${spot.by[0]} and ${spot.by[1]} were used: the values are not directly comparable.`}</Quiet>
          )}
        </Stack>
      ))}
      <Quiet>~ estimated between two readings.</Quiet>
    </Section>
  );
}
