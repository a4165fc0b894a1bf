/** What happens when a host, a rack or a site fails, guest by guest and in words. Room includes what policies keep free: it is kept for this. */
import { counted } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';
import { outageOf } from '../host/index.js';
import type { FailureDomain } from './failure.js';
import { fatesInWords } from './fate-in-words.js';
import { fatesOf, type Fates, type Search, type Way } from './fates.js';
import { leastMend } from './least-mend.js';
import { leftAfter, type LeftAfter } from './left-after.js';

export interface GuestFate {
  guestId: string;
  name: string;
  hostId: string;
  way: Way;
  /** The witness: where it comes back, if it restarts or comes from a replica. */
  onHostId: string | null;
  memoryMiB: number;
  vcpu: number;
  sentence: string;
}

export interface FailureOutcome {
  failed: Pick<FailureDomain, 'kind' | 'id' | 'name'>;
  answer: Fates['answer'];
  guests: GuestFate[];
  counts: Record<Way, number>;
  /** Null where no host stays in service. */
  left: LeftAfter | null;
  /** Hosts that are gone. */
  fallenIds: string[];
  /** The least that would let all restart, where room is what is lacking and one host could give it. */
  mend: string | null;
  /** What the answer takes for granted. */
  assumes: string | null;
}

const ORDER: Record<Way, number> = { lost: 0, backup: 1, waits: 2, replica: 3, restart: 4 };

export function failureOutcome(
  fleet: Fleet,
  domain: FailureDomain,
  now: string,
  search: Search = {},
): FailureOutcome {
  const found = fatesOf(fleet, domain, search);
  const { answer, counts, packings, fallen } = found;
  const tooFull = packings.filter((packing) => packing.answer === 'does not fit');
  const said = fatesInWords(fleet, found, now);
  const guests = found.fates
    .map((fate) => {
      const { guest, way, onHostId } = fate;
      const { id: guestId, name, hostId, memoryMiB, vcpu } = guest;
      return { guestId, name, hostId, way, onHostId, memoryMiB, vcpu, sentence: said(fate) };
    })
    .sort((a, b) => ORDER[a.way] - ORDER[b.way] || a.name.localeCompare(b.name));
  const { kind, id, name } = domain;
  return {
    failed: { kind, id, name },
    answer,
    guests,
    counts,
    left: leftAfter(fleet, found),
    fallenIds: [...fallen],
    // No host gives room to two groups.
    mend: tooFull.length === 1 ? leastMend(fleet, tooFull[0]!.question, fallen) : null,
    assumes: assumedOf(fleet, domain),
  };
}

function assumedOf(fleet: Fleet, { kind, id }: FailureDomain): string | null {
  if (kind === 'switch')
    return 'A host all of whose recorded cables go there counts as failed. Paths to storage are not asked.';
  if (kind !== 'feed') return null;
  const { tripped, unknown } = outageOf(fleet, id);
  const after = tripped.map(
    ({ feedId, watts, allowed }) =>
      `${fleet.need('powerFeed', feedId).name} trips after it: ${Math.round(watts)} W, ${allowed} W allowed`,
  );
  return [
    ...after.map((one) => `${one}.`),
    'Supplies that have power share what a host draws equally. Switches and storage of their own are not asked.',
    ...(unknown > 0
      ? [
          `What ${counted(unknown, 'host')} on the feeds that go on ${unknown === 1 ? 'draws' : 'draw'} is not recorded, and not counted.`,
        ]
      : []),
  ].join(' ');
}
