/**
 * Records of kinds that carry no rule beyond their fields: racks, host groups, platforms, install media, backups,
 * sites, routing domains, devices, physical switches, lines, routes, services and needs, roles of guests, their groups,
 * media in drives, snapshots. One
 * change to record, one to edit, one to remove serves them all; references and bounds are held by the invariants.
 */
import {
  draftOf,
  editFields,
  isRefusal,
  KINDS,
  noSuch,
  refuse,
  tidy,
  type ChangeBase,
  type Decider,
  type Fleet,
  type Kind,
  type NewFields,
  type Subject,
  type Values,
} from '../record/index.js';

export const STAND_ALONE = [
  'site',
  'rack',
  'hostGroup',
  'platform',
  'medium',
  'backup',
  'routingDomain',
  'device',
  'physicalSwitch',
  'switchLine',
  'route',
  'service',
  'provider',
  'dependency',
  'profile',
  'guestGroup',
  'drive',
  'snapshot',
] as const;
export type StandAlone = (typeof STAND_ALONE)[number];

const WORD: Readonly<Record<StandAlone, string>> = {
  site: 'site',
  rack: 'rack',
  hostGroup: 'host group',
  platform: 'platform',
  medium: 'install medium',
  backup: 'backup',
  routingDomain: 'routing domain',
  device: 'device',
  physicalSwitch: 'switch',
  switchLine: 'line',
  route: 'route',
  service: 'service',
  provider: 'provider',
  dependency: 'need',
  profile: 'role',
  guestGroup: 'group of guests',
  drive: 'medium in a drive',
  snapshot: 'snapshot',
};
/** Kinds of which two may have one name: what is found somewhere, or has a place of its own. */
const MAY_REPEAT: ReadonlySet<StandAlone> = new Set(['device', 'switchLine', 'snapshot']);

export interface RecordOne extends ChangeBase {
  type: 'one.record';
  kind: StandAlone;
  fields: Values;
}

export const recordOne: Decider<RecordOne> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const fields = tidy(change.kind, change.fields);
  const name = typeof fields.name === 'string' ? fields.name : '';
  if (name && nameTaken(fleet, change.kind, name))
    return refuse({
      code: 'name-taken',
      field: 'name',
      sentence: `There is a ${WORD[change.kind]} named ${name} already.`,
    });
  const id = draft.create(change.kind, fields as NewFields<typeof change.kind>);
  return {
    draft,
    title: `recorded ${titleOf(fleet, change.kind, fields)}`,
    subjects: subjectsOf(fleet, change.kind, id, fields),
  };
};

export interface EditOne extends ChangeBase {
  type: 'one.edit';
  kind: StandAlone;
  id: string;
  fields: Values;
}

export const editOne: Decider<EditOne> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const row = editFields(
    fleet,
    draft,
    change.kind,
    change.id,
    change.fields,
    Object.keys(KINDS[change.kind].fields),
  );
  if (isRefusal(row)) return row;
  const { name } = change.fields;
  if (typeof name === 'string' && nameTaken(fleet, change.kind, name, change.id))
    return refuse({
      code: 'name-taken',
      field: 'name',
      sentence: `There is a ${WORD[change.kind]} named ${name} already.`,
    });
  return {
    draft,
    title: `edited ${titleOf(fleet, change.kind, row)}: ${Object.keys(change.fields).join(', ')}`,
    subjects: subjectsOf(fleet, change.kind, row.id, row as unknown as Values),
  };
};

export interface RemoveOne extends ChangeBase {
  type: 'one.remove';
  kind: StandAlone;
  id: string;
}

export const removeOne: Decider<RemoveOne> = (fleet, change, edge) => {
  const row = fleet.get(change.kind, change.id);
  if (!row) return noSuch(change.kind);
  const draft = draftOf(fleet, edge);
  for (const part of partsOf(fleet, change.kind, change.id)) draft.remove(part.kind, part.id);
  draft.remove(change.kind, change.id);
  return {
    draft,
    title: `removed ${titleOf(fleet, change.kind, row)}`,
    subjects: subjectsOf(fleet, change.kind, row.id, row as unknown as Values),
  };
};

