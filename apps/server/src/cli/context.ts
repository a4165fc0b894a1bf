/** The application without its HTTP side, for commands. */
import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import { AppModule } from '../app.module.js';
import { configFromEnvironment, type Config } from '../config.js';
import { openOrm } from '../database/orm.js';
import { endOnUncaught, RedactingLogger } from '../logging/redacting-logger.js';
import { FleetKeeper } from '../record/keeper.js';
import { endWith } from '../why-not-started.js';

export async function openContext() {
  endOnUncaught();
  const where: Partial<Config> = {};
  try {
    const config = Object.assign(where, configFromEnvironment());
    const app = await NestFactory.createApplicationContext(
      AppModule.with(config, await openOrm(config.databaseUrl)),
      { logger: new RedactingLogger({ logLevels: ['error', 'warn'] }) },
    );
    await app.get(FleetKeeper).start();
    return app;
  } catch (error) {
    return endWith(error, where, (text) => console.error(text));
  }
}
