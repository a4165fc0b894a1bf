export {
  rearranged,
  rearrangedWith,
  type Rearranged,
  type RearrangedHost,
  type RearrangedMove,
} from './answer.js';
export * from './patch-round.js';
export {
  AIMS,
  rearrangeProblem,
  type Aim,
  type RearrangeAsk,
  type RearrangeProblem,
  type Unmovable,
} from './problem.js';
export { solveRearrangement, type Means, type Solution } from './solve.js';
export { decideDrawMoves, drawMoves, MOST_MOVES } from './draw-moves.js';
