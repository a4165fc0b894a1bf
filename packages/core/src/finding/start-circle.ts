import { STAND_ALONE_DESCRIPTIONS } from '../record/index.js';
import { practice } from '../figure/index.js';
import { fleetCircles } from '../start/index.js';
import { mendBy } from './mend.js';
import { ruleAt } from './rule-at.js';

/** Machines that wait for each other: after a power cut none of them comes up. Told once, at the circle's first guest. */
const circle = ruleAt('guest', 'start-circle', (fleet, guest) =>
  // Of most guests nothing has to be asked of the whole fleet.
  (fleet.isNeeded(guest.id) ? fleetCircles(fleet) : []).flatMap(({ members, steps, mends }) => {
    if (members.find((member) => member.kind === 'guest')?.id !== guest.id) return [];
    const first = mends[0];
    const drop = mends.find((mend) => mend.dependencyId);
    return [
      {
        severity: 'caution' as const,
        evidence: `${steps.join('; ')}.`,
        consequence: `After a power cut none of ${members.length} starts by itself: somebody must break the circle by hand, in the dark.`,
        remedy:
          first?.sentence ??
          'No single change breaks it: it closes in more than one way. Look at each need of its members.',
        source: practice('No service may need what it itself carries'),
        ...(first === drop && drop
          ? {
              mend: mendBy(fleet, 'Drop that need', STAND_ALONE_DESCRIPTIONS['need.remove'], {
                id: drop.dependencyId!,
              }),
            }
          : {}),
      },
    ];
  }),
);

export const startCircle = { ...circle, heavy: true };
