/** Plans: all of them, and one with what it comes to. */
import { contextAt } from '../record/context.js';
import { notFound } from '../http/problem-exception.js';
import { byName } from '../views/common.js';
import { planRow, planSheet } from '../views/plans.js';
import type { Reads } from './read.js';

export const PLAN_READS: Reads<'plans' | 'plan'> = {
  plans: (fleet) => [...fleet.all('plan')].map(({ id }) => planRow(fleet, id)).sort(byName),

  plan: {
    inWorker(fleet, { id }, { now, account }) {
      if (!fleet.get('plan', id)) throw notFound('plan');
      return planSheet(fleet, id, contextAt(now, { ...account, role: 'planner' }));
    },
  },
};
