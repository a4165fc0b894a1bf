import { MikroORM } from '@mikro-orm/postgresql';
import { Global, Module } from '@nestjs/common';
import { Clock } from './clock.js';
import { Computation } from './computation/computation.js';
import { Watches } from './events/watches.js';
import { OrderCache } from './views/orders.js';
import { FleetKeeper } from './record/keeper.js';
import { PlannedFleets } from './standpoint/planned-fleets.js';
import { PastFleets } from './standpoint/past-fleets.js';
import { RoutineMoves } from './changes/routine-moves.js';
import { Samples } from './record/samples.js';
import { MemoryCeiling } from './record/memory-ceiling.js';
import { ServerController } from './server.controller.js';
import { WritePath } from './changes/write-path.js';
import { WriteTimes } from './changes/write-times.js';

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
