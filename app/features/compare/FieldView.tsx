import type { ComparisonDetail, FieldRow } from '@pace-check/contract';
import {
  fieldAnswer,
  MEASURE_WORDS,
  onOneScale,
  RUN_MEASURES,
  sayDifference,
  sayMeasure,
  type FieldPlace,
  type RunMeasure,
} from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { DifferenceBar } from '../../charts/DifferenceBar';
import { Lane } from '../../charts/Lane';
import { usePalette, useWide } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Select } from '../../ui/Select';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { drawn } from './differences';

/** Several devices on one title: in order, each held against the best. */
export function FieldView({ comparison, row }: { comparison: ComparisonDetail; row: FieldRow }): ReactNode {
  const voice = useVoice();
  const lead = voice.school === 'median-and-hold' ? 'median' : 'average';
  const [measure, setMeasure] = useState<RunMeasure>(lead);
  const names = comparison.side.map((side) => side.name);
  const found = row.measures[measure];
  const scaled = onOneScale(
    comparison.side.flatMap((side, i) => side.runs[row.cells[i]!.runs[0] ?? -1] ?? []),
  );
  const laneOf = new Map(scaled.map((run) => [run.id, run.lane]));
  const lanes = scaled.map((run) => run.lane);
  const scaleS = lanes.reduce((longest, lane) => Math.max(longest, lane.seconds), 60);
  const without = names.filter((_, side) => found.places[side] === null);
  return (
    <Section
      title={[row.title, row.setup].filter(Boolean).join(', ')}
      aside={<MeasurePicker measure={measure} onChange={setMeasure} />}
    >
      {/* of what leads, the first line of the page has said it */}
      {measure === lead ? null : <Body>{fieldAnswer(measure, found, names, voice.unit)}</Body>}
      <Stack role="list" aria-label={`Sorted by ${MEASURE_WORDS[measure]}`} gap={14}>
        {found.order.map((side, place) => (
          <Stack key={names[side]} role="listitem">
            <PlaceInField
              name={names[side]!}
              best={names[found.order[0]!]!}
              number={place + 1}
              place={found.places[side]!}
              measure={measure}
              margin={comparison.margin}
              word={row.cells[side]!.word}
              lane={laneOf.get(comparison.side[side]!.runs[row.cells[side]!.runs[0] ?? -1]?.id ?? '') ?? null}
              scaleS={scaleS}
            />
          </Stack>
        ))}
      </Stack>
      {without.length > 0 ? <Quiet>{`Not measured: ${without.join(', ')}.`}</Quiet> : null}
    </Section>
  );
}

/** Which measure is shown. */
export function MeasurePicker({
  measure,
  onChange,
}: {
  measure: RunMeasure;
  onChange: (measure: RunMeasure) => void;
}): ReactNode {
  return (
    <Select
      label="Measure"
      value={measure}
      options={RUN_MEASURES.map((value) => ({ value, text: MEASURE_WORDS[value] }))}
      onChange={(value) => value && onChange(value)}
    />
  );
}

function PlaceInField({
  name,
  best,
  number,
  place,
  measure,
  margin,
  word,
  lane,
  scaleS,
}: {
  name: string;
  best: string;
  number: number;
  place: FieldPlace;
  measure: RunMeasure;
  margin: number;
  word: string | null;
  lane: Parameters<typeof Lane>[0]['lane'] | null;
  scaleS: number;
}): ReactNode {
  const { unit } = useVoice();
  const { line } = usePalette();
  const wide = useWide();
  const { against } = place;
  const verdict =
    against === null
      ? 'best of these'
      : place.otherWork.length > 0
        ? `test conditions differ: ${place.otherWork.join(', ')}`
        : against.verdict === 'first better'
          ? `clearly behind${against.small ? ', too small to notice' : ''}`
          : against.verdict;
  const head = (
    <Row gap={10} apart align="baseline">
      <Row gap={8} align="baseline" style={{ flexShrink: 1 }}>
        <Quiet>{`${number}`}</Quiet>
        <Heading level={3} style={{ flexShrink: 1 }}>
          {name}
        </Heading>
        <Quiet>{[word, place.runs > 1 ? `${place.runs} runs` : null].filter(Boolean).join(' · ')}</Quiet>
      </Row>
      <FigureText size={24}>{sayMeasure(measure, place.value, unit)}</FigureText>
    </Row>
  );
  const difference = (
    <Stack gap={2} flex={wide ? 1 : undefined}>
      {against ? (
        <DifferenceBar
          {...drawn(measure, against, margin)}
          says={`${name} compared with ${best}: ${sayDifference(measure, against, unit)}, ${verdict}`}
        />
      ) : null}
      <Row gap={8} apart wrap>
        <Body small>{verdict}</Body>
        {against ? <Quiet>{`${sayDifference(measure, against, unit)} compared with ${best}`}</Quiet> : null}
      </Row>
    </Stack>
  );
  return (
    <Stack
      gap={4}
      style={{ borderTopWidth: number > 1 ? 1 : 0, borderColor: line, paddingTop: number > 1 ? 10 : 0 }}
    >
      {head}
      {wide ? (
        <Row gap={20} align="center">
          <Stack flex={1}>{lane ? <Lane lane={lane} scaleS={scaleS} height={46} /> : null}</Stack>
          {difference}
        </Row>
      ) : (
        <>
          {lane ? <Lane lane={lane} scaleS={scaleS} height={42} /> : null}
          {difference}
        </>
      )}
    </Stack>
  );
}
