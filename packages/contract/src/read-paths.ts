/**
 * Where each thing that can be read of the record is asked for, below /api. What is asked with it and what is answered
 * stands in reads.ts. This file needs nothing, so that a page can have the paths without the rules that check queries.
 */
export const READ_PATHS = {
  chart: 'chart',
  tolerance: 'tolerance',
  toleranceCounts: 'tolerance/counts',
  pairs: 'tolerance/pairs',
  failure: 'failures/:kind/:id',
  waterline: 'waterline',
  findings: 'findings',
  findingAge: 'findings/age',
  search: 'search',

  hosts: 'hosts',
  host: 'hosts/:id',
  hostsAlike: 'hosts/:id/alike',
  hostSuitability: 'hosts/:id/suitability',
  hostBuild: 'hosts/:id/build-sheet',
  hostBuildPage: 'hosts/:id/build-sheet.html',
  factsScript: 'facts/script',
  factsCompared: 'POST facts/read',

  sites: 'sites',
  routingDomains: 'routing-domains',
  racks: 'racks',
  powerFeeds: 'power-feeds',
  hostGroups: 'host-groups',
  platforms: 'platforms',
  placementRules: 'placement-rules',

  networks: 'networks',
  network: 'networks/:id',
  subnets: 'subnets',
  nextFree: 'subnets/:id/next-free',
  reservations: 'subnets/:id/reservations',
  reach: 'reach',
  matrix: 'POST reach/matrix',
  zoneDefaults: 'names/zone-defaults',
  zones: 'names/zones',
  hostsFile: 'names/hosts-file',
  namesCompared: 'POST names/read',
  nameSources: 'names/sources',
  listPreview: 'POST lists/read',

  machines: 'machines',
  machine: 'machines/:id',
  patchTable: 'patch-table',
  physicalSwitches: 'physical-switches',
  plugs: 'plugs',
  lines: 'lines',
  devices: 'devices',
  device: 'devices/:id',

  guests: 'guests',
  guestSize: 'POST guests/size',
  guest: 'guests/:id',
  guestBuild: 'guests/:id/build',
  guestBuildPage: 'guests/:id/build.html',
  guestEnd: 'guests/:id/end',
  firstStart: 'guests/:id/first-start',
  seedImage: 'guests/:id/seed.iso',
  guestUse: 'guests/:id/use',
  volumePlaces: 'volumes/:id/places',
  profiles: 'profiles',
  profileUse: 'profiles/:id/use',
  guestGroups: 'guest-groups',
  media: 'media',
  pools: 'pools',
  poolsUsed: 'pools/used',
  poolUse: 'pools/:id/use',
  sampleImports: 'samples/imports',
  sampleKeeping: 'samples/keeping',
  startOrder: 'start-order',
  shutDown: 'shut-down',
  services: 'services',

  growth: 'growth',
  plans: 'plans',
  plan: 'plans/:id',
  planRunbook: 'plans/:id/runbook.html',
  plansCompared: 'plans/:id/beside/:other',
  rearranged: 'POST hosts/rearranged',
  patchRound: 'POST hosts/patch-round',
  placedBatch: 'POST hosts/placed-batch',
  searching: 'hosts/rearranged/:search',
  searchStopped: 'POST hosts/rearranged/:search/stop',

  clones: 'clones',
  templates: 'templates',
  entitlements: 'entitlements',
  knownBy: 'guests/:id/known-by',
  proofRead: 'POST clones/proof',
  firstStarts: 'POST clones/first-start',
  migrations: 'migrations',
  migrationRoute: 'migrations/route',
  physicalRoute: 'POST migrations/physical-route',
  consolidation: 'POST migrations/consolidation',
  platformChange: 'migrations/platform-change',

  calibration: 'migrations/calibration',
  timetable: 'migrations/timetable',
  foundTimes: 'POST migrations/times',
  calendar: 'migrations/migrations.ics',
  migration: 'migrations/:id',
  trouble: 'migrations/:id/trouble',
  runbook: 'migrations/:id/runbook.html',

  log: 'log',
  attachment: 'log/attachments/:sha256',
} as const;

export type ReadName = keyof typeof READ_PATHS;

/** A read with all that is asked of it: method, path with its query (what is empty is not asked), body of a long question. */
export function requestOf(
  name: ReadName,
  query: object = {},
): { method: 'GET' | 'POST'; path: string; body?: object } {
  const rest = new Map(Object.entries(query).filter(([, value]) => value !== undefined));
  const method = READ_PATHS[name].startsWith('POST ') ? 'POST' : 'GET';
  const path = READ_PATHS[name].replace('POST ', '').replace(/:(\w+)/g, (_, field: string) => {
    const value = encodeURIComponent(String(rest.get(field)));
    rest.delete(field);
    return value;
  });
  if (method === 'POST') return { method, path, body: Object.fromEntries(rest) };
  const parameters = [...rest]
    .filter(([, value]) => value !== '' && value !== null)
    .map(([key, value]) => `${key}=${encodeURIComponent(String(value))}`);
  return { method, path: parameters.length === 0 ? path : `${path}?${parameters.join('&')}` };
}
