export { simulate } from './handset';
export { HANDSETS, LOADS, SCENARIOS, type Handset, type Load, type Scenario, type ScenarioName } from './scenario';
