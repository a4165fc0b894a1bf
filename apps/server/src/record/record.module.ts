import { MikroORM } from '@mikro-orm/postgresql';
import { Global, Module } from '@nestjs/common';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { Watches } from '../events/watches.js';
import { OrderCache } from '../views/orders.js';
import { FleetKeeper } from './keeper.js';
import { PlannedFleets } from './planned-fleets.js';
import { PastFleets } from './past-fleets.js';
import { RoutineMoves } from './routine-moves.js';
import { Samples } from './samples.js';
import { MemoryCeiling } from './memory-ceiling.js';
import { ServerController } from './server.controller.js';
import { WritePath } from './write-path.js';
import { WriteTimes } from './write-times.js';

const SHARED = [
  Clock,
  FleetKeeper,
  WritePath,
  WriteTimes,
  MemoryCeiling,
  RoutineMoves,
  Computation,
  OrderCache,
  Watches,
  PastFleets,
  PlannedFleets,
  { provide: Samples, useFactory: (orm: MikroORM) => new Samples(orm), inject: [MikroORM] },
];

/** What every area needs: the fleet, the way to alter it, the worker. */
@Global()
@Module({ controllers: [ServerController], providers: SHARED, exports: SHARED })
export class RecordModule {}
