/** Findings of the whole fleet, of what an overlay moves, and of what lies between two: kept row by row. */
import type { Fleet, Kind } from '../record/index.js';
import { withAcceptances } from './accepted.js';
import type { Finding } from './finding.js';
import { bySeverity, heavyRulesOf, PARTS, ruledParts, RULED_KINDS, rulesAt } from './registry.js';

/**
 * Findings of the whole fleet, gravest first. The first time costs a look at every row of the ruled kinds; after a patch
 * only what rules read of the altered rows is looked at.
 */
export const allFindings = (fleet: Fleet, now: string): Finding[] => gathered(fleet, now, looksAt);

/** The same without the rules that look at the whole fleet: what they say of an overlay costs as much as of a fleet. */
export const lightFindings = (fleet: Fleet, now: string): Finding[] =>
  gathered(fleet, now, () => [LIGHT]);

function gathered(
  fleet: Fleet,
  now: string,
  looks: (kind: Kind) => readonly [string, LookAt][],
): Finding[] {
  const found: Finding[] = [];
  for (const kind of RULED_KINDS.filter((one) => !PARTS.includes(one)))
    for (const [name, look] of looks(kind))
      for (const list of fleet
        .gathered(kind, name, (one, id, at) => look(one, kind, id, at), now)
        .values())
        found.push(...list);
  return withAcceptances(fleet, found, now).sort(bySeverity);
}

/** A finding that an overlay takes away, or brings: exactly one of both. */
export interface MovedFinding {
  was?: Finding;
  is?: Finding;
}

/**
 * Findings that an overlay moves, by id. Costs what it alters.
 * @param heavy whether rules that look at the whole fleet are asked: of an overlay that costs as much as of a fleet
 */
export function findingsMoved(
  fleet: Fleet,
  now: string,
  heavy: boolean,
): Map<string, MovedFinding> {
  const moved = new Map<string, MovedFinding>();
  for (const kind of RULED_KINDS.filter((one) => !PARTS.includes(one)))
    for (const [name, look] of heavy ? looksAt(kind) : [LIGHT])
      for (const { was, is } of fleet.gatheredMoved(
        kind,
        name,
        (one, id, at) => look(one, kind, id, at),
        now,
      )) {
        for (const finding of was)
          if (!is.some(({ id }) => id === finding.id)) moved.set(finding.id, { was: finding });
        for (const finding of is)
          if (!was.some(({ id }) => id === finding.id)) moved.set(finding.id, { is: finding });
      }
  return moved;
}

/** What appears and vanishes from one overlay to another of the same ground, gravest first. */
export function findingsBetween(
  fleet: Fleet,
  before: ReadonlyMap<string, MovedFinding>,
  after: ReadonlyMap<string, MovedFinding>,
  now: string,
): { appearing: Finding[]; vanishing: Finding[] } {
  const appearing: Finding[] = [];
  const vanishing: Finding[] = [];
  for (const id of new Set([...before.keys(), ...after.keys()])) {
    const [one, other] = [before.get(id), after.get(id)];
    const below = one?.was ?? other?.was;
    // What neither says stands as it stands below both.
    const [had, has] = [one ? one.is : below, other ? other.is : below];
    if (has && !had) appearing.push(has);
    if (had && !has) vanishing.push(had);
  }
  const listed = (findings: Finding[]) => withAcceptances(fleet, findings, now).sort(bySeverity);
  return { appearing: listed(appearing), vanishing: listed(vanishing) };
}

/** Looks at so many rows for `allFindings` beforehand. Gives whether all of them have been looked at. */
export function prepareFindings(fleet: Fleet, now: string, most: number): boolean {
  return RULED_KINDS.filter((kind) => !PARTS.includes(kind)).every((kind) =>
    looksAt(kind).every(([name, look]) =>
      fleet.gatherSome(kind, name, (one, id, at) => look(one, kind, id, at), now, most),
    ),
  );
}

type LookAt = (fleet: Fleet, kind: Kind, id: string, now: string) => Finding[];
/** Rules that look at the whole fleet stand apart: what they read alters with nearly every patch. */
const LIGHT: [string, LookAt] = [
  'findings',
  (fleet, kind, id, now) => {
    const found = rulesAt(fleet, kind, id, now, false);
    const ofParts = ruledParts(fleet, kind, id).flatMap((part) =>
      rulesAt(fleet, part.kind, part.id, now, false),
    );
    return ofParts.length ? [...found, ...ofParts] : found;
  },
];
const HEAVY: [string, LookAt] = [
  'heavy findings',
  (fleet, kind, id, now) => heavyRulesOf(kind).flatMap((rule) => rule.look(fleet, id, now)),
];
const looksAt = (kind: Kind): [string, LookAt][] =>
  heavyRulesOf(kind).length > 0 ? [LIGHT, HEAVY] : [LIGHT];
