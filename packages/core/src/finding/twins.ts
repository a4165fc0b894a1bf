import { knownBy } from '../clone/index.js';
import { practice, standard } from '../figure/index.js';
import { FACT_KINDS, type Fleet, type Row } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

const ABOUT: Readonly<
  Record<
    Exclude<(typeof FACT_KINDS)[number], 'computer name'>,
    Pick<RuleFinding, 'severity' | 'consequence' | 'remedy' | 'source'>
  >
> = {
  'machine identifier': {
    severity: 'blocker',
    consequence:
      'Both draw the same lease although their MAC addresses differ, and logs mix them up.',
    remedy: 'Empty the identifier of the clone and restart it: it draws its own.',
    source: standard('A DHCP client is known by its identifier: RFC 2131, section 4.2; RFC 4361'),
  },
  'SSH host key': {
    severity: 'caution',
    consequence: 'Who holds the key of one can pretend to be the other.',
    remedy: 'Draw new host keys on the clone, and make their fingerprints known.',
    source: standard('A host key names one host: RFC 4251, section 4.1'),
  },
  certificate: {
    severity: 'caution',
    consequence: 'Its private key is known to the other machine, and it names only one of them.',
    remedy: 'Draw a new key on the clone and have a certificate issued for it.',
    source: standard('A certificate binds a key to one subject: RFC 5280, section 4.1.2.6'),
  },
  'licence label': {
    severity: 'note',
    consequence: 'One licence is used twice; a second activation may be refused.',
    remedy: 'Give the clone its own licence.',
    source: practice('One licence, one copy'),
  },
};

/** Two guests were seen to be known by the same; told once, at the later one. */
export const twins = ruleAt('guest', 'same-identity', (fleet, guest): RuleFinding[] => {
  if (fleet.referringCount('identityFact', 'guestId', guest.id) === 0) return [];
  return fleet.referring('identityFact', 'guestId', guest.id).flatMap((fact): RuleFinding[] => {
    if (fact.what === 'computer name') return [];
    const other = knownBy(fleet, fact.what, fact.value)
      .filter((id) => id < guest.id)
      .map((id) => fleet.need('guest', id))
      .find((one) => one.state !== 'retired');
    if (!other) return [];
    const stopped = guest.state !== 'in service' || other.state !== 'in service';
    const { severity, ...words } = ABOUT[fact.what];
    return [
      {
        at: fact.id,
        severity: stopped && severity === 'blocker' ? 'caution' : severity,
        evidence: `${guest.name} and ${other.name} have one ${fact.what}: ${fact.value}, seen ${fact.seenAt.slice(0, 10)}.`,
        ...words,
      },
    ];
  });
});

/** Disks that look copied in one go, and nobody recorded a clone: nothing proves that they are two. */
export const twinSuspected = ruleAt('guest', 'twin-suspected', (fleet, guest): RuleFinding[] => {
  if (guest.state !== 'in service' || fleet.referringCount('clone', 'guestId', guest.id) > 0)
    return [];
  const other = sameDisks(fleet, guest);
  if (!other) return [];
  return [
    {
      severity: 'note',
      evidence: `${guest.name} and ${other.name} have volumes of the same bytes, and both were recorded in one minute; neither is recorded as a clone.`,
      consequence:
        'If one is a copy of the other, they share identifier, keys and licence, and nobody looks after it.',
      remedy: 'Compare what both are known by: paste the proof of each.',
      source: practice('Equal sizes to the byte, made in one minute, point to a copy'),
    },
  ];
});

/** Whoever stands beside it with the same volumes, byte for byte, of which some was really written. */
function sameDisks(fleet: Fleet, guest: Row<'guest'>): Row<'guest'> | undefined {
  const [first] = fleet.referring('volume', 'guestId', guest.id);
  if (!first || first.usedBytes === null) return undefined;
  const print = diskPrint(fleet, guest.id);
  return fleet
    .referring('volume', 'poolId', first.poolId)
    .filter(
      ({ guestId, bytes, usedBytes }) =>
        guestId < guest.id && bytes === first.bytes && usedBytes === first.usedBytes,
    )
    .map(({ guestId }) => fleet.need('guest', guestId))
    .find(
      (other) =>
        other.state === 'in service' &&
        minuteOf(other.id) === minuteOf(guest.id) &&
        diskPrint(fleet, other.id) === print,
    );
}

const diskPrint = (fleet: Fleet, guestId: string): string =>
  fleet
    .referring('volume', 'guestId', guestId)
    .map(({ bytes, usedBytes }) => `${bytes}|${usedBytes}`)
    .sort()
    .join(',');

/** Ids begin with the time of their making in milliseconds: RFC 9562, section 5.7. */
const minuteOf = (id: string): number =>
  Math.floor(Number.parseInt(id.replaceAll('-', '').slice(0, 12), 16) / 60_000);
