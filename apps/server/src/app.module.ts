import { MikroORM } from '@mikro-orm/postgresql';
import { Global, Module, type DynamicModule, type OnApplicationShutdown } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, APP_INTERCEPTOR, APP_PIPE } from '@nestjs/core';
import { AccountController } from './account/account.controller.js';
import { ApiTokens } from './account/api-tokens.js';
import { People } from './account/people.js';
import { SessionEndings } from './account/session-endings.js';
import { Sessions } from './account/sessions.js';
import { SetUp } from './account/set-up.js';
import { SignInAttempts } from './account/sign-in-attempts.js';
import { AccountGuard } from './account/guard.js';
import { ChangesModule } from './changes/changes.module.js';
import { CONFIG, type Config } from './config.js';
import { Notices } from './database/notices.js';
import { DatabaseWatch } from './database/watch.js';
import { EventsModule } from './events/events.module.js';
import { ContractPipe } from './http/body-pipe.js';
import { HealthController } from './http/health.controller.js';
import { ProblemFilter } from './http/problem.js';
import { RevisionInterceptor } from './http/revision.interceptor.js';
import { MeasureModule } from './measure/measure.module.js';
import { ReadsModule } from './reads/reads.module.js';
import { RecordModule } from './record.module.js';
import { ThisMachineModule } from './this-machine/this-machine.module.js';

const ACCOUNTS = [People, Sessions, SessionEndings, ApiTokens, SetUp, SignInAttempts];
const AREAS = [ChangesModule, ReadsModule, MeasureModule, EventsModule, ThisMachineModule];

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
        DatabaseWatch,
        Notices,
        ...ACCOUNTS,
        { provide: APP_GUARD, useClass: AccountGuard },
        { provide: APP_PIPE, useClass: ContractPipe },
        { provide: APP_FILTER, useClass: ProblemFilter },
        { provide: APP_INTERCEPTOR, useClass: RevisionInterceptor },
      ],
      exports: [CONFIG, MikroORM, DatabaseWatch, Notices, ...ACCOUNTS],
    };
  }

  async onApplicationShutdown(): Promise<void> {
    await this.orm.close(true);
  }
}
