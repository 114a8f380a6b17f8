import type { RunDetail } from '@pace-check/contract';
import { clock, type Low, type SpotSeries } from '@pace-check/core';
import Feather from '@expo/vector-icons/Feather';
import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { celsius, count, fps, fpsColumn, ms, percent } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { TARGET, WARMTH_BANDS, warmthBand } from '../../ui/theme';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';

/** A figure beside the name of its definition. */
interface Part {
  name: string;
  value: string;
}

interface Measure {
  name: string;
  /** The figure that leads, and what it is. */
  figure: string;
  unit: string;
  parts: Part[];
  /** What is better told as a table. */
  below?: ReactNode;
  /** How each figure is defined. */
  definition: string;
}

/** The five measures, always in this order and by these names. */
export function Measures({ run }: { run: RunDetail }): ReactNode {
  return (
    <>
      {[pace(run), evenness(run), STAMINA, warmth(run.figures.spots), drain(run)].map((measure) => (
        <MeasureBlock key={measure.name} measure={measure} />
      ))}
    </>
  );
}

function MeasureBlock({ measure }: { measure: Measure }): ReactNode {
  const { line, quiet } = usePalette();
  const [open, setOpen] = useState(false);
  return (
    <View style={{ borderTopWidth: 1, borderColor: line, paddingTop: 4 }}>
      <Pressable role="button" aria-expanded={open} aria-label={`${measure.name}: how it is defined`} onPress={() => setOpen(!open)} style={{ flexDirection: 'row', alignItems: 'center', gap: 10, minHeight: TARGET }}>
        <Heading style={{ width: 96 }}>{measure.name}</Heading>
        <FigureText size={28}>{measure.figure}</FigureText>
        <Quiet style={{ flex: 1 }}>{measure.unit}</Quiet>
        <Feather name={open ? 'chevron-up' : 'help-circle'} size={18} color={quiet} />
      </Pressable>
      {open ? <Body style={{ fontSize: 15, lineHeight: 21, marginBottom: 8 }}>{measure.definition}</Body> : null}
      {measure.parts.length > 0 ? (
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 28, rowGap: 3, paddingBottom: 4 }}>
          {measure.parts.map((part) => (
            <View key={part.name} style={{ flexDirection: 'row', alignItems: 'baseline', justifyContent: 'space-between', gap: 6, flexBasis: '40%', flexGrow: 1 }}>
              <Quiet>{part.name}</Quiet>
              <FigureText size={17}>{part.value}</FigureText>
            </View>
          ))}
          {measure.parts.length % 2 === 1 ? <View style={{ flexBasis: '40%', flexGrow: 1 }} /> : null}
        </View>
      ) : null}
      {measure.below}
    </View>
  );
}

function pace({ figures, target }: RunDetail): Measure {
  const { pace: figure, lows } = figures;
  if (figure.source === 'read' || figure.source === 'eye') {
    return { name: 'Pace', figure: fps(figure.average), unit: figure.source === 'eye' ? 'fps, estimated by eye' : 'fps, read off a counter', parts: [], definition: 'Mean of the rates that were read off; no frames were logged, so there is no median, hold or low.' };
  }
  return {
    name: 'Pace',
    figure: fps(figure.average),
    unit: 'fps, average',
    parts: [
      { name: 'median', value: `${fps(figure.median)} fps` },
      { name: 'hold', value: percent(figure.hold) },
      { name: 'slow seconds', value: figure.slow === null ? '–' : String(figure.slow) },
      ...(target === null ? [] : [{ name: `on target (${fps(target)})`, value: percent(figure.onTarget) }]),
    ],
    below: <Lows onePercent={lows.onePercent} tenthPercent={lows.tenthPercent} />,
    definition:
      'Average: frames divided by the time they took. Median: the middle one of the per-second paces. Hold: share of seconds within a fifth of the median. Slow: seconds below half the median. On target: share of seconds at 95 % of the target or more. 1 % low: the pace that 99 % of the frame times reach (quantile). “Worst mean” is the pace of the mean of the longest 1 % of frames; “time share” the pace at which the longest frames have filled 1 % of the time. The 0.1 % lows likewise.',
  };
}

const LOW_DEFINITIONS: { key: keyof Low; name: string }[] = [
  { key: 'quantile', name: 'quantile' },
  { key: 'worstMean', name: 'worst mean' },
  { key: 'timeShare', name: 'time share' },
];

