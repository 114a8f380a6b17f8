export { simulateCoolDown } from './coolDown';
export { simulate } from './handset';
export { DEMO_KIT, DEMO_REQUESTS } from './kit';
export { HANDSETS, LOADS, SCENARIOS, type Handset, type Load, type Scenario, type ScenarioName } from './scenario';
