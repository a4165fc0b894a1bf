/** What stands in the way of a move off a computer or onto one, before anything else is asked. */
import { type Fleet, type Refusal, refuse, type Row } from '../record/index.js';
import { METHODS } from './method.js';

/** Its move that is planned, started or switched, in either direction. */
export const openMoveOf = (fleet: Fleet, { id }: Row<'device'>): Row<'migration'> | undefined =>
  [
    ...fleet.referring('migration', 'sourceDeviceId', id),
    ...fleet.referring('migration', 'targetDeviceId', id),
  ].find(({ state }) => state !== 'accepted' && state !== 'rolled back');

/** One move at a time: what is open is finished first. */
export function openMove(fleet: Fleet, device: Row<'device'>): Refusal | undefined {
  const open = openMoveOf(fleet, device);
  return (
    open &&
    refuse({
      code: 'migration-open',
      field: 'deviceId',
      sentence: `${device.name} has a migration that is ${open.state}.`,
      remedy: 'Finish that one first.',
    })
  );
}

export function methodFault(
  method: Row<'migration'>['method'],
  side: 'source' | 'target',
): Refusal | undefined {
  if (method === null) return undefined;
  const { ofComputers, words } = METHODS[method];
  if (ofComputers === 'both' || ofComputers === side) return undefined;
  return refuse({
    code: 'method-unfit',
    field: 'method',
    sentence: `${words}: that is not done with a computer as its ${side}.`,
    remedy: 'Choose another method.',
  });
}