/** The lows, a row each, in the three definitions that are in use; the first leads. */
function Lows(lows: { onePercent: Low; tenthPercent: Low }): ReactNode {
  const rows = [
    { name: '1 % low', low: lows.onePercent },
    { name: '0.1 % low', low: lows.tenthPercent },
  ];
  return (
    <View role="table" aria-label="Lows by definition" style={{ gap: 2, paddingTop: 4, paddingBottom: 6 }}>
      <View role="row" style={{ flexDirection: 'row' }}>
        <Quiet role="columnheader" style={{ flex: 1 }}>
          lows, fps
        </Quiet>
        {LOW_DEFINITIONS.map((definition) => (
          <Quiet key={definition.key} role="columnheader" style={{ flex: 1, textAlign: 'right' }}>
            {definition.name}
          </Quiet>
        ))}
      </View>
      {rows.map(({ name, low }) => (
        <View key={name} role="row" aria-label={name} style={{ flexDirection: 'row', alignItems: 'baseline' }}>
          <Quiet role="rowheader" style={{ flex: 1 }}>
            {name}
          </Quiet>
          {low.quantile === null ? (
            <Quiet style={{ flex: 3, textAlign: 'right' }}>too few frames</Quiet>
          ) : (
            LOW_DEFINITIONS.map((definition) => (
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

function evenness({ figures }: RunDetail): Measure {
  const { evenness: figure, breaks } = figures;
  if (figure.stutters === null) return { name: 'Evenness', figure: '–', unit: 'no frames were logged', parts: [], definition: 'It takes logged frames to say how evenly they came.' };
  const longest = Math.max(0, ...breaks.map((found) => found.lengthUs)) / 1e6;
  return {
    name: 'Evenness',
    figure: String(breaks.length),
    unit: breaks.length === 1 ? `break, of ${longest.toFixed(2)} s` : breaks.length === 0 ? 'breaks' : `breaks, the longest ${longest.toFixed(2)} s`,
    parts: [
      { name: 'stutters', value: String(figure.stutters) },
      { name: 'stalls', value: String(figure.stalls) },
      { name: 'freezes', value: String(figure.freezes) },
      { name: 'time lost', value: `${((figure.lostMs ?? 0) / 1000).toFixed(1)} s` },
      { name: 'deviation', value: ms(figure.sdMs) },
      { name: 'frame to frame', value: ms(figure.successiveMs) },
      ...(figure.late === null ? [] : [{ name: 'late', value: percent(figure.late) }]),
    ],
    definition:
      'A break is a frame of 40 ms or more that took at least two and a half times the median of the frames around it; a stutter is shorter than 250 ms, a stall than 1 s, a freeze is longer. Deviation: standard deviation of the frame times. Frame to frame: mean difference between neighbours. Late: share of frames longer than one and a half target frames.',
  };
}

const STAMINA: Measure = { name: 'Stamina', figure: '–', unit: 'not yet', parts: [], definition: 'What is left of the opening pace at the end. This version does not compute it yet; the splits show it row by row.' };

function warmth(spots: SpotSeries[]): Measure {
  const readings = spots.flatMap((series) => series.readings);
  if (readings.length === 0) return { name: 'Warmth', figure: '–', unit: 'no skin readings', parts: [], definition: 'Skin temperature by spot and instrument. This run has no readings.' };
  const peak = readings.reduce((hottest, reading) => (reading.c > hottest.c ? reading : hottest));
  return {
    name: 'Warmth',
    figure: celsius(peak.c),
    unit: `${WARMTH_BANDS[warmthBand(peak.c)]!.word}; ${peak.by}, ${peak.spot}, at ${clock(peak.atMs / 1000)}`,
    parts: spots.map((series) => ({ name: series.spot, value: celsius(Math.max(...series.readings.map((reading) => reading.c))) })),
    definition: 'The hottest reading, and the hottest of each spot. Cool is below 36 °C, mild below 40, warm below 43, hot below 48; from there on it is too hot to hold. How it would go on (warm-up fit): not yet.',
  };
}

function drain({ figures }: RunDetail): Measure {
  const first = figures.battery[0];
  const last = figures.battery.at(-1);
  return {
    name: 'Drain',
    figure: '–',
    unit: 'not yet',
    parts: first && last && first !== last ? [{ name: count(figures.battery.length, 'reading'), value: `${first.percent} to ${last.percent} %` }] : [],
    definition: 'Percent per hour, hours from full and watts. This version does not compute them yet; the splits show percent and watts where they were read.',
  };
}
