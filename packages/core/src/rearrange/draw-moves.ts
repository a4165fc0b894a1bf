/** Moves that were found, as a plan of their own: each a migration to be planned, in the order in which they are legal. */
import { planOfSteps, type DrawnStep } from '../plan/index.js';
import { counted } from '../quantity/index.js';
import { disksOf } from './problem.js';
import {
  change,
  fieldsOf,
  flag,
  isRefusal,
  list,
  noSuch,
  omittable,
  optional,
  ref,
  refuse,
  said,
  text,
  type DeciderOf,
  type Fleet,
  type InputOf,
} from '../record/index.js';

/** More moves than this are a programme, not a plan. */
export const MOST_MOVES = 500;

/** A guest and where it moves to. */
export const moveInput = {
  guestId: ref('guest'),
  targetHostId: ref('host'),
  /** Null: the volumes stay in their pools. */
  targetPoolId: said(optional(ref('pool'))),
  running: said(flag()),
  /** Why it moves, as it stands with the step. */
  remark: omittable(text(500)),
};

export const drawMoves = change({
  type: 'plan.draw-moves',
  title: 'Draw these moves as a plan',
  carried: 'only afterwards',
  input: {
    name: fieldsOf('plan').name,
    purpose: omittable(fieldsOf('plan').purpose),
    linkBitsPerSecond: fieldsOf('migration').linkBitsPerSecond,
    /** The first one first. */
    moves: list(moveInput, MOST_MOVES),
  },
});

export const decideDrawMoves: DeciderOf<typeof drawMoves> = (fleet, input, context) => {
  if (input.moves.length === 0)
    return refuse({
      code: 'no-moves',
      field: 'moves',
      sentence: 'There is no move to draw.',
    });
  for (const { guestId } of input.moves) if (!fleet.get('guest', guestId)) return noSuch('guest');
  const steps = stepsOfMoves(fleet, input.moves, input.linkBitsPerSecond);
  const drawn = planOfSteps(fleet, context, input, steps);
  if (isRefusal(drawn)) return drawn;
  const { draft, planId, name } = drawn;
  return {
    draft,
    title: `drew ${counted(input.moves.length, 'move')} as the plan ${name}`,
    subjects: [{ kind: 'plan', id: planId, name }],
  };
};

/** Steps of a plan that these moves come to. */
export const stepsOfMoves = (
  fleet: Fleet,
  moves: readonly InputOf<typeof moveInput>[],
  linkBitsPerSecond: number,
): DrawnStep[] =>
  moves.flatMap((move) =>
    stepsFor(fleet, move, linkBitsPerSecond).map((step) => ({ ...step, remark: move.remark })),
  );

/** What was never built is planned elsewhere, its disks as well; everything else migrates. */
function stepsFor(
  fleet: Fleet,
  {
    guestId,
    targetHostId,
    targetPoolId,
    running,
  }: { guestId: string; targetHostId: string; targetPoolId: string | null; running: boolean },
  linkBitsPerSecond: number,
): { type: string; input: object }[] {
  const { state } = fleet.need('guest', guestId);
  if (state !== 'planned' && state !== 'building') {
    const input = { guestId, targetHostId, targetPoolId, running, linkBitsPerSecond };
    return [{ type: 'migration.plan', input }];
  }
  const volumes = targetPoolId === null ? [] : disksOf(fleet, guestId).own;
  return [
    { type: 'guest.edit', input: { id: guestId, hostId: targetHostId } },
    ...volumes.map(({ id }) => ({ type: 'volume.edit', input: { id, poolId: targetPoolId } })),
  ];
}
