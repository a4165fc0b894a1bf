/** Shape 4 of the log: guests have a profile, devices, a build, an end; media a system and a release. Older patches are read with these values. */
import { gaining } from './gaining.js';

export const toShape4 = gaining({
  platform: {
    diskBuses: ['paravirtual', 'SATA', 'IDE'],
    adapterModels: ['paravirtual', 'emulated'],
    uefiGuests: true,
    legacyGuests: true,
    acceleratedGraphics: false,
    interfacePattern: 'enp{n}s0',
    interfaceFirst: 1,
  },
  medium: {
    family: 'none',
    system: '',
    release: '',
    releasedOn: null,
    install: 'full',
    poolId: null,
  },
  guest: {
    profileId: null,
    groupId: null,
    firmware: 'unknown',
    bootFirst: 'unknown',
    graphics: 'unknown',
    criticality: 'not said',
    outageWindow: '',
    endDate: null,
    stateAt: null,
  },
  volume: { bus: 'unknown', use: 'disk', split: false, baseId: null, usedBytes: null },
  adapter: { model: 'unknown', nameInside: '' },
});
