/** What starts before what at the observatory, with a circle at the annex. All invented. */
import type { NewFields } from '@insel/core';
import type { Wirer } from './cabling.js';

const SERVICES: {
  name: string;
  what: NewFields<'service'>['what'];
  guests: string[];
  devices?: string[];
}[] = [
  { name: 'names of the houses', what: 'names', guests: ['names-1', 'names-2'] },
  { name: 'time', what: 'time', guests: [], devices: ['harbour-gate'] },
  { name: 'staff accounts', what: 'directory', guests: ['directory'] },
  { name: 'tide data', what: 'other', guests: ['tide-db'] },
  { name: 'media share', what: 'storage', guests: ['backup'] },
];

const NEEDS: { guest?: string; host?: string; service?: string; on?: string; purpose?: string }[] =
  [
    { guest: 'directory', service: 'names of the houses' },
    { guest: 'directory', service: 'time', purpose: 'sign-in fails when clocks are apart' },
    ...['office-files', 'ledger', 'desk-2', 'watch-post'].map((guest) => ({
      guest,
      service: 'staff accounts',
    })),
    { guest: 'tide-db', service: 'names of the houses' },
    ...['tide-api', 'tide-ingest'].map((guest) => ({ guest, service: 'tide data' })),
    { guest: 'ferry-times', on: 'tide-api', purpose: 'sails by the tide' },
    { guest: 'archive', service: 'names of the houses' },
    { host: 'eider', service: 'media share', purpose: 'mounts its install images from there' },
  ];

/** Seconds to be of use, where it is not a minute. */
const SLOW: Record<string, number> = {
  directory: 420,
  'tide-db': 240,
  'office-files': 180,
  archive: 150,
};

export async function writeStarts({ make, fleet, id }: Wirer): Promise<void> {
  for (const { name, what, guests, devices = [] } of SERVICES) {
    await make({ type: 'service.record', input: { name, what } });
    const serviceId = serviceOf(name);
    for (const guest of guests)
      await make({ type: 'provider.record', input: { serviceId, guestId: id('guest', guest) } });
    for (const device of devices)
      await make({ type: 'provider.record', input: { serviceId, deviceId: id('device', device) } });
  }
  for (const { guest, host, service, on, purpose = '' } of NEEDS) {
    const who = guest ? { guestId: id('guest', guest) } : { hostId: id('host', host!) };
    const what = service ? { serviceId: serviceOf(service) } : { onGuestId: id('guest', on!) };
    await make({
      type: 'need.record',
      input: { ...who, ...what, purpose },
      reason: 'As found when the power was cut in October',
    });
  }
  for (const [name, startSeconds] of Object.entries(SLOW))
    await make({ type: 'guest.edit', input: { id: id('guest', name), startSeconds } });

  function serviceOf(name: string): string {
    return [...fleet.all('service')].find((service) => service.name === name)!.id;
  }
}
