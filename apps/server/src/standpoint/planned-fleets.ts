/** The record with a plan drawn in: overlays over the fleet, the last few of them kept while it stays as it is. */
import { planFleet } from '@insel/core';
import { Injectable } from '@nestjs/common';
import type { Asking } from '../reads/read.js';
import { Clock } from '../clock.js';
import { notFound } from '../problem-exception.js';
import { OrderCache } from '../views/orders.js';
import { decideDrawn } from '../views/plans.js';
import { contextAt } from '../record/context.js';
import { FleetKeeper } from '../record/keeper.js';
import type { LaidOver } from './laid-over.js';

const MOST_KEPT = 20;

@Injectable()
export class PlannedFleets {
  private readonly kept = new Map<string, LaidOver>();

  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
  ) {}

  /** @throws ProblemException 404 where there is no such plan */
  of(planId: string, account: Asking['account']): LaidOver {
    const { fleet } = this.keeper;
    const held = this.kept.get(planId);
    // Steps are decided by the day: that is how long what they say of time holds.
    const now = this.clock.now();
    if (held?.fleet.isOver(fleet) && held.now.slice(0, 10) === now.slice(0, 10)) return held;
    if (!fleet.get('plan', planId)) throw notFound('plan');
    const context = contextAt(now, { ...account, role: 'planner' });
    const { would, patches } = planFleet(fleet, planId, context, decideDrawn);
    const made = {
      fleet: would,
      base: fleet.revision,
      patches,
      now,
      orders: new OrderCache(),
    };
    this.kept.delete(planId);
    this.kept.set(planId, made);
    if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
    return made;
  }
}
