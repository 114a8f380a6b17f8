import type { RunDetail } from '@pace-check/contract';
import {
  CAUTION_C,
  clock,
  headlineFacts,
  hoursSaid,
  questionOf,
  roomQuestion,
  sayHours,
  sayRead,
  sayReadShort,
  swingsBetween,
  writtenHull,
  middleOf,
  rateWithEnds,
  sitsAtCap,
  STOP_C,
  SUSTAINED_S,
  WARMTH_BANDS,
  warmthBand,
  type Cadence,
  type Ends,
  type Level,
  type SpotWarmth,
  sayCapAdvice,
  SWOLLEN_BATTERY,
} from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { count, fps, ms, percent } from '../../ui/figures';
import { useVoice } from '../../ui/Voice';
import { Row, Stack } from '../../ui/parts';
import { Body, FigureText, Quiet } from '../../ui/words';
import { Lows } from './Lows';
import { Beat, FrameTimes, PercentOverTime, SkinOverTime } from './Pictures';
import { MeasureBlock, type Measure, type Part } from './MeasureBlock';

/** The five measures, always in this order and by these names. */
export function Measures({ run }: { run: RunDetail }): ReactNode {
  const voice = useVoice();
  return (
    <>
      {[
        // no one pace stands for several titles: each has its own run
        ...(run.isSitting ? [] : [pace(run, voice), evenness(run), stamina(run)]),
        warmth(run, voice),
        drain(run),
      ].map((measure) => (
        <MeasureBlock key={measure.name} measure={measure} />
      ))}
    </>
  );
}

type Speaker = ReturnType<typeof useVoice>;

/** "60, for 97 % of the seconds: headroom unknown". */
function sayCap({ cap, capShare }: RunDetail['figures']): string {
  if (cap === null) return 'none seen';
  return sitsAtCap(capShare)
    ? `${cap}, for ${percent(capShare)} of the time; unknown above the cap`
    : `${cap}, below it for ${percent(1 - (capShare ?? 0))} of the time`;
}

const READ_DEFINITION =
  'A manual reading is shown as entered and compared as a range: a counter value is uncertain by half its last digit, an estimate by eye by 20 % (at least 5 fps); a range stays as entered. Counter values and estimates are not mixed. Median, near median and 1 % low come from the summary screen.';

/** Pace as it was read: every value with its ends. */
function readPace(
  { pace: figure, read, emulation, scenes, rates: all, refreshHz }: RunDetail['figures'],
  native: number | null,
): Measure {
  const doubtful = all.flatMap(
    ({ fps: shown, by }) =>
      (shown === null
        ? null
        : questionOf({ type: 'rate', fps: shown, by }, { unit: 'C', panelHz: refreshHz })) ?? [],
  );
  const shares = (ends: Ends | null, name: string): Part[] =>
    ends === null ? [] : [{ name, value: `${percent(middleOf(ends))}` }];
  const rates = (ends: Ends | null, name: string): Part[] =>
    ends === null ? [] : [{ name, value: `${rateWithEnds(middleOf(ends), ends)} fps` }];
  const said = read?.said ?? null;
  const from = figure.source === 'eye' ? 'by eye' : 'from a counter';
  return {
    name: 'Pace',
    figure: said ? sayReadShort(said, true) : '–',
    unit: said ? `${writtenHull([said])?.unit ?? 'fps'}, ${from}` : from,
    parts: [
      ...(said?.timed ? [{ name: 'as entered', value: sayRead(said) }] : []),
      ...(read?.beside
        ? [
            {
              name: read.beside.by === 'eye' ? 'by eye, beside it' : 'by a counter, beside it',
              value: sayRead(read.beside.said),
            },
          ]
        : []),
      ...(doubtful.length > 0 ? [{ name: 'doubtful', value: [...new Set(doubtful)].join(' ') }] : []),
      ...(read?.feel ? [{ name: 'how it plays, by the player', value: read.feel }] : []),
      ...rates(read?.median ?? null, 'median'),
      ...shares(read?.hold ?? null, 'near median'),
      ...rates(read?.onePercentLow ?? null, '1 % low'),
      ...rates(read?.lowest ?? null, 'lowest'),
      ...rates(read?.highest ?? null, 'highest'),
      ...(emulation && read?.speed
        ? [
            {
              name: native === null ? 'speed' : `speed (native ${fps(native)})`,
              value: FULL_SPEED[String(emulation.fullSpeed)]!,
            },
          ]
        : []),
      ...(read?.smooth ? [{ name: 'stutter', value: read.smooth }] : []),
      ...(scenes.length > 1 ? [{ name: 'scenes', value: String(scenes.length) }] : []),
    ],
    definition: READ_DEFINITION,
  };
}
const FULL_SPEED: Record<string, string> = {
  true: 'full speed',
  false: 'below full speed',
  null: 'full speed or not: unclear',
};

