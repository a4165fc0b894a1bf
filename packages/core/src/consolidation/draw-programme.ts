import { planFromPhysical } from '../migration/index.js';
import { planOfSteps } from '../plan/index.js';
import { counted } from '../quantity/index.js';
import {
  change,
  fieldsOf,
  isRefusal,
  list,
  noSuch,
  omittable,
  refuse,
  text,
  type DeciderOf,
} from '../record/index.js';

/** Computers that are to become guests, as a plan: each a migration to be planned, in the order of their windows. */
export const drawProgramme = change({
  type: 'plan.draw-programme',
  title: 'Draw these computers as a plan',
  carried: 'only afterwards',
  input: {
    name: fieldsOf('plan').name,
    purpose: omittable(fieldsOf('plan').purpose),
    /** The first one first. */
    moves: list({ ...planFromPhysical.input, remark: omittable(text(500)) }, 100),
  },
});

export const decideDrawProgramme: DeciderOf<typeof drawProgramme> = (fleet, input, context) => {
  if (input.moves.length === 0)
    return refuse({ code: 'no-moves', field: 'moves', sentence: 'There is no move to draw.' });
  for (const { deviceId } of input.moves)
    if (!fleet.get('device', deviceId)) return noSuch('device');
  const steps = input.moves.map(({ remark, ...move }) => ({
    type: planFromPhysical.type,
    input: move,
    remark,
  }));
  const drawn = planOfSteps(fleet, context, input, steps);
  if (isRefusal(drawn)) return drawn;
  const { draft, planId, name } = drawn;
  return {
    draft,
    title: `drew ${counted(steps.length, 'computer')} as the plan ${name}`,
    subjects: [{ kind: 'plan', id: planId, name }],
  };
};
