export { unitsUsed, valueOf, type CountedByHost, type PlacingAim } from './aims.js';
export { beside, besideEach } from './beside.js';
export { fewestHostsBound, type HostsBound } from './bounds.js';
export { emptyHosts, type Emptied } from './empty-hosts.js';
export { evenOut, type EvenedOut, type EvenMove } from './even-out.js';
export { fewestHosts, takenOf, type FewestHosts } from './fewest-hosts.js';
export { givenFullness, usedFullness, type Fullness, type Use } from './fullness.js';
export {
  exactlyBy,
  linearModel,
  placingOf,
  solverOf,
  type HighsLike,
  type LinearAnswer,
  type SolveLinear,
} from './linear-model.js';
export type { Move } from './moving.js';
export { faultsOfMoves } from './faults-of-moves.js';
export { orderMoves, type Ordered } from './order-moves.js';
export { placeUnits, type Placed } from './place-units.js';
export type { Backed } from './place-model.js';
export {
  leastNeeds,
  narrowedTo,
  needAt,
  type Limit,
  type PackingQuestion,
  type Placing,
} from './question.js';
export { settle, type Exactly, type Settled } from './settle.js';
export { faultsOf } from './verify.js';
