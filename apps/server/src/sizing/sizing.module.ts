/** Sizing a guest. The tries run in the worker; what similar guests were measured to use comes from the samples. */
import { SizeGuestBody, type SizeAnswer } from '@insel/contract';
import { Body, Controller, HttpCode, Module, Post } from '@nestjs/common';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { notFound } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { Samples } from '../record/samples.js';

/** So many guests of a role stand for all of them. */
const MOST_SIMILAR = 20;

@Controller('api/guests')
class SizingController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly computation: Computation,
    private readonly samples: Samples,
    private readonly clock: Clock,
  ) {}

  @Post('size')
  @HttpCode(200)
  async size(@Body() body: SizeGuestBody): Promise<SizeAnswer> {
    const { fleet } = this.keeper;
    const likes = fleet.referring('guest', 'profileId', body.profileId).filter((guest) => guest.state === 'in service').slice(0, MOST_SIMILAR);
    const similar = await this.samples.similar(likes.map(({ id, vcpu }) => ({ id, vcpu })));
    const answer = await this.computation.ask('sizeGuest', { now: this.clock.now(), body, similar });
    if (!answer) throw notFound('role');
    return answer;
  }
}

@Module({ controllers: [SizingController] })
export class SizingModule {}
