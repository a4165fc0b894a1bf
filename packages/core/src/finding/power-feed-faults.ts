/** What hangs on power feeds: more than they may carry, now or where another fails, and supplies that share one feed. */
import { own, practice } from '../figure/index.js';
import { beside, cordsOf, feedLoad, carries } from '../host/index.js';
import { counted, fewNames } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';
import { hostRule } from './host-finding.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

const ARITHMETIC = own(
  'Draw of the hosts on it, shared equally by their supplies that have power, against what the feed may carry; an electrician decides',
);

/** A feed carries more than it may: as it is, or with what comes over from another that fails. */
export const feedOverdrawn = ruleAt('powerFeed', 'feed-overdrawn', (fleet, feed): RuleFinding[] => {
  if (feed.watts === null) return [];
  const now = feedLoad(fleet, feed.id);
  const rest = (unknown: number) =>
    unknown > 0
      ? `, and what ${counted(unknown, 'host')} more ${unknown === 1 ? 'draws' : 'draw'} is not recorded`
      : '';
  if (now.watts > feed.watts)
    return [
      {
        severity: 'blocker',
        evidence: `${feed.name} carries ${watts(now.watts)}${rest(now.unknown)}; it may carry ${watts(feed.watts)} for a long time.`,
        consequence:
          'Its breaker trips when all of them are busy, and whatever has no second feed is off.',
        remedy: 'Plug a host into another feed, or move it to another rack.',
        source: ARITHMETIC,
      },
    ];
  return beside(fleet, feed.id).flatMap((otherId): RuleFinding[] => {
    const then = feedLoad(fleet, feed.id, new Set([otherId]));
    if (then.watts <= feed.watts!) return [];
    const other = fleet.need('powerFeed', otherId).name;
    return [
      {
        rule: 'feed-trips-after-another',
        at: otherId,
        severity: 'caution',
        evidence: `When ${other} fails, ${feed.name} carries ${watts(then.watts)}${rest(then.unknown)}; it may carry ${watts(feed.watts!)}.`,
        consequence: `It trips after ${other}: two feeds help nobody then, and hosts on both are off.`,
        remedy:
          'Let each feed carry all of it alone: spread the hosts over more feeds, or draw less.',
        source: ARITHMETIC,
      },
    ];
  });
});

/** Supplies of a host that all hang on one feed, or that are plugged in nowhere. */
export const hostOneFeed = hostRule('one-feed', (fleet, host): RuleFinding[] => {
  const cords = cordsOf(fleet, host.id);
  // Where nobody has recorded feeds, nothing is said of them.
  if (cords.length === 0 || !carries(host)) return [];
  const feeds = new Set(cords.map(({ feedId }) => feedId));
  const loose = host.powerSupplies - cords.length;
  const [first] = feeds;
  const name = fleet.need('powerFeed', first!).name;
  if (feeds.size > 1 || host.powerSupplies < 2) return [];
  return [
    {
      severity: 'caution',
      evidence: `${host.name} has ${host.powerSupplies} supplies: ${cords.length === 1 ? 'one is' : `${cords.length} are`} plugged into ${name}, ${loose > 0 ? `${counted(loose, 'other')} into no feed that is recorded` : 'none into another'}.`,
      consequence: `When ${name} fails it is off, although it has a second supply.`,
      remedy: `Plug one of them into another feed${othersAt(fleet, first!)}.`,
      source: practice('Each supply of a machine hangs on a feed of its own'),
    },
  ];
});

function othersAt(fleet: Fleet, feedId: string): string {
  const { siteId } = fleet.need('powerFeed', feedId);
  const names = siteId
    ? fleet
        .referring('powerFeed', 'siteId', siteId)
        .filter(({ id }) => id !== feedId)
        .map(({ name }) => name)
        .sort()
    : [];
  return names.length > 0 ? `: there ${names.length === 1 ? 'is' : 'are'} ${fewNames(names)}` : '';
}

const watts = (value: number): string => `${Math.round(value).toLocaleString('en-GB')} W`;
