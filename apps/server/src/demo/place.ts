/**
 * The Nordholm tidal observatory: an invented place. Hosts are named after sea birds, guests after what they do.
 * Addresses from RFC 1918 ranges; every figure is made up.
 */
import { GIB, TB } from '@insel/core';

export const SITES = ['Harbour house', 'Lighthouse annex', 'Mainland office'];

export interface DemoNetwork {
  name: string;
  site: string;
  vlanId: number;
  purpose: string;
  prefix: string;
  gateway: string | null;
  ranges?: { use: 'dynamic' | 'reserved'; firstIp: string; lastIp: string; purpose?: string }[];
}

export const NETWORKS: DemoNetwork[] = [
  { name: 'harbour-mgmt', site: 'Harbour house', vlanId: 210, purpose: 'management of hosts', prefix: '172.22.10.0/24', gateway: '172.22.10.1' },
  { name: 'harbour-guests', site: 'Harbour house', vlanId: 212, purpose: 'servers of the station', prefix: '172.22.12.0/23', gateway: '172.22.12.1', ranges: [{ use: 'dynamic', firstIp: '172.22.13.100', lastIp: '172.22.13.199' }] },
  { name: 'storage-a', site: 'Harbour house', vlanId: 31, purpose: 'storage paths', prefix: '10.77.1.0/27', gateway: null },
  {
    name: 'annex-guests',
    site: 'Lighthouse annex',
    vlanId: 214,
    purpose: 'servers of the annex',
    prefix: '172.22.14.0/24',
    gateway: '172.22.14.1',
    ranges: [
      { use: 'dynamic', firstIp: '172.22.14.30', lastIp: '172.22.14.99', purpose: 'instruments' },
      { use: 'reserved', firstIp: '172.22.14.224', lastIp: '172.22.14.254', purpose: 'second lamp controller' },
    ],
  },
  { name: 'pen', site: 'Lighthouse annex', vlanId: 290, purpose: 'trying things out', prefix: '172.22.90.0/28', gateway: null },
  { name: 'office', site: 'Mainland office', vlanId: 232, purpose: 'desks and their servers', prefix: '172.22.32.0/23', gateway: '172.22.32.1', ranges: [{ use: 'dynamic', firstIp: '172.22.33.0', lastIp: '172.22.33.254' }] },
  { name: 'visitors', site: 'Mainland office', vlanId: 240, purpose: 'visiting researchers', prefix: '172.22.40.0/28', gateway: '172.22.40.1', ranges: [{ use: 'dynamic', firstIp: '172.22.40.8', lastIp: '172.22.40.14' }] },
  { name: 'annex-six', site: 'Lighthouse annex', vlanId: 216, purpose: 'IPv6 trial', prefix: '2001:db8:14::/64', gateway: '2001:db8:14::1' },
];

export interface DemoHost {
  name: string;
  site: string;
  state: 'in service' | 'maintenance' | 'building' | 'planned';
  platform: string;
  model: string;
  sockets: number;
  cores: number;
  memoryGiB: number;
  seesGiB: number | null;
  poolBytes: number;
  networks: string[];
  ip: string;
  purpose: string;
}

const G1 = 'Generic bare-metal 1';
const G2 = 'Generic bare-metal 2, lean';

