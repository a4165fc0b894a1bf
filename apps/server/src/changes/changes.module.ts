/** The door of the record: every change comes in here, is checked against its description, and is written or refused. */
import { createHash } from 'node:crypto';
import { ChangeBody, inputClass, type Preview, type Written } from '@insel/contract';
import {
  descriptionOf,
  mayAsk,
  type Change,
  type ChangeOf,
  type ChangeType,
  type Unmet,
} from '@insel/core';
import { Body, Controller, Get, HttpCode, Module, Param, Post, Req } from '@nestjs/common';
import { ForReaders, notYourRole, type SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { takesLong } from './long-change.js';
import { checkBody } from '../http/check-body.js';
import { ProblemException, refused } from '../problem-exception.js';
import { standpointIn } from '../standpoint/standpoint.js';
import { contextAt } from '../record/context.js';
import { FleetKeeper } from '../record/keeper.js';
import { PlannedFleets } from '../standpoint/planned-fleets.js';
import { WritePath } from './write-path.js';
import type { WriteResult } from '../record/write-request.js';
import { lookingIn, preview } from '../views/preview.js';

@Controller('api/changes')
class ChangesController {
  constructor(
    private readonly path: WritePath,
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly computation: Computation,
    private readonly planned: PlannedFleets,
  ) {}

  @Post(':type')
  async make(
    @Req() request: SignedIn,
    @Param('type') type: string,
    @Body() body: unknown,
  ): Promise<Written> {
    if (!mayAsk(request.account.role, known(type))) throw notYourRole(request.account.role);
    const { expects = [], ...given } = await changeIn(known(type), body);
    const { plan } = standpointIn(request);
    // What is read of a plan stands in no row yet: a step is decided anew instead.
    const change = plan === undefined ? given : drawn(plan, given);
    const key = keyOf(request);
    const result = await this.path.commit({
      change,
      actor: request.account,
      expects: plan === undefined ? expects : [],
      idempotency: key === undefined ? undefined : { key, bodyHash: hashOf(request) },
    });
    if (result.kind === 'written')
      return plan === undefined
        ? result.written
        : { ...result.written, created: this.createdIn(plan, request.account) };
    throw this.problemOf(result, request);
  }

  /** What a plan would make, the last of it first: whoever drew it looks at it there. */
  private createdIn(plan: string, account: SignedIn['account']): Written['created'] {
    return this.planned
      .of(plan, account)
      .patches.filter(({ op }) => op === 'create')
      .map(({ kind, id }) => ({ kind, id }))
      .reverse()
      .slice(0, 1000);
  }

  /** What it would do; alters nothing. */
  @Post(':type/preview')
  @HttpCode(200)
  @ForReaders()
  async preview(
    @Req() request: SignedIn,
    @Param('type') type: string,
    @Body() body: unknown,
  ): Promise<Preview> {
    const { expects: _, ...change } = await changeIn(known(type), body);
    const context = contextAt(this.clock.now(), request.account);
    const { plan } = standpointIn(request);
    if (plan !== undefined)
      return preview(this.planned.of(plan, request.account).fleet, change, context);
    const { fleet } = this.keeper;
    // In a large fleet the worker keeps all findings: it tells exactly which of them move.
    const there = takesLong(change) || lookingIn(fleet, false) === 'near';
    return there && this.computation.running
      ? this.computation.preview(change, context)
      : preview(fleet, change, context);
  }

  /** What came of a request of the same person by its Idempotency-Key, where its answer was lost. */
  @Get('answers/:key')
  async answer(@Req() request: SignedIn, @Param('key') key: string): Promise<Written> {
    const written = await this.path.answerTo(request.account.id, key);
    if (written) return written;
    throw new ProblemException(404, {
      code: 'not-recorded',
      sentence: 'Nothing was recorded under this key.',
    });
  }

  private problemOf(
    result: Exclude<WriteResult, { kind: 'written' }>,
    request: SignedIn,
  ): ProblemException {
    switch (result.kind) {
      case 'refused':
        return refused(result.refusal);
      case 'forbidden':
        return notYourRole(request.account.role);
      case 'key-reused':
        return new ProblemException(422, {
          code: 'key-reused',
          sentence: 'This idempotency key was used for another request.',
        });
      case 'unmet':
        return asProblem(result.unmet);
    }
  }
}

/** A change as a step of a plan: its input has been checked like any other. */
const drawn = (planId: string, { type, input, reason }: Change): ChangeOf<'plan-step.draw'> => ({
  type: 'plan-step.draw',
  input: { planId, type, input: JSON.stringify(input), ...(reason ? { remark: reason } : {}) },
});

/** @throws ProblemException 404 for a type that nobody described */
function known(type: string): ChangeType {
  if (descriptionOf(type)) return type as ChangeType;
  throw new ProblemException(404, {
    code: 'no-such-change',
    sentence: `There is no change "${type.slice(0, 60)}".`,
    remedy: 'The changes that there are stand in /api/openapi.json.',
  });
}

async function changeIn(type: ChangeType, body: unknown) {
  const { input, ...rest } = await checkBody(ChangeBody, body);
  const checked = await checkBody(inputClass(type), input);
  const said = Object.entries(checked).filter(([, value]) => value !== undefined);
  return { ...rest, type, input: Object.fromEntries(said) } as Change & Pick<ChangeBody, 'expects'>;
}

const asProblem = (unmet: Unmet): ProblemException =>
  unmet.because === 'altered'
    ? new ProblemException(412, {
        code: 'stale',
        sentence: 'Somebody altered this record after you read it.',
        remedy: 'Look at both versions, then keep one.',
        current: unmet.current,
      })
    : new ProblemException(428, {
        code: 'not-said',
        sentence: 'Say which revision you read of what the change alters.',
        remedy: 'Send it under "expects".',
        current: unmet.rows,
      });

/** @throws ProblemException 422 for one that is too long or too short to be kept */
function keyOf({ headers }: SignedIn): string | undefined {
  const key = headers['idempotency-key'];
  if (key === undefined) return undefined;
  if (typeof key === 'string' && key.length > 0 && key.length <= LONGEST_KEY) return key;
  throw new ProblemException(422, {
    code: 'bad-key',
    sentence: `An Idempotency-Key has 1 to ${LONGEST_KEY} characters.`,
  });
}
const LONGEST_KEY = 200;

function hashOf(request: SignedIn): string {
  return createHash('sha256')
    .update(`${request.originalUrl}\n${JSON.stringify(request.body ?? null)}`)
    .digest('hex');
}

@Module({ controllers: [ChangesController] })
export class ChangesModule {}
