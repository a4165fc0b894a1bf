export { candidatesOf, type Candidates } from './candidates.js';
export {
  affectedGuests,
  failureDomains,
  fallenHosts,
  homeOf,
  poolSurvives,
  type FailureDomain,
} from './failure.js';
export * from './pack.js';
export {
  processorFit,
  startsOn,
  statedLevel,
  type Arrival,
  type ProcessorPoint,
} from './processor-fit.js';
export { ruleAgainst } from './rules.js';
export * from './tolerance.js';
export { toleranceMoved, type ToleranceMoved } from './tolerance-with.js';
