import type { ThisMachine } from '@insel/contract';
import { Controller, Get, Module } from '@nestjs/common';
import { AdministratorOnly } from '../account/guard.js';
import { readThisMachine } from './read.js';

@Controller('api/this-machine')
@AdministratorOnly()
class ThisMachineController {
  @Get()
  read(): Promise<ThisMachine> {
    return readThisMachine();
  }
}

@Module({ controllers: [ThisMachineController] })
export class ThisMachineModule {}