function pace({ figures, native }: RunDetail, { school }: Speaker): Measure {
  const medianLeads = school === 'median-and-hold';
  const { pace: figure, lows, capAdvice, refreshHz, emulation } = figures;
  const advice = sayCapAdvice(figures);
  if (figure.source === 'read' || figure.source === 'eye') return readPace(figures, native);
  const between = swingsBetween(headlineFacts(figures));
  return {
    name: 'Pace',
    figure: between
      ? `${fps(between[0])} ↔ ${fps(between[1])}`
      : fps(medianLeads ? figure.median : figure.average),
    unit: between
      ? 'fps, it swings between these: hardly a second is near the average'
      : medianLeads
        ? 'fps, median'
        : 'fps, average',
    parts: [
      ...(between ? [{ name: 'average, frames by time', value: `${fps(figure.average)} fps` }] : []),
      medianLeads && !between
        ? { name: 'average', value: `${fps(figure.average)} fps` }
        : { name: 'median', value: `${fps(figure.median)} fps` },
      { name: 'near median', value: percent(figure.hold) },
      {
        name: 'slow seconds (below half the median)',
        value: figure.slow === null ? '–' : String(figure.slow),
      },
      { name: 'frame cap', value: sayCap(figures) },
      ...(capAdvice === null
        ? []
        : [{ name: `highest cap it would hold at ${refreshHz} Hz`, value: String(capAdvice) }]),
      ...(emulation
        ? [
            {
              name: `speed (native ${fps(native)})`,
              value: `${percent(emulation.speed)}${`, ${FULL_SPEED[String(emulation.fullSpeed)]}`}`,
            },
          ]
        : []),
    ],
    picture: <FrameTimes figures={figures} />,
    below: (
      <>
        <Lows onePercent={lows.onePercent} tenthPercent={lows.tenthPercent} />
        {advice === null ? null : <Quiet>{advice}</Quiet>}
        <HeldCaps figures={figures} />
      </>
    ),
    definition:
      'Average: frames divided by their total time. Median: the middle of the per-second values. Near median: share of seconds within 20 % of the median. Slow: seconds below half the median. Frame cap: the rate at which the fastest tenth of the seconds levels off. 1 % low: 99 % of frames are at least this fast (percentile). “Mean of the worst”: pace of the slowest 1 % of frames, averaged. “Share of time”: pace reached when the longest frames add up to 1 % of the run. The 0.1 % lows work the same way.',
  };
}

/** What each usual cap would have held in this run. */
function HeldCaps({
  figures: { heldCaps, cap, capShare, refreshHz, stamina },
}: Pick<RunDetail, 'figures'>): ReactNode {
  const [open, setOpen] = useState(false);
  if (heldCaps.length === 0) return null;
  const capped = cap !== null && sitsAtCap(capShare);
  return (
    <Stack gap={4}>
      <Row>
        <Button
          type="clear"
          title={open ? 'Hide the caps' : 'Show the share held at each cap'}
          aria-expanded={open}
          onPress={() => setOpen(!open)}
        />
      </Row>
      {open ? (
        <>
          <Stack role="list" aria-label="Share held at each cap">
            {heldCaps.map((one) => (
              <Row key={one.cap} role="listitem" apart gap={10} align="baseline" style={{ maxWidth: 420 }}>
                <FigureText size={17} style={{ flexShrink: 0 }}>{`${one.cap} fps`}</FigureText>
                <Quiet style={{ flexShrink: 1, textAlign: 'right' }}>
                  {[
                    `${percent(one.held)} of ${stamina.closing === null ? 'the run' : 'the last five minutes'}`,
                    one.even === null ? null : one.even ? 'even' : `alternates on ${refreshHz} Hz`,
                  ]
                    .filter(Boolean)
                    .join(', ')}
                </Quiet>
              </Row>
            ))}
          </Stack>
          {capped ? (
            <Quiet>{`The run was capped at ${cap}: nothing is known about higher rates.`}</Quiet>
          ) : null}
        </>
      ) : null}
    </Stack>
  );
}

