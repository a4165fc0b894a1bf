/** Shape 2 of the log: hosts, platforms, pools, guests and addresses gained fields. Older patches are read as if they had held these values. */
import { gaining, type Gained } from './gaining.js';

const GAINED: Gained = {
  platform: {
    architecture: 'x86-64', minimumLevel: 1, needsVirtualisation: true, needsWiredPort: true, minimumMemoryMiB: 4096,
    footprintBytes: 32000000000, secureBoot: 'either', natShared: true, consolePort: null, runningMigration: true, thinVolumes: true,
    dependentClones: true, adapterChangeNeedsRestart: false,
  },
  host: {
    groupId: null, outerGuestId: null, rackId: null, rackUnit: null, rackHeight: 1, machineModel: '', serial: '', warrantyUntil: null,
    weightKg: null, powerSupplies: 1, drawWatts: null, memorySlots: null, bays: null, controller: '', controllerMode: 'unknown',
    bootMode: 'unknown', secureBoot: 'unknown', videoConnector: 'unknown', passThrough: [], architecture: 'x86-64', baseMhz: null, flags: '',
    statedLevel: null, virtualisation: 'unknown', licence: '', licenceUntil: null, licenceKeyKept: '', domain: '', timeZone: '', keyboard: '', gateway: null,
    nameServers: [], consolePort: null, certificateSha256: '', certificateUntil: null, networkChangedAt: null,
  },
  pool: {
    arrayId: null, diskId: null, remote: '', copies: 1, fillAlarmPercent: 85, usedBytes: null,
  },
  guest: {
    processorMode: 'unknown', nestedVirtualisation: false,
  },
  address: {
    prefixLength: null,
  },
};

export const toShape2 = gaining(GAINED);
