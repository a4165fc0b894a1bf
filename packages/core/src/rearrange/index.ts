export { rearranged, rearrangedWith } from './answer.js';
export type * from './rearranged.js';
export { HOURS, type HourlyUse } from './measured-use.js';
export * from './patch-round.js';
export {
  AIMS,
  EVEN_BY,
  type Aim,
  type EvenBy,
  type RearrangeAsk,
  type RearrangeProblem,
} from './rearrange-ask.js';
export { rearrangeProblem } from './problem.js';
export { solveRearrangement, type Solution } from './solve.js';
export * from './lay-batch.js';
export {
  batchProblem,
  solveBatch,
  type BatchProblem,
  type BatchSolution,
} from './batch-problem.js';
export * from './batch-answer.js';
export type * from './placed-batch.js';
export { decideDrawBatch, drawBatch, MOST_ALIKE, MOST_LOTS } from './draw-batch.js';
export { decideDrawMoves, drawMoves, MOST_MOVES } from './draw-moves.js';