const CADENCE_WORDS: Record<NonNullable<Cadence['kind']>, string> = {
  even: 'even',
  alternating: 'alternating',
  mixed: 'mixed',
  variable: 'variable',
};

function evenness({ figures }: RunDetail): Measure {
  const { evenness: figure, breaks, cadence, refreshHz } = figures;
  if (figure.stutters === null)
    return {
      name: 'Evenness',
      figure: '–',
      unit: 'no frame log',
      parts: [],
      definition: 'Evenness needs a frame log.',
    };
  const all = figure.stutters + (figure.stalls ?? 0) + (figure.freezes ?? 0);
  const longest = Math.max(0, ...breaks.map((found) => found.lengthUs)) / 1e6;
  return {
    name: 'Evenness',
    figure: String(all),
    unit:
      all === 1
        ? `break of ${longest.toFixed(2)} s`
        : all === 0
          ? 'breaks'
          : `breaks, longest ${longest.toFixed(2)} s`,
    parts: [
      { name: 'stutters', value: String(figure.stutters) },
      { name: 'stalls', value: String(figure.stalls) },
      { name: 'freezes', value: String(figure.freezes) },
      { name: 'time lost to breaks', value: `${((figure.lostMs ?? 0) / 1000).toFixed(1)} s` },
      { name: 'standard deviation of frame times', value: ms(figure.sdMs) },
      { name: 'mean change from frame to frame', value: ms(figure.successiveMs) },
      ...(figure.late === null ? [] : [{ name: 'late frames', value: percent(figure.late) }]),
      {
        name: refreshHz === null ? 'cadence' : `cadence at ${refreshHz} Hz`,
        value: cadence.kind === null ? 'refresh rate unknown' : CADENCE_WORDS[cadence.kind],
      },
    ],
    picture: <Beat cadence={cadence} />,
    definition:
      'A break is a frame of at least 40 ms that took at least 2.5 times the median of the frames around it. Stutter: below 250 ms. Stall: below 1 s. Freeze: longer. Late frames: longer than 1.5 target frames. Cadence: even if nearly all frames stay for the same number of refreshes, alternating between two neighbouring numbers, mixed if neither, variable if frames do not follow the panel.',
  };
}

function stamina({ figures, target }: RunDetail): Measure {
  const { stamina: figure } = figures;
  const definition =
    'Opening: mean pace of the first two usable minutes, from second 30. Closing: mean of the last five minutes. Retention is closing divided by opening: holds from 95 %, eases from 85 %, fades from 65 %, buckles below. It needs a run of at least 15 minutes. Throttling starts at the first lasting step below 95 % of the opening. On target: share of seconds at 95 % of the target or more. Freezes are excluded, except for “on target”.';
  if (figures.pace.source === 'read' || figures.pace.source === 'eye')
    return readStamina(figures, definition);
  const sustained = figure.retention !== null;
  return {
    name: 'Stamina',
    figure: sustained ? percent(figure.retention) : (figure.word ?? '–'),
    unit: sustained
      ? `of the opening pace: ${figure.word}`
      : figure.word === 'DNF'
        ? 'did not finish'
        : figure.word === 'DNS'
          ? 'did not start'
          : figures.pace.source === 'frames'
            ? 'too short: needs at least 15 minutes'
            : 'no frame log',
    parts: [
      { name: 'opening', value: `${fps(figure.opening)} fps` },
      { name: 'closing', value: figure.closing === null ? '–' : `${fps(figure.closing)} fps` },
      {
        name: 'throttling starts at',
        value:
          figure.onsetS === null
            ? 'none found'
            : `${clock(figure.onsetS)}${figure.sawtooth ? ', rising and falling' : ''}`,
      },
      ...(target === null ? [] : [{ name: `on target (${fps(target)})`, value: percent(figure.onTarget) }]),
    ],
    definition,
  };
}

