/** Sizing a guest: the tries run in the worker. */
import { SizeGuestBody, type SizeAnswer } from '@insel/contract';
import { Body, Controller, HttpCode, Module, Post } from '@nestjs/common';
import { ForReaders } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { notFound } from '../http/problem.js';

@Controller('api/guests')
class SizingController {
  constructor(
    private readonly computation: Computation,
    private readonly clock: Clock,
  ) {}

  @Post('size')
  @ForReaders()
  @HttpCode(200)
  async size(@Body() body: SizeGuestBody): Promise<SizeAnswer> {
    const answer = await this.computation.ask('sizeGuest', { now: this.clock.now(), body });
    if (!answer) throw notFound('role');
    return answer;
  }
}

@Module({ controllers: [SizingController] })
export class SizingModule {}
