/** Plans: all of them, one with what it comes to, two beside each other, and the page that is carried along. */
import type { Fleet } from '@insel/core';
import { contextAt } from '../record/context.js';
import { notFound } from '../problem-exception.js';
import { byName } from '../views/common.js';
import { planRunbookPage } from '../views/plan-runbook.js';
import { planRow, planSheet } from '../views/plans.js';
import { plansCompared } from '../views/plans-compared.js';
import { sheetPage } from '../views/sheet-page.js';
import type { Asking, Reads } from './read.js';

export const PLAN_READS: Reads<'plans' | 'plan' | 'planRunbook' | 'plansCompared'> = {
  plans: (fleet) => [...fleet.all('plan')].map(({ id }) => planRow(fleet, id)).sort(byName),

  plan: {
    inWorker: (fleet, { id }, asking) => planSheet(fleet, planIn(fleet, id), whoLooks(asking)),
  },

  planRunbook: {
    inWorker: (fleet, { id }, asking) =>
      sheetPage(planRunbookPage(planSheet(fleet, planIn(fleet, id), whoLooks(asking))), asking.now),
  },

  plansCompared: {
    inWorker: (fleet, { id, other }, asking) =>
      plansCompared(fleet, [planIn(fleet, id), planIn(fleet, other)], whoLooks(asking)),
  },
};

/** @throws ProblemException 404 where there is no such plan */
function planIn(fleet: Fleet, id: string): string {
  if (!fleet.get('plan', id)) throw notFound('plan');
  return id;
}

/** What a plan comes to is the same for everybody: it is decided as a planner would. */
const whoLooks = ({ now, account }: Asking) => contextAt(now, { ...account, role: 'planner' });
