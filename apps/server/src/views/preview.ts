/** The fleet as it would be with a change that somebody is typing: what it meets, what it moves, what it makes. */
import type { Preview } from '@insel/contract';
import {
  allFindingsAt,
  decide,
  diskNames,
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

export function preview(fleet: Fleet, change: Change, context: Context): Preview {
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
  const places = touchedPlaces(fleet, decision.patches);
  const would = fleet.overlay(decision.patches);
  const figuresIn = (one: Fleet) => new Map(places.map(({ key, figure }) => [key, figure(one)]));
  const findingsIn = (one: Fleet) =>
    new Map(
      nearFindings(one, decision.patches, context.now).map((finding) => [finding.id, finding]),
    );
  const [figuresBefore, findingsBefore] = [figuresIn(fleet), findingsIn(fleet)];
  const promotion = promotionTime(fleet, decision);
  const tolerance = makesClones(decision)
    ? toleranceMoved(fleet, decision.patches, context.now)
    : null;
  const [figuresAfter, findingsAfter] = [figuresIn(would), findingsIn(would)];
  return {
    objections,
    before,
    after: waterline(would),
    places: places.map(({ key, kind, id, name }) => ({
      kind,
      id,
      name,
      before: figuresBefore.get(key)!,
      after: figuresAfter.get(key)!,
    })),
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

function touchedPlaces(fleet: Fleet, patches: readonly Patch[]): Place[] {
  const hosts = new Set<string>();
  const pools = new Set<string>();
  for (const patch of patches) {
    const values = {
      ...(patch.op === 'create' ? {} : patch.before),
      ...(patch.op === 'delete' ? {} : patch.after),
    };
    if ((patch.kind === 'guest' || patch.kind === 'hold') && typeof values.hostId === 'string')
      hosts.add(values.hostId);
    if (typeof values.poolId === 'string') pools.add(values.poolId);
    const volume = patch.kind === 'volume' ? fleet.get('volume', patch.id) : undefined;
    if (volume) pools.add(volume.poolId);
  }
  return [
    ...[...hosts].flatMap((id): Place[] => {
      const host = fleet.get('host', id);
      if (!host) return [];
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
    ...[...pools].flatMap((id): Place[] => {
      const pool = fleet.get('pool', id);
      if (!pool) return [];
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

function nearFindings(fleet: Fleet, patches: readonly Patch[], now: string): Finding[] {
  const near = new Set<string>();
  for (const patch of patches) {
    near.add(patch.id);
    for (const values of [
      patch.op === 'create' ? {} : patch.before,
      patch.op === 'delete' ? {} : patch.after,
    ]) {
      for (const value of Object.values(values))
        if (typeof value === 'string' && value.length === 36) near.add(value);
    }
  }
  return allFindingsAt(fleet, near, now);
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
