/** The fleet as it would be with a change that somebody is typing: what it meets, what it moves, what it makes. */
import type { Preview } from '@insel/contract';
import {
  allFindings,
  lightFindings,
  decide,
  diskNames,
  findingsNear,
  guestBuild,
  headroom,
  isRefusal,
  objectionsTo,
  poolFigures,
  timeOfClones,
  timeOfPromotion,
  toleranceMoved,
  waterline,
  type Change,
  type Decision,
  type Context,
  type Figure,
  type Finding,
  type Fleet,
  type Patch,
} from '@insel/core';
import { adaptersOf, firstAddress } from './guests.js';
import { namedById } from './common.js';

/** Up to so many guests all findings are looked at wherever a preview is asked; above it where they are kept. */
const FEW_GUESTS = 2000;

/** Of which findings it is told whether they move: all; all but those of rules that look at the whole fleet; near ones. */
export type Looking = 'all' | 'kept' | 'near';

/** @param kept where findings of the whole fleet are kept, in the worker */
export const lookingIn = (fleet: Fleet, kept: boolean): Looking =>
  fleet.count('guest') <= FEW_GUESTS ? 'all' : kept ? 'kept' : 'near';

export function preview(
  fleet: Fleet,
  change: Change,
  context: Context,
  looking: Looking = lookingIn(fleet, false),
): Preview {
  const objections = objectionsTo(fleet, change, context).map(
    ({ refused: _, ...objection }) => objection,
  );
  const before = waterline(fleet);
  const decision = decide(fleet, { ...change, override: 'preview' }, context);
  if (isRefusal(decision))
    return {
      objections,
      before,
      after: before,
      places: [],
      appearing: [],
      vanishing: [],
      made: [],
      time: null,
      tolerance: null,
      build: null,
    };
  const would = fleet.overlay(decision.patches);
  const places = touchedPlaces(fleet, would, decision.patches);
  const figuresIn = (one: Fleet) => new Map(places.map(({ key, figure }) => [key, figure(one)]));
  const findingsIn = (one: Fleet) =>
    new Map(
      findingsOf(one, looking, decision.patches, context.now).map((finding) => [
        finding.id,
        finding,
      ]),
    );
  const [figuresBefore, findingsBefore] = [figuresIn(fleet), findingsIn(fleet)];
  const promotion = promotionTime(fleet, decision);
  const tolerance = makesClones(decision) ? toleranceMoved(fleet, decision.patches) : null;
  const [figuresAfter, findingsAfter] = [figuresIn(would), findingsIn(would)];
  return {
    objections,
    before,
    after: waterline(would),
    places: places
      .map(({ key, kind, id, name }) => ({
        kind,
        id,
        name,
        before: figuresBefore.get(key)!,
        after: figuresAfter.get(key)!,
      }))
      // Of a pool that is copied in it is told as well how much room there is.
      .filter(({ kind, before: was, after: is }) => kind === 'pool' || was.value !== is.value),
    appearing: [...findingsAfter.values()].filter((finding) => !findingsBefore.has(finding.id)),
    vanishing: [...findingsBefore.values()].filter((finding) => !findingsAfter.has(finding.id)),
    made: madeGuests(would, decision),
    time: batchTimeOf(would, decision) ?? promotion,
    tolerance,
    build: onlyBuild(would, decision),
  };
}

interface Place {
  key: string;
  kind: string;
  id: string;
  name: string;
  figure: (fleet: Fleet) => Figure;
}

