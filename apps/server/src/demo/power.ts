/** Power feeds of the observatory, what hangs on them, and who takes long to stop. All invented. */
import type { Wirer } from './cabling.js';

const FEEDS = [
  // One of them does not carry all of the house: 1,620 W when the other fails.
  { name: 'harbour left', site: 'Harbour house', watts: 1500, upsMinutes: 14 },
  { name: 'harbour right', site: 'Harbour house', watts: 1500, upsMinutes: 14 },
  { name: 'annex mains', site: 'Lighthouse annex', watts: 1200, upsMinutes: 8 },
  { name: 'annex turbine', site: 'Lighthouse annex', watts: 600, upsMinutes: null },
];

const CORDS: Record<string, string[]> = {
  gannet: ['harbour left', 'harbour right'],
  fulmar: ['harbour left', 'harbour right'],
  razorbill: ['harbour left', 'harbour right'],
  tern: ['annex mains', 'annex turbine'],
  eider: ['annex mains', 'annex mains'],
  plover: ['annex mains'],
};

/** Seconds to stop, where it is not a minute. */
const SLOW: Record<string, number> = {
  'tide-db': 300,
  directory: 180,
  archive: 240,
  'office-files': 120,
};

export async function writePower({ make, fleet, id }: Wirer): Promise<void> {
  for (const { site, ...feed } of FEEDS)
    await make({ type: 'power-feed.record', input: { ...feed, siteId: id('site', site) } });
  const feedId = (name: string) =>
    [...fleet.all('powerFeed')].find((feed) => feed.name === name)!.id;
  for (const [host, feeds] of Object.entries(CORDS))
    await make({
      type: 'host.set-cords',
      input: { id: id('host', host), cords: feeds.map((name) => ({ feedId: feedId(name) })) },
    });
  for (const [name, stopSeconds] of Object.entries(SLOW))
    await make({ type: 'guest.edit', input: { id: id('guest', name), stopSeconds } });
}
