import type { SectionOf } from '../blocks';
import type { SectionKind } from '../model';
import { CAVEAT_LINES } from './caveats';
import { CHOICES } from './choices';
import { COMPARISONS } from './comparisons';
import { DRAIN } from './drain';
import { HANDLING } from './handling';
import { LANES } from './lanes';
import { LIMIT_LINES } from './limits';
import { METHOD } from './method';
import { NEXT } from './next';
import { NOT_RUN } from './notRun';
import { NOT_TESTED } from './notTested';
import { POWER } from './power';
import { QUESTIONS } from './questions';
import { RECIPES } from './recipes';
import { REQUESTS } from './requests';
import { SETTINGS } from './settings';
import { SITTINGS } from './sittings';
import { SPEC } from './spec';
import { SYNTHETIC } from './synthetic';
import { TITLES } from './titles';
import { VERDICT } from './verdict';
import { WARMTH } from './warmth';
import { WHAT_RUNS } from './whatRuns';

/** Every kind of section. A new one is a file here, its word in the model, and its line in this list. */
export const SECTIONS: Record<SectionKind, SectionOf> = {
  verdict: VERDICT,
  spec: SPEC,
  method: METHOD,
  titles: TITLES,
  lanes: LANES,
  sittings: SITTINGS,
  settings: SETTINGS,
  choices: CHOICES,
  power: POWER,
  'what-runs': WHAT_RUNS,
  recipes: RECIPES,
  warmth: WARMTH,
  drain: DRAIN,
  limits: LIMIT_LINES,
  'not-run': NOT_RUN,
  handling: HANDLING,
  comparisons: COMPARISONS,
  synthetic: SYNTHETIC,
  caveats: CAVEAT_LINES,
  'not-tested': NOT_TESTED,
  requests: REQUESTS,
  questions: QUESTIONS,
  next: NEXT,
};
