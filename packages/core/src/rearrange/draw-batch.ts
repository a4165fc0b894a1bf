/** Guests of a batch, as a plan of their own: who makes room moves first, then each is planned where it was found a place. */
import { LONGEST_LABEL } from '../guest/index.js';
import { idOfStep, planOfSteps, type DrawnStep } from '../plan/index.js';
import { counted } from '../quantity/index.js';
import {
  beginning,
  change,
  choice,
  fieldsOf,
  integer,
  isRefusal,
  list,
  noSuch,
  omittable,
  optional,
  ref,
  refs,
  refuse,
  said,
  text,
  type ChangeContext,
  type DeciderOf,
  type Fleet,
  type InputOf,
} from '../record/index.js';
import { MOST_MOVES, moveInput, stepsOfMoves } from './draw-moves.js';

const guest = fieldsOf('guest');
const volume = fieldsOf('volume');
export const MOST_LOTS = 20;
/** Of one lot: a rule that keeps them apart names no more. */
export const MOST_ALIKE = 200;

/** What all guests of a lot have in common. */
const lotInput = {
  ...beginning(guest, 'family', 'profileId', 'labels', 'groupId'),
  ...beginning(guest, 'vcpu', 'memoryMiB', 'processorMode'),
  /** Of its volume; 0: none. */
  bytes: integer(0),
  thin: volume.thin,
  networkIds: refs('network', 16),
  apart: choice('none', 'host', 'rack', 'site'),
  /** Name of the rule that keeps them apart. */
  ruleName: omittable(fieldsOf('placementRule').name),
};

export const drawBatch = change({
  type: 'plan.draw-batch',
  title: 'Draw these new guests as a plan',
  carried: 'only afterwards',
  input: {
    name: fieldsOf('plan').name,
    purpose: omittable(fieldsOf('plan').purpose),
    linkBitsPerSecond: fieldsOf('migration').linkBitsPerSecond,
    moves: list(moveInput, MOST_MOVES),
    lots: list(lotInput, MOST_LOTS),
    guests: list(
      {
        /** Place of its lot among the lots. */
        lot: integer(0, MOST_LOTS - 1),
        name: text(LONGEST_LABEL),
        hostId: ref('host'),
        /** Null: it has no volume. */
        poolId: said(optional(ref('pool'))),
      },
      MOST_MOVES,
    ),
  },
});

type DrawBatch = InputOf<(typeof drawBatch)['input']>;

export const decideDrawBatch: DeciderOf<typeof drawBatch> = (fleet, input, context) => {
  if (input.guests.length === 0)
    return refuse({
      code: 'no-guests',
      field: 'guests',
      sentence: 'There is no guest to draw.',
    });
  const loose = input.guests.findIndex(({ lot }) => lot >= input.lots.length);
  if (loose >= 0)
    return refuse({
      code: 'no-such-lot',
      field: `guests.${loose}.lot`,
      sentence: `${input.guests[loose]!.name} is of a lot that is not said.`,
    });
  const large = input.lots.findIndex(
    (_, i) => input.guests.filter(({ lot }) => lot === i).length > MOST_ALIKE,
  );
  if (large >= 0)
    return refuse({
      code: 'lot-too-large',
      field: `lots.${large}`,
      sentence: `A lot has at most ${MOST_ALIKE} guests.`,
      remedy: 'Make two lots of it.',
    });
  for (const { guestId } of input.moves) if (!fleet.get('guest', guestId)) return noSuch('guest');
  const steps = [
    ...stepsOfMoves(fleet, input.moves, input.linkBitsPerSecond),
    ...stepsOfGuests(fleet, input, context),
  ];
  const drawn = planOfSteps(fleet, context, input, steps);
  if (isRefusal(drawn)) return drawn;
  const { draft, planId, name } = drawn;
  return {
    draft,
    title: `drew ${counted(input.guests.length, 'new guest')} as the plan ${name}`,
    subjects: [{ kind: 'plan', id: planId, name }],
  };
};

/** Each guest is a step; a rule keeps those of a lot apart once they are there. */
function stepsOfGuests(
  fleet: Fleet,
  { lots, guests }: DrawBatch,
  context: ChangeContext,
): DrawnStep[] {
  const addressed = (networkId: string) =>
    fleet.referringCount('subnet', 'networkId', networkId) > 0;
  return lots.flatMap((lot, i) => {
    const { bytes, thin, networkIds, apart, ruleName, ...common } = lot;
    const madeIds: string[] = [];
    const steps = guests
      .filter((one) => one.lot === i)
      .map(({ name, hostId, poolId }): DrawnStep => {
        const seed = context.newId();
        madeIds.push(idOfStep(seed, context));
        return {
          type: 'guest.plan',
          seed,
          input: {
            ...common,
            ...{ name, hostId },
            volumes: poolId === null || bytes === 0 ? [] : [{ poolId, bytes, thin }],
            adapters: networkIds.map((networkId) => ({
              networkId,
              address: { as: addressed(networkId) ? 'next' : 'none' },
            })),
          },
        };
      });
    const apartStep: DrawnStep = {
      type: 'rule.set',
      input: { name: ruleName ?? `lot ${i + 1}`, rule: 'apart', scope: apart, guestIds: madeIds },
    };
    return apart !== 'none' && madeIds.length > 1 ? [...steps, apartStep] : steps;
  });
}
