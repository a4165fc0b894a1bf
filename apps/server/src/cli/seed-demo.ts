/** Writes demo accounts and the demo's history into an empty record, once. Prints nothing; the password comes from INSEL_DEMO_PASSWORD. */
import { CONSOLE } from '../account/account-log.js';
import { People } from '../account/people.js';
import { Clock } from '../clock.js';
import { CONFIG, type Config } from '../config.js';
import { writeDemo } from '../demo/demo.js';
import { RECORD_BEGAN } from '../demo/half-year.js';
import { writeSamples } from '../demo/samples.js';
import { FleetKeeper } from '../record/keeper.js';
import { SYSTEM } from '../record/system-actor.js';
import { WritePath } from '../changes/write-path.js';
import { openContext } from './context.js';

const app = await openContext();
try {
  const [people, keeper, path] = [app.get(People), app.get(FleetKeeper), app.get(WritePath)];
  if (keeper.fleet.revision === 0) {
    const password = process.env.INSEL_DEMO_PASSWORD!;
    const now = app.get(Clock).now();
    await path.commit({
      change: { type: 'record.begin', input: {} },
      actor: SYSTEM,
      now: new Date(Date.parse(now) - RECORD_BEGAN * 86_400_000).toISOString(),
    });
    const administrator = {
      id: await people.add('administrator', 'administrator', password, CONSOLE),
      name: 'administrator',
      role: 'administrator' as const,
    };
    const planner = {
      id: await people.add('planner', 'planner', password, CONSOLE),
      name: 'planner',
      role: 'planner' as const,
    };
    await people.add('reader', 'reader', password, CONSOLE);
    await writeDemo(path, keeper, { administrator, planner }, now);
    await writeSamples(app.get<Config>(CONFIG).databaseUrl, keeper.fleet, now);
  }
} finally {
  await app.close();
}
