export { DEMO_BESIDE, DEMO_COMPARISONS, DEMO_REVIEW, DEMO_WEAK } from './beside';
export { simulateCoolDown } from './coolDown';
export { simulate } from './handset';
export {
  DEMO_CHOICES,
  DEMO_CLAIMED_BY,
  DEMO_CLAIMS,
  DEMO_LADDERS,
  DEMO_OUTCOMES,
  DEMO_SYNTHETIC,
  DEMO_VERSIONS,
} from './searches';
export { DEMO_KIT, DEMO_REQUESTS } from './kit';
export { Mischief } from './live/misbehave';
export { counterPhoto, DEMO_RESULTS, type DemoResult } from './readOff';
export { DEMO_SITTINGS, simulateSitting, sittingTruth, type SittingPlan, type SittingTruth } from './sitting';
export { roundRobin, type RoundRobin } from './live/roundRobin';
export { LiveSender, type SentSummary } from './live/sender';
export { standIn, type StandInKind, type TimedLine } from './live/standIn';
export {
  HANDSETS,
  LOADS,
  SCENARIOS,
  type Handset,
  type Load,
  type Scenario,
  type ScenarioName,
} from './scenario';