export const HOSTS: DemoHost[] = [
  { name: 'gannet', site: 'Harbour house', state: 'in service', platform: G1, model: 'Invented R2 2.9 GHz', sockets: 2, cores: 16, memoryGiB: 256, seesGiB: 251, poolBytes: 8 * TB, networks: ['harbour-mgmt', 'harbour-guests', 'storage-a'], ip: '172.22.10.11', purpose: 'cameras and models' },
  { name: 'fulmar', site: 'Harbour house', state: 'in service', platform: G1, model: 'Invented R2 2.9 GHz', sockets: 2, cores: 16, memoryGiB: 256, seesGiB: 251, poolBytes: 8 * TB, networks: ['harbour-mgmt', 'harbour-guests', 'storage-a'], ip: '172.22.10.12', purpose: 'cameras and models' },
  { name: 'razorbill', site: 'Harbour house', state: 'in service', platform: G1, model: 'Invented R1 3.1 GHz', sockets: 1, cores: 12, memoryGiB: 128, seesGiB: 125, poolBytes: 4 * TB, networks: ['harbour-mgmt', 'harbour-guests'], ip: '172.22.10.13', purpose: 'tide services' },
  { name: 'puffin', site: 'Harbour house', state: 'building', platform: G2, model: 'Invented E1 2.4 GHz', sockets: 1, cores: 8, memoryGiB: 64, seesGiB: null, poolBytes: 2 * TB, networks: ['harbour-mgmt', 'harbour-guests'], ip: '172.22.10.14', purpose: 'ferry and public pages' },
  { name: 'tern', site: 'Lighthouse annex', state: 'in service', platform: G1, model: 'Invented E1 2.4 GHz', sockets: 1, cores: 16, memoryGiB: 128, seesGiB: 125, poolBytes: 4 * TB, networks: ['annex-guests', 'annex-six', 'pen'], ip: '172.22.14.11', purpose: 'annex' },
  { name: 'eider', site: 'Lighthouse annex', state: 'in service', platform: G1, model: 'Invented E1 2.9 GHz', sockets: 1, cores: 16, memoryGiB: 128, seesGiB: 125, poolBytes: 12 * TB, networks: ['annex-guests', 'pen'], ip: '172.22.14.15', purpose: 'backups and radar' },
  { name: 'plover', site: 'Lighthouse annex', state: 'in service', platform: G2, model: 'Invented M1 2.2 GHz', sockets: 1, cores: 4, memoryGiB: 32, seesGiB: 31, poolBytes: 1 * TB, networks: ['annex-guests', 'pen'], ip: '172.22.14.16', purpose: 'lamp and horn' },
  { name: 'kestrel', site: 'Mainland office', state: 'in service', platform: G1, model: 'Invented R1 3.1 GHz', sockets: 2, cores: 12, memoryGiB: 192, seesGiB: 188, poolBytes: 6 * TB, networks: ['office', 'visitors'], ip: '172.22.32.11', purpose: 'office' },
  { name: 'skua', site: 'Mainland office', state: 'planned', platform: G1, model: 'Invented R1 3.1 GHz', sockets: 2, cores: 12, memoryGiB: 192, seesGiB: null, poolBytes: 6 * TB, networks: ['office'], ip: '172.22.32.12', purpose: 'second office host' },
];

/** A pool that several hosts reach. */
export const SHARED_POOL = { name: 'quay', usableBytes: 20 * TB, hosts: ['gannet', 'fulmar', 'razorbill'] };

type Family = 'Linux' | 'BSD' | 'NT family' | 'appliance';
/** name, host, pool, family, vCPU, GiB of memory, GiB of disk, network, last part(s) of the address or "next", purpose, state */
export type DemoGuest = [string, string, string, Family, number, number, number, string, string, string, ('in service' | 'stopped')?];

