/** One process that serves the web application and the API. */
import 'reflect-metadata';
import type { Server } from 'node:http';
import cookieParser from 'cookie-parser';
import express, { type Request, type Response } from 'express';
import helmet from 'helmet';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { pino } from 'pino';
import { pinoHttp } from 'pino-http';
import { People } from './account/people.js';
import { Sessions } from './account/sessions.js';
import { SetUp } from './account/set-up.js';
import { SignInAttempts } from './account/sign-in-attempts.js';
import { AppModule } from './app.module.js';
import { Computation } from './computation/computation.js';
import { configFromEnvironment, type Config } from './config.js';
import { Notices } from './database/notices.js';
import { openOrm } from './database/orm.js';
import { DatabaseWatch } from './database/watch.js';
import { answerWhileAway } from './http/while-away.js';
import { allowedHosts, readable, sameOrigin } from './http/request-checks.js';
import { openApiDocument } from './http/openapi.js';
import { endOnUncaught, RedactingLogger } from './logging/redacting-logger.js';
import { redacted, safeText } from './logging/safe-text.js';
import { Clock } from './clock.js';
import { FleetKeeper } from './record/keeper.js';
import { warm } from './reads/warm.js';
import { OrderCache } from './views/orders.js';
import { SumUpSamples } from './measure/sum-up-samples.js';
import { RoutineMoves } from './changes/routine-moves.js';
import { SYSTEM } from './record/system-actor.js';
import { WritePath } from './changes/write-path.js';
import { endWith } from './why-not-started.js';
import { serveWebApp } from './web-app.js';

/** Time that requests under way get when the server ends. */
const ENDING_MS = 1500;

/** Counting the rows of a large record takes the database seconds: after the first rush of a start. */
const MANY_GUESTS = 2000;
const CALM_MS = 120_000;
/** What is kept for a while only is cleared away so often. */
const CLEARING_MS = 3_600_000;

/** Reading the record keeps one processor busy here and one in the database: with fewer than this the worker reads it afterwards. */
const CORES_OF_TWO_READINGS = 4;

endOnUncaught();

async function begin(config: Config): Promise<void> {
  const orm = await openOrm(config.databaseUrl);
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config, orm), {
    logger: new RedactingLogger({ logLevels: ['error', 'warn'] }),
    bodyParser: false,
  });

  app.enableShutdownHooks();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger: pino({ level: config.logLevel }),
      // Never the headers: they carry cookies and tokens.
      serializers: {
        req: ({ id, method, url }: { id: string; method: string; url: string }) => ({
          id,
          method,
          url: redacted(url),
        }),
        res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
        err: safeText,
      },
      autoLogging: config.logLevel === 'info' || config.logLevel === 'debug',
    }),
  );
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'", 'data:'],
          frameAncestors: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  // Only a proxy that is named is believed whom it passes on.
  if (config.proxies.length) app.set('trust proxy', config.proxies);
  app.use(allowedHosts(config));
  app.use(sameOrigin);
  app.use(readable);
  app.use(cookieParser());
  // Whoever is not signed in yet has little to say.
  app.use(['/api/session', '/api/set-up'], express.json({ limit: '16kb' }));
  app.use(express.json({ limit: '2mb' }));

  app.use(answerWhileAway(app.get(DatabaseWatch)));

  const document = openApiDocument(app);
  app.use('/api/openapi.json', (_request: Request, response: Response) => response.json(document));

  if (config.webFolder) serveWebApp(app, config);

  await app.listen(config.port, config.host);
  const http = app.getHttpServer() as Server;
  // Longer than clients and proxies keep an idle connection: otherwise a request may meet one that is just being closed.
  http.keepAliveTimeout = 75_000;
  // What is under way may finish when the server ends; streams of events, which never do, and idle connections are closed.
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => setTimeout(() => http.closeAllConnections(), ENDING_MS).unref());
  const { port } = http.address() as { port: number };
  // Read by the process that started this one.
  console.log(`INSEL_LISTENING ${port}`);

  const keeper = app.get(FleetKeeper);
  const computation = app.get(Computation);
  computation.start(config.cores < CORES_OF_TWO_READINGS);
  await Promise.all([keeper.start(), app.get(Notices).start()]);
  computation.read();
  warm(keeper, { now: app.get(Clock).now(), orders: app.get(OrderCache) });
  if (keeper.fleet.revision === 0)
    await app.get(WritePath).commit({ change: { type: 'record.begin', input: {} }, actor: SYSTEM });
  if (!(await app.get(People).anyAdministrator()))
    console.log(`INSEL_SET_UP_TOKEN ${await app.get(SetUp).tokenForFirst(config.setUpToken)}`);
  console.log('INSEL_READY');
  app.get(RoutineMoves).start();
  app.get(SumUpSamples).start();
  const count = () => void keeper.countRows().catch(() => undefined);
  if (keeper.fleet.count('guest') < MANY_GUESTS) count();
  else setTimeout(count, CALM_MS).unref();
  const clear = () =>
    Promise.all([app.get(Sessions).clear(), app.get(SignInAttempts).clear()]).catch(
      () => undefined,
    );
  await clear();
  setInterval(() => void clear(), CLEARING_MS).unref();
}

const where: Partial<Config> = {};
try {
  await begin(Object.assign(where, configFromEnvironment()));
} catch (error) {
  endWith(error, where, (text) => console.error(text));
}
