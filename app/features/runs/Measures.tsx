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
    ? `${cap}, for ${percent(capShare)} of the time; headroom unknown`
    : `${cap}, left for ${percent(1 - (capShare ?? 0))} of the time`;
}

const READ_DEFINITION =
  'What was read off is told as it was written, and compared as an interval: a value of a counter is half a unit of its last digit wide on both sides, one by eye a fifth (at least 5), a range as it stands. Counters and the eye are not mixed. Median, hold and 1 % low are those of the end page.';

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
  const from = figure.source === 'eye' ? 'by eye' : 'read off';
  return {
    name: 'Pace',
    figure: said ? sayReadShort(said, true) : '–',
    unit: said ? `${writtenHull([said])?.unit ?? 'fps'}, ${from}` : from,
    parts: [
      ...(said?.timed ? [{ name: 'as read', value: sayRead(said) }] : []),
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
      ...shares(read?.hold ?? null, 'hold'),
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
      ...(read?.smooth ? [{ name: 'stumbles', value: read.smooth }] : []),
      ...(scenes.length > 1 ? [{ name: 'scenes', value: String(scenes.length) }] : []),
    ],
    definition: READ_DEFINITION,
  };
}
const FULL_SPEED: Record<string, string> = {
  true: 'full speed',
  false: 'not full speed',
  null: 'full speed is not settled',
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
      { name: 'hold', value: percent(figure.hold) },
      { name: 'slow seconds', value: figure.slow === null ? '–' : String(figure.slow) },
      { name: 'frame cap', value: sayCap(figures) },
      ...(capAdvice === null
        ? []
        : [{ name: `cap that would hold at ${refreshHz} Hz`, value: String(capAdvice) }]),
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
      'Average: frames divided by the time they took. Median: the middle one of the per-second paces. Hold: share of seconds within a fifth of the median. Slow: seconds below half the median. Frame cap: the usual rate that the fastest tenth of the seconds sits at. 1 % low: the pace that 99 % of the frame times reach (quantile). “Worst mean” is the pace of the mean of the longest 1 % of frames; “time share” the pace at which the longest frames have filled 1 % of the time. The 0.1 % lows likewise.',
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
          title={open ? 'Hide the caps' : 'What each cap would hold'}
          aria-expanded={open}
          onPress={() => setOpen(!open)}
        />
      </Row>
      {open ? (
        <>
          <Stack role="list" aria-label="What each cap would hold">
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
          {capped ? <Quiet>{`The run was capped at ${cap}: what is above is not known.`}</Quiet> : null}
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
      unit: 'no frames were logged',
      parts: [],
      definition: 'It takes logged frames to say how evenly they came.',
    };
  const all = figure.stutters + (figure.stalls ?? 0) + (figure.freezes ?? 0);
  const longest = Math.max(0, ...breaks.map((found) => found.lengthUs)) / 1e6;
  return {
    name: 'Evenness',
    figure: String(all),
    unit:
      all === 1
        ? `break, of ${longest.toFixed(2)} s`
        : all === 0
          ? 'breaks'
          : `breaks, the longest ${longest.toFixed(2)} s`,
    parts: [
      { name: 'stutters', value: String(figure.stutters) },
      { name: 'stalls', value: String(figure.stalls) },
      { name: 'freezes', value: String(figure.freezes) },
      { name: 'time lost', value: `${((figure.lostMs ?? 0) / 1000).toFixed(1)} s` },
      { name: 'deviation', value: ms(figure.sdMs) },
      { name: 'frame to frame', value: ms(figure.successiveMs) },
      ...(figure.late === null ? [] : [{ name: 'late', value: percent(figure.late) }]),
      {
        name: refreshHz === null ? 'cadence' : `cadence at ${refreshHz} Hz`,
        value: cadence.kind === null ? 'panel unknown' : CADENCE_WORDS[cadence.kind],
      },
    ],
    picture: <Beat cadence={cadence} />,
    definition:
      'A break is a frame of 40 ms or more that took at least two and a half times the median of the frames around it; a stutter is shorter than 250 ms, a stall than 1 s, a freeze is longer. Deviation: standard deviation of the frame times. Frame to frame: mean difference between neighbours. Late: share of frames longer than one and a half target frames. Cadence: even where nearly all frames stand for the same number of refreshes, alternating where they change between two neighbouring numbers, mixed otherwise; variable where they do not follow the panel.',
  };
}

function stamina({ figures, target }: RunDetail): Measure {
  const { stamina: figure } = figures;
  const definition =
    'Opening: mean pace of the first two usable minutes from second 30 on. Closing: mean of the last five minutes. Retention: closing over opening; holds from 95 %, eases from 85 %, fades from 65 %, buckles below. Sustained figures need a quarter of an hour. Onset: start of the first lasting step below 95 % of the opening. On target: share of seconds at 95 % of the target or more. Seconds of a freeze are left out, save for on target.';
  if (figures.pace.source === 'read' || figures.pace.source === 'eye')
    return readStamina(figures, definition);
  const sustained = figure.retention !== null;
  return {
    name: 'Stamina',
    figure: sustained ? percent(figure.retention) : (figure.word ?? '–'),
    unit: sustained
      ? `of the opening is left: ${figure.word}`
      : figure.word === 'DNF'
        ? 'did not finish'
        : figure.word === 'DNS'
          ? 'did not start'
          : figures.pace.source === 'frames'
            ? 'too short: it takes a quarter of an hour'
            : 'no frames were logged',
    parts: [
      { name: 'opening', value: `${fps(figure.opening)} fps` },
      { name: 'closing', value: figure.closing === null ? '–' : `${fps(figure.closing)} fps` },
      {
        name: 'throttles from',
        value:
          figure.onsetS === null
            ? 'not seen'
            : `${clock(figure.onsetS)}${figure.sawtooth ? ', sawtooth' : ''}`,
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
      ? 'nobody noted how long it was'
      : frames.seconds < SUSTAINED_S
        ? 'too short: it takes a quarter of an hour'
        : 'it takes rates of the first and of the last five minutes';
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
        : `of the opening is left: ${figure.word ?? 'which word is not settled'}${read?.fromS === null || read?.fromS === undefined ? '' : `, from ${clock(read.fromS)} on; before that nobody looked`}`,
    parts: [],
    definition: `${definition} Of what was read off: rates of the first five minutes against those of the last five, or the nearest to them, each with its ends and the spread of its values; a word only where the interval lies in its band, two where it touches two neighbours, “falls” where it may be any of several but not hold.`,
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
      unit: 'no skin readings',
      parts: [],
      definition: 'Skin temperature by spot and instrument. This run has no readings.',
    };
  const peak = hottest.readings.find((reading) => reading.c === hottest.peakC)!;
  const oddRoom = roomC === null ? null : roomQuestion(roomC, unit);
  return {
    name: 'Warmth',
    figure: temperature(hottest.peakC),
    unit: `${WARMTH_BANDS[warmthBand(hottest.peakC)]!.word}; ${hottest.by}, ${hottest.spot}, ${peak.peak ? 'at a time that nobody noted' : `at ${clock(peak.atMs / 1000)}`}`,
    parts: [
      {
        name: 'over the room',
        value:
          roomC === null
            ? 'room unknown'
            : oddRoom !== null
              ? `doubtful. ${oddRoom}`
              : `${((hottest.peakC - roomC) * (unit === 'F' ? 1.8 : 1)).toFixed(1)} °${unit}`,
      },
      ...(oddRoom !== null
        ? []
        : [{ name: `in a room of ${temperature(25)}`, value: temperature(figure.normalisedPeakC) }]),
      ...figure.spots.map((spot) => ({ name: spot.spot, value: temperature(spot.peakC) })),
      ...figure.spots
        .filter((spot) => spot.fit?.forecast)
        .map((spot) => ({
          name: `settles, ${spot.spot}${spot.fit!.levels.length > 1 ? ' (last state)' : ''}`,
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
          >{`Doubtful and left out: ${doubtful.skin.map((reading) => `${temperature(reading.c)} at ${reading.spot}, ${clock(reading.atMs / 1000)}`).join('; ')}.`}</Body>
        ) : null}
      </>
    ),
    definition: `The hottest reading, and the hottest of each spot; where a spot was read with several instruments, the one with the most readings. ${WARMTH_BANDS.slice(
      1,
    )
      .map((band, i) => `${WARMTH_BANDS[i]!.word} is below ${temperature(band.fromC)}`)
      .join(
        ', ',
      )}; from there on it is ${WARMTH_BANDS.at(-1)!.word}. Where it settles: an exponential approach fitted to the readings of a spot, with the 95 % interval; shown only where the readings carry a forecast.`,
  };
}

/** What a switch did: "from 11:00 (throttled): back settles 5.0 °C lower (3.9 to 6.1)". */
function saySwitch(spot: string, { fromS, state, change }: Level, unit: 'C' | 'F'): string {
  const by = unit === 'F' ? 1.8 : 1;
  const from = `From ${clock(fromS)}${state ? ` (${state})` : ''}`;
  if (!change || change.low * change.high <= 0) return `${from}: no clear difference at ${spot}.`;
  const [least, most] = [Math.abs(change.low) * by, Math.abs(change.high) * by].sort((a, b) => a - b);
  return `${from}: ${spot} goes towards ${(Math.abs(change.c) * by).toFixed(1)} °${unit} ${change.c < 0 ? 'less' : 'more'} (${least!.toFixed(1)} to ${most!.toFixed(1)}).`;
}

/** What the peak means for hands, once and plainly. */
function touch({ peakC }: SpotWarmth, temperature: Speaker['temperature']): ReactNode {
  if (peakC < CAUTION_C) return null;
  const stop = peakC >= STOP_C;
  return (
    <Body role="note" small>
      {stop
        ? `Put it down: skin that touches a surface of ${temperature(STOP_C)} for ten minutes can burn. Let it cool in the open; if the back swells, hisses or smells, do not charge it, move away and leave it to the maker’s service.`
        : `Hold it for a while only: surfaces of ${temperature(CAUTION_C)} and more can burn skin that touches them for hours, hotter ones sooner. The maker’s instructions come first.`}
    </Body>
  );
}

/** Charging while playing, once and plainly. */
function ChargingCaution(): ReactNode {
  return (
    <Body role="note" small>
      It was charged while it played, which warms it further: charge a device after it has cooled, with the
      maker’s charger. A battery that swells, leaks, hisses or grows very hot: stop, do not charge or puncture
      it, move away, and leave it to qualified service.
    </Body>
  );
}

function drain({ figures, batteryWh }: RunDetail): Measure {
  const { drain: figure, battery } = figures;
  const definition =
    'Percent per hour: slope through the first readings of each percent, charging left out, with its 95 % interval (or the range that whole percents allow). From full: 100 over that. Watts: from power samples, else from the slope and the battery’s energy. Two devices are compared in watts and hours, not in percent.';
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
      unit: battery.length > 0 ? 'too few readings of the battery' : 'no readings of the battery',
      parts: readings,
      definition,
    };
  const hours = hoursSaid(figure);
  // watts of a percent or two are none that anybody saw
  const drawn = figure.from === 'power' || hours !== null ? figure.watts : null;
  return {
    name: 'Drain',
    figure: hours !== null ? sayHours(hours) : drawn === null ? '–' : `${drawn.toFixed(1)} W`,
    unit: hours !== null ? 'from full' : drawn === null ? 'too few new percents to tell how fast' : 'drawn',
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
        name: figure.from === 'power' ? 'watts, measured' : 'watts, from percent',
        value:
          figure.watts === null
            ? batteryWh === null
              ? 'battery’s Wh unknown'
              : '–'
            : figure.watts.toFixed(1),
      },
      {
        name: 'a frame',
        value: figure.joulesPerFrame === null ? '–' : `${(figure.joulesPerFrame * 1000).toFixed(0)} mJ`,
      },
      ...readings,
    ],
    picture: <PercentOverTime figures={figures} />,
    below: battery.some((reading) => reading.charging) ? <ChargingCaution /> : null,
    definition,
  };
}