export const GUESTS: DemoGuest[] = [
  ['camera-store', 'gannet', 'quay', 'Linux', 8, 48, 4000, 'harbour-guests', '172.22.12.20', 'frames of the shore cameras'],
  ['model-run', 'gannet', 'gannet-data', 'Linux', 32, 96, 800, 'harbour-guests', '172.22.12.21', 'surge model'],
  ['chart-render', 'gannet', 'gannet-data', 'Linux', 12, 24, 200, 'harbour-guests', '172.22.12.22', 'charts for the public pages'],
  ['names-1', 'gannet', 'gannet-data', 'BSD', 2, 2, 20, 'harbour-guests', '172.22.12.53', 'name server'],
  ['tide-ingest', 'fulmar', 'quay', 'Linux', 4, 16, 300, 'harbour-guests', '172.22.12.30', 'readings of the gauges'],
  ['tide-db', 'fulmar', 'quay', 'Linux', 12, 64, 1200, 'harbour-guests', '172.22.12.31', 'data base of the gauges'],
  ['weather-mirror', 'fulmar', 'fulmar-data', 'Linux', 4, 8, 900, 'harbour-guests', '172.22.12.32', 'copies of forecasts'],
  ['names-2', 'fulmar', 'fulmar-data', 'BSD', 2, 2, 20, 'harbour-guests', '172.22.12.54', 'name server'],
  ['directory', 'fulmar', 'fulmar-data', 'NT family', 4, 12, 120, 'harbour-guests', '172.22.12.40', 'accounts of the staff'],
  ['archive', 'razorbill', 'quay', 'Linux', 4, 56, 3000, 'harbour-guests', '172.22.12.50', 'papers and logs since the first gauge'],
  ['tide-api', 'razorbill', 'razorbill-data', 'Linux', 8, 24, 80, 'harbour-guests', '172.22.12.33', 'tides for others'],
  ['watch-post', 'razorbill', 'razorbill-data', 'Linux', 4, 16, 200, 'harbour-guests', '172.22.12.60', 'monitoring'],
  ['build-yard', 'razorbill', 'razorbill-data', 'Linux', 8, 12, 160, 'harbour-guests', '172.22.12.61', 'builds of our own programs', 'stopped'],
  ['light-ctl', 'tern', 'tern-data', 'Linux', 2, 8, 60, 'annex-guests', '172.22.14.101', 'the lamp'],
  ['weather-sta', 'tern', 'tern-data', 'Linux', 4, 12, 200, 'annex-guests', '172.22.14.102', 'weather station'],
  ['buoy-gw', 'tern', 'tern-data', 'appliance', 2, 4, 16, 'annex-guests', '172.22.14.103', 'gateway to the buoys'],
  ['seal-count', 'tern', 'tern-data', 'Linux', 8, 40, 700, 'annex-guests', '172.22.14.104', 'counting seals on pictures'],
  ['backup', 'eider', 'eider-data', 'Linux', 6, 56, 8000, 'annex-guests', '172.22.14.20', 'backups of both houses'],
  ['radar-db', 'eider', 'eider-data', 'Linux', 8, 32, 1500, 'annex-guests', '172.22.14.21', 'radar tracks'],
  ['desk-2', 'eider', 'eider-data', 'NT family', 2, 8, 80, 'annex-guests', '172.22.14.37', 'desk of the keeper'],
  ['lamp-log', 'plover', 'plover-data', 'Linux', 2, 12, 80, 'annex-guests', '172.22.14.110', 'log of the lamp'],
  ['horn-ctl', 'plover', 'plover-data', 'Linux', 2, 12, 60, 'annex-guests', '172.22.14.111', 'the fog horn'],
  ['bird-song', 'plover', 'plover-data', 'Linux', 4, 10, 300, 'annex-guests', '172.22.14.112', 'recordings of calls'],
  ['office-files', 'kestrel', 'kestrel-data', 'NT family', 4, 24, 2000, 'office', '172.22.32.20', 'files of the office'],
  ['ledger', 'kestrel', 'kestrel-data', 'NT family', 4, 16, 200, 'office', '172.22.32.21', 'accounts'],
  ['ferry-times', 'kestrel', 'kestrel-data', 'Linux', 2, 4, 40, 'office', '172.22.32.22', 'timetable of the ferry'],
  ['print-room', 'kestrel', 'kestrel-data', 'Linux', 2, 4, 40, 'office', '172.22.32.23', 'printing'],
  ['visitor-desk-1', 'kestrel', 'kestrel-data', 'Linux', 2, 4, 40, 'visitors', '172.22.40.2', 'desk for a visitor'],
  ['visitor-desk-2', 'kestrel', 'kestrel-data', 'Linux', 2, 4, 40, 'visitors', '172.22.40.3', 'desk for a visitor'],
  ['visitor-desk-3', 'kestrel', 'kestrel-data', 'Linux', 2, 4, 40, 'visitors', '172.22.40.4', 'desk for a visitor'],
  ['visitor-desk-4', 'kestrel', 'kestrel-data', 'Linux', 2, 4, 40, 'visitors', '172.22.40.5', 'desk for a visitor'],
  ['visitor-gate', 'kestrel', 'kestrel-data', 'appliance', 2, 2, 16, 'visitors', '172.22.40.6', 'gate to the outside'],
  ['gauge-master', 'gannet', 'quay', 'Linux', 2, 4, 40, 'harbour-guests', '172.22.12.70', 'master of the gauge readers', 'stopped'],
];

export const volumeOf = (gib: number): number => gib * GIB;
