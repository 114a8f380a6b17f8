/** What other rooms may use of core, name by name. */
export {
  arrange,
  COMPARISON_KINDS,
  MOST_SIDES,
  sideNames,
  type ComparisonKind,
  type RunToArrange,
} from './compare/arrange';
export { clopperPearson, type BreakDifference } from './compare/breakRate';
export {
  comparableOf,
  statedOf,
  type Comparable,
  type RunOfSide,
  type StatedFacts,
} from './compare/comparable';
export { compareSides, type Comparison } from './compare/compare';
export { MARGIN_C, runsPerSide, USUAL_MARGIN, verdictOf, type MeasureDifference } from './compare/difference';
export { mismatchName, otherWork, type Mismatch, type SideName } from './compare/mismatches';
export { rateRuns, type LeftOutReason, type RatedTitles } from './compare/rateRuns';
export {
  overallOf,
  rateDevices,
  RatingDraws,
  USUAL_WEIGHTS,
  type DeviceRating,
  type RatedDevice,
  type RatingParts,
  type RatingWeights,
} from './compare/rating';
export { rankField, type FieldMeasure, type FieldPlace } from './compare/field';
export { warmthSideBySide, type SpotSideBySide } from './compare/sideBySide';
export {
  standingOf,
  STANDING_SCOPES,
  type MeasureStanding,
  type Standing,
  type StandingScope,
} from './compare/standing';
export {
  byLogarithm,
  Archive,
  archiveOf,
  groupKey,
  HABIT,
  onScale,
  spreadOf,
  spreadBetweenRuns,
  type ArchiveGroup,
  type Spread,
} from './compare/spread';
export { peaksOf } from './compare/peaks';
export { turningPoints, type TurningPoints } from './compare/turningPoints';
export { analyse } from './figures/analyse';
export { findBreaks } from './figures/breaks';
export { cadence, type Cadence } from './figures/cadence';
export { capAdvice, capShare, frameCap, heldCaps, sitsAtCap, type HeldCap } from './figures/cap';
export {
  caveatSentence,
  confidenceOf,
  confidencesOf,
  saysRestsOn,
  withLibrary,
  type LibraryFacts,
} from './figures/caveats';
export { TRUSTED, type Confidences, type Trust, type Trusted } from './figures/trust';
export { coverage, type Covered } from './figures/coverage';
export { distributionOf } from './figures/distribution';
export { type Doing, type DoingSeries } from './figures/doing';
export { drainOf, hoursSaid } from './figures/drain';
export { correctEmissivity } from './figures/emissivity';
export { evenness } from './figures/evenness';
export { shadeAt, usualPlace, type Heated } from './figures/bodyMap';
export { laneOf, onOneScale, type Lane, type LaneCell } from './figures/lane';
export { lows, sortedFrames, type Low } from './figures/lows';
export { longestOver, type OverTarget } from './figures/overTarget';
export { METHOD_VERSION } from './figures/methodVersion';
export { type Analysis, type Figures, type RunFacts, type RunInput } from './figures/model';
export { LEAST_SKIN_C, MOST_SKIN_C } from './figures/plausible';
export { averagePace, onTarget, perSecondPace, steadiness, swingEnds, swings } from './figures/pace';
export { dischargeStretches, siftSkin } from './figures/plausible';
export { NEEDS, emulation, playable, playableFromRead, type Bar, type Bars } from './figures/playable';
export { meanWatts, percentUsed, spotSeries } from './figures/readings';
export { reduceSeries, type SeriesPoint } from './figures/reduce';
export { firstAtLeast, joinSpans, prepareSession, type SpanUs } from './figures/session';
export { readSplitTable, SUSTAINED_S, splitEnds, splitTable, type Split } from './figures/splits';
export { type SceneFigures } from './figures/scenes';
export { retentionWord, stamina } from './figures/stamina';
export { CAUTION_C, STOP_C, WARMTH_BANDS, warmthBand } from './figures/touch';
export { warmthAt, warmthOf, type Level, type SpotWarmth } from './figures/warmth';
export { warmStretches } from './figures/warmStretches';
export { coolDown, type CoolDown } from './fit/coolDown';
export { fitApproach, fitSwitched, tWidth, timeToReach, type ApproachFit } from './fit/fit';
export { joinStretches } from './fit/switches';
export { EMPTY_TRACK, frameStartsUs, withinLongest, type FrameTrack, type Gap } from './frames/track';
export { type UnreadableRow } from './frames/unreadable';
export {
  CHOICE_AXES,
  choiceState,
  sayChoice,
  sayCost,
  saySpeed,
  type Choice,
  type ChoiceAxis,
  type ChoiceProbe,
  type ChoiceState,
} from './ladder/choices';
export { climb, FULL_SPEED, type LadderState, type Probe } from './ladder/ladder';
export { saySystemRungs, systemRungs, type SystemLadder } from './ladder/systems';
export { powerRows, sayPowerRow, wattsOf, type PowerOfDevice, type PowerRow } from './ladder/power';
export { readOutcomeTable, readStatus, type OutcomeTable } from './ladder/outcomeTable';
export {
  CLAIM_LEVELS,
  claimShare,
  GLITCH_KINDS,
  latestOutcomes,
  OUTCOME_STATUSES,
  problemList,
  runShare,
  sayBeforehand,
  outcomeOfRun,
  sayCounted,
  shareOf,
  type ClaimLevel,
  type CountedOutcome,
  type CountedShare,
  type OutcomeStatus,
  type RunOutcomeStatus,
  type RunSeen,
  type ProblemRow,
} from './ladder/outcomes';
export {
  buildPairs,
  sayBuild,
  sayProgress,
  saySeenWith,
  sayVersions,
  versionRows,
  type Build,
  type KnownVersion,
  type VersionRow,
} from './ladder/versions';
export {
  extremeOf,
  LADDER_AXES,
  minutesToGo,
  ownPosterior,
  probeSpeed,
  sayNext,
  searchState,
  siblingPrior,
  USUAL_RUNGS,
  type LadderAxis,
  type LadderProbe,
  type LadderSearch,
  type Rung,
  type SearchState,
} from './ladder/search';
export { borrowedPrior, nextOfMany } from './ladder/together';
export { LONGEST_RUN_MS, LONGEST_RUN_S, LONGEST_RUN_US, MOST_FRAMES, MOST_LINES } from './limits';
export { splitLine } from './log/delimited';
export { UNIT_NAMES, type ColumnChoice, type ColumnGuess } from './log/guess';
export { parseMicros, type TimeUnit } from './log/micros';
export { LogReader, type RowLayout } from './log/readLog';
export { noUsableColumn, readRun, tooLarge, viewHead } from './log/readRun';
export { LogRefused, type RefusalCode } from './log/refused';
export { HEAD_BYTES, isGzip, sniffLayout, type TextLayout } from './log/sniff';
export { leastSquares } from './numbers/leastSquares';
export { optimalPartition } from './numbers/partition';
export { median, quantile } from './numbers/quantile';
export { SeededRandom } from './numbers/random';
export { thin } from './numbers/thin';
export { carriedOver, planChanges, type PlanChanges } from './plan/changes';
export {
  ASSUMED_ROOM_C,
  poseDay,
  runStates,
  taskId,
  type PlanDevice,
  type PosedDay,
  type RunState,
} from './plan/dayProblem';
export {
  CHARGE_RISE_C,
  DEVICE_KINDS,
  USUAL_DEMAND,
  deviceHabits,
  taskHabits,
  type CoolingFrom,
  type DeviceKind,
  type OwnRun,
} from './plan/habits';
export { planDay, type DayPlan, type PlanOptions, type PlannedRun } from './plan/planDay';
export {
  DEMANDS,
  PlanRefused,
  type DayDevice,
  type DayProblem,
  type DayTask,
  type Demand,
} from './plan/problem';
export {
  TEMPLATES,
  TITLE_KINDS,
  fittingTitles,
  layTemplate,
  type CardTemplate,
  type KnownTitle,
  type LaidStep,
  type TitleKind,
} from './plan/templates';
export { about } from './readOff/amounts';
export { endsOf, halfDigit, hullOf, meanEnds, middleOf, type Ends } from './readOff/ends';
export { questionOf, roomQuestion, skinQuestion } from './readOff/question';
export { readAverage } from './readOff/readAverage';
export { sayWritten, type WrittenValue } from './readOff/written';
export type { PaperContext } from './readOff/bookLine';
export { readNotebook, readTime, type PaperLine } from './readOff/notebook';
export {
  MOST_SITTING_ROWS,
  NO_RESULT,
  readResult,
  readSitting,
  RESULT_FIELDS,
  type ResultContext,
  type ResultField,
  type ResultRead,
  type ResultTexts,
  type SittingRow,
} from './readOff/result';
export { readFullSpeed } from './readOff/readSpeed';
export type { ReadFigures } from './readOff/readFigures';
export { writtenHull, type ReadSaid } from './readOff/readSaid';
export { changeNotes, dayMinute, howEnded, type HowEnded } from './recording/cardDay';
export { changeWatch, type WatchChange } from './recording/coolWatch';
export { LiveRun, type LiveFigures } from './recording/live';
export { nextReading, type ReadingDue } from './recording/rounds';
export {
  changeRun,
  Lines,
  plannedEndMs,
  runClockMs,
  type ChangeRefused,
  type RecordedLine,
  type RecordedRun,
  type RunChange,
} from './recording/rulebook';
export { BY_HAND, joinSources, type SourceUse } from './recording/sources';
export { FrameBatches } from './runFile/batches';
export {
  isTimed,
  lineTimeMs,
  type EntryLine,
  type FramesLine,
  type RunHeader,
  type RunLine,
  type RunPreflight,
} from './runFile/lines';
export { decimalsOf, parseLine } from './runFile/parseLine';
export { lastLineMs } from './runFile/readRunFile';
export { factsOf, playedName, runInput, type FileRemains } from './runFile/runInput';
export { runChangesSince } from './review/changes';
export { chartedPair } from './review/charted';
export { methodsHtml } from './review/methodsPage';
export { specFacts } from './review/spec';
export { toCsvText } from './review/csv';
export { type Block } from './review/blocks';
export { sayCapAdvice } from './words/capWords';
export { chartSvg, PICTURE_SIZES, type Chart, type PictureSize } from './review/charts/chart';
export { reviewGaps, type ReviewGap } from './review/gaps';
export {
  figuresIn,
  figureState,
  fillFigures,
  liveFigures,
  type FigureState,
  type KeptFigure,
  type LiveFigure,
} from './review/liveFigures';
export {
  HANDLING_TOPICS,
  REVIEW_TEMPLATES,
  SECTION_KINDS,
  VERDICT_STATES,
  type ChartedDifference,
  type HandlingLine,
  type HandlingTopic,
  type ReviewComparison,
  type ReviewDevice,
  type ReviewEvidence,
  type ReviewChoice,
  type ReviewLadder,
  type ReviewPower,
  type ReviewLimits,
  type ReviewSetup,
  type ReviewSitting,
  type ReviewOutcome,
  type ReviewRequest,
  type ReviewRun,
  type ReviewTemplate,
  type SectionKind,
  type VerdictState,
} from './review/model';
export { SECTIONS } from './review/sections';
export { laneSvg } from './review/laneSvg';
export { longestS, reviewCharts, reviewHtml, reviewMarkdown, type WrittenReview } from './review/page';
export { titleCells, titleTable, type TitleRow } from './review/titleTable';
export { readCutList, sayCutList } from './review/video/cutList';
export {
  chapterCues,
  chapterList,
  chaptersOf,
  findMoments,
  type Chapter,
  type FoundMoment,
  type Moment,
} from './review/video/moments';
export { readTimeCode, vttTime } from './review/video/timeCode';
export { overlayBand, overlaySvg } from './review/video/overlaySvg';
export { readTimeline } from './review/video/readTimeline';
export {
  inVideo,
  type Clip,
  type Cut,
  type TimelinePlan,
  type TimelineProblem,
} from './review/video/timeline';
export { webVtt, type Cue } from './review/video/webVtt';
export {
  momentCues,
  overlayAt,
  overlayCues,
  writeVideo,
  type VideoSource,
  type WrittenVideo,
} from './review/video/written';
export {
  type LongPlay,
  type Sitting,
  type SwitchEffect,
  type SwitchSpan,
  type TitleStretch,
} from './session/model';
export { statesOver, type StateStretch } from './session/sitting';
export { SWOLLEN_BATTERY } from './words/safety';
export { sayAsRead, sayCooler, saySwitch } from './words/sittingWords';
export {
  limitsOf,
  type Limit,
  type LimitCandidate,
  type LimitContext,
  type LimitFindings,
  type LimitSign,
  type Sibling,
} from './figures/limits';
export { condensation, dewPoint, type Condensation } from './figures/dew';
export { HOT_CELL_C, hotCharging, type HotCharging } from './figures/hotCharging';
export { questionScore, stressLoop, type StressLoop, type SyntheticScore } from './synthetic/records';
export { limitName, sayLimits, saySign } from './words/limitWords';
export { sessionFigures, type SessionFigures } from './session/session';
export { titleStretches } from './session/titles';
export { partOfLines, partOfTrack, type PartSpan } from './session/part';
export { meanOfKnown } from './numbers/mean';
export {
  setupDifference,
  SetupError,
  wholeSetup,
  withoutSetup,
  type SetupDifference,
  type WrittenSetup,
} from './setup/derive';
export {
  capNamed,
  capOf,
  powerLimitOf,
  samePair,
  sayPair,
  sayValue,
  USUAL_PAIRS,
  type SetPair,
  type SetupPair,
} from './setup/pairs';
export { sayStepSource, writeRecipe, type Recipe, type RecipeStep } from './setup/recipe';
export { isShellText } from './shell/shellFile';
export { readShellText, shellStampMs, type PresentAnchor } from './shell/shellText';
export {
  CHIP_PARTS,
  COMPARE_MEASURES,
  CONDITIONS,
  CONDITION_SPANS,
  END_REASONS,
  EXCLUDING_SPANS,
  NEED_WORDS,
  POWER_PLACES,
  RATE_SOURCES,
  RATING_PARTS,
  RUN_MEASURES,
  BESIDE,
  BESIDE_NAMES,
  SMOOTH_WORDS,
  STUMBLES,
  SUMMARY_FACTS,
  FEEL_WORDS,
  type Feel,
  type FeelWord,
  SPAN_KINDS,
  SPLIT_MINUTES,
  STAMINA_WORDS,
  STEP_NEEDS,
  WEAK_SOURCES,
  type Caveat,
  type CompareMeasure,
  type CompareVerdict,
  type Confidence,
  type EndReason,
  type Need,
  type PowerPlace,
  type RateSource,
  type RatingPart,
  type RunMeasure,
  type SmoothWord,
  type SplitMinutes,
  type StaminaVerdict,
  type StaminaWord,
  type StepNeed,
  type WeakSource,
  CONFIDENCES,
} from './vocabulary';
export {
  compareAnswer,
  fieldAnswer,
  leadMeasure,
  matrixAnswer,
  MEASURE_WORDS,
  MISMATCH_WORDS,
  sayBreakRatio,
  sayDifference,
  sayDirection,
  sayMeasure,
  sayMismatch,
  sayStanding,
  sayVerdict,
  valuesOf,
  whatWouldSettle,
  type SideNames,
} from './words/compareWords';
export {
  USUAL_VOICE,
  clock,
  headline,
  headlineFacts,
  hoursAndMinutes,
  rate,
  rateWithEnds,
  sayHours,
  sayRead,
  sayReadShort,
  swingsBetween,
  sayTemperature,
  type HeadlineFacts,
  type School,
  type Voice,
} from './words/headline';
export { PART_WORDS, sayOrder, sayShare } from './words/ratingWords';
export { atWholeSeconds, ENDING_WORDS, exactClock, sayLine, SOURCE_WORDS } from './words/sayLine';
export { toCelsius, toFahrenheit, type TemperatureUnit } from './words/temperature';