const nameTaken = (fleet: Fleet, kind: StandAlone, name: string, but = ''): boolean =>
  !MAY_REPEAT.has(kind) &&
  [...fleet.all(kind)].some(
    (row) =>
      row.id !== but &&
      'name' in row &&
      String(row.name).toLowerCase() === name.trim().toLowerCase(),
  );

const guestName = (fleet: Fleet, id: unknown): string =>
  fleet.get('guest', typeof id === 'string' ? id : null)?.name ?? 'a guest';

/** What belongs to a record and goes with it. */
function partsOf(fleet: Fleet, kind: StandAlone, id: string): { kind: Kind; id: string }[] {
  const of = (part: Kind, rows: { id: string }[]) =>
    rows.map((row) => ({ kind: part, id: row.id }));
  if (kind === 'service') return of('provider', fleet.referring('provider', 'serviceId', id));
  if (kind === 'physicalSwitch')
    return of('switchPort', fleet.referring('switchPort', 'physicalSwitchId', id));
  if (kind !== 'device') return [];
  const ports = fleet.referring('devicePort', 'deviceId', id);
  return [
    ...ports.flatMap((port) => of('address', fleet.referring('address', 'devicePortId', port.id))),
    ...of('devicePort', ports),
    ...of('route', fleet.referring('route', 'deviceId', id)),
  ];
}

/** The machine that a row is about: that has a route, provides a service, needs something. */
function routed(fleet: Fleet, values: Values): Subject | undefined {
  for (const kind of ['host', 'guest', 'device'] as const) {
    const row = fleet.get(kind, values[`${kind}Id`] as string | null);
    if (row) return { kind, id: row.id, name: row.name };
  }
  return undefined;
}

function titleOf(fleet: Fleet, kind: StandAlone, row: object): string {
  if (kind === 'route') {
    const { destination, via } = row as { destination?: string; via?: string };
    return `route of ${routed(fleet, row as Values)?.name ?? 'a machine'} to ${destination} by ${via}`;
  }
  if (kind === 'provider')
    return `${providerName(fleet, row as Values)} as a provider of ${fleet.get('service', (row as Values).serviceId as string)?.name ?? 'a service'}`;
  if (kind === 'drive')
    return `${fleet.get('medium', (row as Values).mediumId as string)?.name ?? 'a medium'} in a drive of ${guestName(fleet, (row as Values).guestId)}`;
  if (kind === 'snapshot')
    return `snapshot ${String((row as Values).name)} of ${guestName(fleet, (row as Values).guestId)}`;
  if (kind === 'dependency')
    return `that ${routed(fleet, row as Values)?.name ?? 'a machine'} needs ${neededName(fleet, row as Values)}`;
  return kind === 'backup' && 'guestId' in row
    ? `${WORD[kind]} of ${guestName(fleet, row.guestId)}`
    : `${WORD[kind]} ${String((row as { name?: string }).name)}`;
}

const providerName = (fleet: Fleet, row: Values): string => routed(fleet, row)?.name ?? 'a machine';
const neededName = (fleet: Fleet, row: Values): string =>
  fleet.get('service', row.serviceId as string | null)?.name ?? guestName(fleet, row.onGuestId);

function subjectsOf(fleet: Fleet, kind: Kind, id: string, values: Values): Subject[] {
  if (
    (kind === 'backup' || kind === 'drive' || kind === 'snapshot') &&
    typeof values.guestId === 'string'
  )
    return [{ kind: 'guest', id: values.guestId, name: guestName(fleet, values.guestId) }];
  if (kind === 'provider')
    return [
      {
        kind: 'service',
        id: String(values.serviceId),
        name: fleet.get('service', String(values.serviceId))?.name ?? '',
      },
      ...[routed(fleet, values)].flatMap((subject) => subject ?? []),
    ];
  if (kind === 'route' || kind === 'dependency')
    return [routed(fleet, values)].flatMap((subject) => subject ?? []);
  return [{ kind, id, name: String(values.name ?? '') }];
}
