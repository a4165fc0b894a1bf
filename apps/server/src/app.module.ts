import { MikroORM } from '@mikro-orm/postgresql';
import { Global, Module, type DynamicModule, type OnApplicationShutdown } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, APP_INTERCEPTOR, APP_PIPE } from '@nestjs/core';
import { AccountController } from './account/account.controller.js';
import { Accounts } from './account/accounts.js';
import { AccountGuard } from './account/guard.js';
import { ChangesModule } from './changes/changes.module.js';
import { GuestCareModule } from './guest-care/guest-care.module.js';
import { ChartModule } from './chart/chart.module.js';
import { ClonesModule } from './clones/clones.module.js';
import { CONFIG, type Config } from './config.js';
import { EventsModule } from './events/events.module.js';
import { FindingsModule } from './findings/findings.module.js';
import { GuestsModule } from './guests/guests.module.js';
import { HostsModule } from './hosts/hosts.module.js';
import { ContractPipe } from './http/body-pipe.js';
import { HealthController } from './http/health.controller.js';
import { ProblemFilter } from './http/problem.js';
import { RevisionInterceptor } from './http/revision.interceptor.js';
import { LogModule } from './log/log.module.js';
import { HardwareModule } from './hardware/hardware.module.js';
import { MeasureModule } from './measure/measure.module.js';
import { MediaModule } from './media/media.module.js';
import { MigrationsModule } from './migrations/migrations.module.js';
import { NamesModule } from './names/names.module.js';
import { NetworksModule } from './networks/networks.module.js';
import { PlacesModule } from './places/places.module.js';
import { ReachModule } from './reach/reach.module.js';
import { RecordModule } from './record/record.module.js';
import { SearchModule } from './search/search.module.js';
import { SizingModule } from './sizing/sizing.module.js';
import { StartsModule } from './starts/starts.module.js';
import { ThisMachineModule } from './this-machine/this-machine.module.js';
import { WiringModule } from './wiring/wiring.module.js';

const AREAS = [
  ChangesModule,
  ChartModule,
  HostsModule,
  HardwareModule,
  PlacesModule,
  NetworksModule,
  WiringModule,
  ReachModule,
  NamesModule,
  SizingModule,
  GuestCareModule,
  GuestsModule,
  MediaModule,
  MeasureModule,
  StartsModule,
  ClonesModule,
  MigrationsModule,
  LogModule,
  FindingsModule,
  SearchModule,
  EventsModule,
  ThisMachineModule,
];

@Global()
@Module({})
export class AppModule implements OnApplicationShutdown {
  constructor(private readonly orm: MikroORM) {}

  static with(config: Config, orm: MikroORM): DynamicModule {
    return {
      module: AppModule,
      global: true,
      imports: [RecordModule, ...AREAS],
      controllers: [AccountController, HealthController],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: MikroORM, useValue: orm },
        Accounts,
        { provide: APP_GUARD, useClass: AccountGuard },
        { provide: APP_PIPE, useClass: ContractPipe },
        { provide: APP_FILTER, useClass: ProblemFilter },
        { provide: APP_INTERCEPTOR, useClass: RevisionInterceptor },
      ],
      exports: [CONFIG, MikroORM, Accounts],
    };
  }

  async onApplicationShutdown(): Promise<void> {
    await this.orm.close(true);
  }
}