/** "79 to 88 %", "48 % or more". */
const left = ({ low, high }: Ends): string =>
  high === null ? `${percent(low)} or more` : `${percent(low).replace(/\s*%$/, '')} to ${percent(high)}`;

/** What is left of the opening, by the rates that have a time. */
function readStamina({ stamina: figure, read, frames }: RunDetail['figures'], definition: string): Measure {
  const ends = read?.retention ?? null;
  const why =
    frames.seconds === 0
      ? 'run length unknown'
      : frames.seconds < SUSTAINED_S
        ? 'too short: needs at least 15 minutes'
        : 'needs readings in the first and in the last five minutes';
  return {
    name: 'Stamina',
    figure: ends === null ? (figure.word ?? '–') : left(ends),
    unit:
      ends === null
        ? figure.word === 'DNF'
          ? 'did not finish'
          : figure.word === 'DNS'
            ? 'did not start'
            : why
        : `of the opening pace: ${figure.word ?? 'verdict unclear'}${read?.fromS === null || read?.fromS === undefined ? '' : `, from ${clock(read.fromS)} on; no readings before`}`,
    parts: [],
    definition: `${definition} For manual readings: readings of the first five minutes (or the nearest to them) are compared with those of the last five, each with its range. One verdict is shown if the range lies within its band, two if it touches two neighbours, “falls” if it may be any of several but does not hold.`,
  };
}

function warmth(run: RunDetail, { temperature, unit }: Speaker): Measure {
  const { figures, roomC } = run;
  const { warmth: figure, doubtful } = figures;
  const hottest = figure.spots.find((spot) => spot.spot === figure.hottest);
  if (!hottest)
    return {
      name: 'Warmth',
      figure: '–',
      unit: 'no skin temperature readings',
      parts: [],
      definition: 'This run has no skin temperature readings.',
    };
  const peak = hottest.readings.find((reading) => reading.c === hottest.peakC)!;
  const oddRoom = roomC === null ? null : roomQuestion(roomC, unit);
  return {
    name: 'Warmth',
    figure: temperature(hottest.peakC),
    unit: `${WARMTH_BANDS[warmthBand(hottest.peakC)]!.word}; ${hottest.by}, ${hottest.spot}, ${peak.peak ? 'time unknown' : `at ${clock(peak.atMs / 1000)}`}`,
    parts: [
      {
        name: 'above room temperature',
        value:
          roomC === null
            ? 'room unknown'
            : oddRoom !== null
              ? `doubtful. ${oddRoom}`
              : `${((hottest.peakC - roomC) * (unit === 'F' ? 1.8 : 1)).toFixed(1)} °${unit}`,
      },
      ...(oddRoom !== null
        ? []
        : [{ name: `in a room at ${temperature(25)}`, value: temperature(figure.normalisedPeakC) }]),
      ...figure.spots.map((spot) => ({ name: spot.spot, value: temperature(spot.peakC) })),
      ...figure.spots
        .filter((spot) => spot.fit?.forecast)
        .map((spot) => ({
          name: `levels off, ${spot.spot}${spot.fit!.levels.length > 1 ? ' (last state)' : ''}`,
          value: `${temperature(spot.fit!.finalC)} ± ${(spot.fit!.finalHalfC * (unit === 'F' ? 1.8 : 1)).toFixed(1)}`,
        })),
    ],
    picture: <SkinOverTime run={run} />,
    below: (
      <>
        {figure.spots.flatMap(({ spot, fit }) =>
          (fit?.levels ?? []).slice(1).map((level) => (
            <Body key={`${spot} ${level.fromS}`} small>
              {saySwitch(spot, level, unit)}
            </Body>
          )),
        )}
        {touch(hottest, temperature)}
        {doubtful.skin.length > 0 ? (
          <Body
            small
          >{`Doubtful, not counted: ${doubtful.skin.map((reading) => `${temperature(reading.c)} at ${reading.spot}, ${clock(reading.atMs / 1000)}`).join('; ')}.`}</Body>
        ) : null}
      </>
    ),
    definition: `The hottest reading of the run and of each spot. Where a spot was measured with several instruments, the one with the most readings counts. ${WARMTH_BANDS.slice(
      1,
    )
      .map((band, i) => `${WARMTH_BANDS[i]!.word} is below ${temperature(band.fromC)}`)
      .join(
        ', ',
      )}; from there on it is ${WARMTH_BANDS.at(-1)!.word}. “Levels off at” is a curve fitted to the readings of a spot, with its 95 % interval; it is shown only if there are enough readings.`,
  };
}

