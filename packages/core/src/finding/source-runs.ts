import { STAND_ALONE_DESCRIPTIONS } from '../record/index.js';
import { practice } from '../figure/index.js';
import { setGuestState } from '../guest/index.js';
import { sideOf } from '../migration/index.js';
import { mendBy } from './mend.js';
import { ruleAt } from './rule-at.js';

/** A computer and the guest that it became, or that went onto it, are both recorded as running while one is kept as the way back. */
export const sourceRuns = ruleAt('migration', 'source-runs', (fleet, migration) => {
  const { state, keepsBoth, sourceDeviceId, targetDeviceId } = migration;
  const device = fleet.get('device', sourceDeviceId ?? targetDeviceId);
  const guest = fleet.need('guest', migration.guestId);
  const kept = fleet.referringCount('hold', 'migrationId', migration.id) > 0;
  const settled = state === 'switched' || (state === 'accepted' && kept);
  if (!device || keepsBoth || !settled) return [];
  if (device.state !== 'in service' || guest.state !== 'in service') return [];
  const source = sideOf(fleet, migration, 'source').name;
  return [
    {
      severity: 'blocker',
      about: { kind: 'migration', id: migration.id, name: guest.name },
      evidence: sourceDeviceId
        ? `${device.name} is in service, and so is the guest ${guest.name} that it became.`
        : `The guest ${guest.name} is in service on ${source}, and so is ${device.name}, onto which it went.`,
      consequence: 'Two own systems with one identity both lose their connections.',
      remedy: 'Shut the source down, take its cables out; or roll the migration back.',
      source: practice('The source stays off from the switch on'),
      mend: sourceDeviceId
        ? mendBy(fleet, `Record ${device.name} as off`, STAND_ALONE_DESCRIPTIONS['device.edit'], {
            id: device.id,
            state: 'off',
          })
        : mendBy(fleet, `Record ${guest.name} as stopped`, setGuestState, {
            id: guest.id,
            state: 'stopped',
          }),
    },
  ];
});