/** Hosts and pools of all rows that are altered, as they are and as they would be. */
function touchedPlaces(fleet: Fleet, would: Fleet, patches: readonly Patch[]): Place[] {
  const hosts = new Set<string>();
  const pools = new Set<string>();
  for (const { kind, id } of patches)
    for (const row of [fleet.get(kind, id), would.get(kind, id)]) {
      const { hostId, poolId } = (row ?? {}) as { hostId?: string | null; poolId?: string | null };
      if (kind === 'host') hosts.add(id);
      if (kind === 'pool') pools.add(id);
      if ((kind === 'guest' || kind === 'hold') && hostId) hosts.add(hostId);
      if (poolId) pools.add(poolId);
    }
  const stays = (kind: 'host' | 'pool') => (id: string) =>
    fleet.get(kind, id) !== undefined && would.get(kind, id) !== undefined;
  return [
    ...[...hosts].filter(stays('host')).flatMap((id): Place[] => {
      const host = fleet.need('host', id);
      return [
        {
          key: `${id}|memory`,
          kind: 'host',
          id,
          name: `${host.name}, memory`,
          figure: (one) => headroom(one, id).memory,
        },
        {
          key: `${id}|vcpu`,
          kind: 'host',
          id,
          name: `${host.name}, processors`,
          figure: (one) => headroom(one, id).vcpu,
        },
      ];
    }),
    ...[...pools].filter(stays('pool')).flatMap((id): Place[] => {
      const pool = fleet.need('pool', id);
      const place = (what: 'free' | 'left' | 'fill', words: string): Place => ({
        key: `${id}|${what}`,
        kind: 'pool',
        id,
        name: `pool ${pool.name}, ${words}`,
        figure: (one) => poolFigures(one, id)[what],
      });
      return [
        place('free', 'really free'),
        ...(pool.promiseLimitPercent === 100 ? [] : [place('left', 'to promise')]),
        place('fill', `full, alarm at ${pool.fillAlarmPercent} %`),
      ];
    }),
  ];
}

function findingsOf(
  fleet: Fleet,
  looking: Looking,
  patches: readonly Patch[],
  now: string,
): Finding[] {
  if (looking === 'all') return allFindings(fleet, now);
  const near = findingsNear(fleet, patches, now);
  return looking === 'kept' ? [...near, ...lightFindings(fleet, now)] : near;
}

/** Steps of the one guest that is planned. */
function onlyBuild(fleet: Fleet, { patches }: Decision): Preview['build'] {
  const made = patches.filter((patch) => patch.op === 'create' && patch.kind === 'guest');
  return made.length === 1 && fleet.need('guest', made[0]!.id).state === 'planned'
    ? guestBuild(fleet, made[0]!.id)
    : null;
}

const makesClones = ({ patches }: Decision): boolean =>
  patches.some((patch) => patch.op === 'create' && patch.kind === 'clone');

/** Of the clones that are made, asked of the fleet that has them. */
const batchTimeOf = (fleet: Fleet, { patches }: Decision): Preview['time'] =>
  timeOfClones(
    fleet,
    patches
      .filter((patch) => patch.op === 'create' && patch.kind === 'clone')
      .map(({ id }) => fleet.need('clone', id)),
  );

/** Of volumes that no longer share their base; asked of the fleet as it is. */
function promotionTime(fleet: Fleet, { patches }: Decision): Preview['time'] {
  const made = timeOfPromotion(
    fleet,
    patches
      .filter(
        (patch) =>
          patch.op === 'update' &&
          patch.kind === 'volume' &&
          typeof patch.before.baseId === 'string' &&
          patch.after.baseId === null,
      )
      .map(({ id }) => fleet.need('volume', id)),
  );
  return made && { ...made, ready: null };
}

function madeGuests(fleet: Fleet, decision: Decision): Preview['made'] {
  return decision.patches
    .filter((patch) => patch.op === 'create' && patch.kind === 'guest')
    .map(({ id }) => {
      const guest = fleet.need('guest', id);
      return {
        name: guest.name,
        host: namedById(fleet, 'host', guest.hostId),
        pools: [
          ...new Set(
            fleet
              .referring('volume', 'guestId', id)
              .map(({ poolId }) => fleet.need('pool', poolId).name),
          ),
        ],
        ip: firstAddress(fleet, id),
        mac: adaptersOf(fleet, id)[0]?.mac ?? '',
        vcpu: guest.vcpu,
        memoryMiB: guest.memoryMiB,
        disks: diskNames(fleet, guest),
      };
    });
}