/** What a switch did: "from 11:00 (throttled): back settles 5.0 °C lower (3.9 to 6.1)". */
function saySwitch(spot: string, { fromS, state, change }: Level, unit: 'C' | 'F'): string {
  const by = unit === 'F' ? 1.8 : 1;
  const from = `From ${clock(fromS)}${state ? ` (${state})` : ''}`;
  if (!change || change.low * change.high <= 0) return `${from}: no clear difference at ${spot}.`;
  const [least, most] = [Math.abs(change.low) * by, Math.abs(change.high) * by].sort((a, b) => a - b);
  return `${from}: ${spot} levels off ${(Math.abs(change.c) * by).toFixed(1)} °${unit} ${change.c < 0 ? 'lower' : 'higher'} (${least!.toFixed(1)} to ${most!.toFixed(1)}).`;
}

/** What the peak means for hands, once and plainly. */
function touch({ peakC }: SpotWarmth, temperature: Speaker['temperature']): ReactNode {
  if (peakC < CAUTION_C) return null;
  const stop = peakC >= STOP_C;
  return (
    <Body role="note" small>
      {stop
        ? `Put the device down. A surface at ${temperature(STOP_C)} can burn skin within ten minutes. Let it cool in the open. ${SWOLLEN_BATTERY}`
        : `Hold the device only briefly. Surfaces at ${temperature(CAUTION_C)} or more can burn skin over hours, hotter ones sooner. Follow the maker’s instructions first.`}
    </Body>
  );
}

/** Charging while playing, once and plainly. */
function ChargingCaution(): ReactNode {
  return (
    <Body role="note" small>
      {`The device was charged during play, which warms it further. Charge it after it has cooled, with the maker’s charger. ${SWOLLEN_BATTERY}`}
    </Body>
  );
}

function drain({ figures, batteryWh }: RunDetail): Measure {
  const { drain: figure, battery } = figures;
  const definition =
    'Percent per hour: slope through the first reading at each percent, without charging, with its 95 % interval (or the range that whole percents allow). Hours from full: 100 divided by that. Watts: from power samples, or else from the slope and the battery capacity. Compare two devices in watts and hours, not in percent.';
  const first = battery[0];
  const last = battery.at(-1);
  const readings =
    first && last && first !== last
      ? [{ name: count(battery.length, 'reading'), value: `${first.percent} to ${last.percent} %` }]
      : [];
  if (!figure)
    return {
      name: 'Drain',
      figure: '–',
      unit: battery.length > 0 ? 'too few battery readings' : 'no battery readings',
      parts: readings,
      definition,
    };
  const hours = hoursSaid(figure);
  // watts of a percent or two are none that anybody saw
  const drawn = figure.from === 'power' || hours !== null ? figure.watts : null;
  return {
    name: 'Drain',
    figure: hours !== null ? sayHours(hours) : drawn === null ? '–' : `${drawn.toFixed(1)} W`,
    unit:
      hours !== null
        ? 'from a full battery'
        : drawn === null
          ? 'too few new percents to tell how fast'
          : 'power',
    parts: [
      {
        name: 'percent per hour',
        value:
          figure.percentPerHour === null
            ? '–'
            : figure.range
              ? `${figure.percentPerHour.toFixed(1)} (${figure.range[0].toFixed(1)} to ${figure.range[1].toFixed(1)})`
              : figure.percentPerHour.toFixed(1),
      },
      {
        name: figure.from === 'power' ? 'power, measured' : 'power, from battery percent',
        value:
          figure.watts === null
            ? batteryWh === null
              ? 'battery capacity unknown'
              : '–'
            : figure.watts.toFixed(1),
      },
      {
        name: 'energy per frame',
        value: figure.joulesPerFrame === null ? '–' : `${(figure.joulesPerFrame * 1000).toFixed(0)} mJ`,
      },
      ...readings,
    ],
    picture: <PercentOverTime figures={figures} />,
    below: battery.some((reading) => reading.charging) ? <ChargingCaution /> : null,
    definition,
  };
}
