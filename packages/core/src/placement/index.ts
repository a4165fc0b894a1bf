export {
  failureDomain,
  failureDomains,
  hostDomains,
  homeOf,
  type FailureDomain,
} from './failure.js';
export { processorFit, type ProcessorPoint } from './processor-fit.js';
export * from './fleet-tolerance.js';
export { type Way } from './fates.js';
export * from './tolerance.js';
export { toleranceMoved, type ToleranceMoved } from './tolerance-with.js';
export { pairTolerance, type PairTolerance } from './pairs.js';
export { hostsFor } from './candidates.js';
export { fatesInWords } from './fate-in-words.js';
export { fatesOf } from './fates.js';
export {
  MEMORY,
  OWN_DISK,
  PROCESSORS,
  hostNumbers,
  questionOf,
  type Zones,
  zoneKey,
} from './fleet-question.js';
export { sameScope } from './rules.js';
