/** What follows from recording, editing, removing one of a kind that carries no rule beyond its fields. */
import { givenWords } from '../quantity/index.js';
import {
  draftOf,
  editFields,
  isRefusal,
  nameTaken,
  noSuch,
  tidy,
  type ChangeContext,
  type DeciderOf,
  type Fleet,
  type Kind,
  type NewFields,
  type Outcome,
  type Refusal,
  type Row,
  type Subject,
  type Values,
  STAND_ALONE,
  STAND_ALONE_DESCRIPTIONS,
  type StandAlone,
} from '../record/index.js';

const WORD: Readonly<Record<StandAlone, string>> = {
  site: 'site',
  rack: 'rack',
  powerFeed: 'power feed',
  hostGroup: 'host group',
  platform: 'platform',
  medium: 'install medium',
  backup: 'backup',
  routingDomain: 'routing domain',
  device: 'equipment',
  physicalSwitch: 'switch',
  switchLine: 'line',
  route: 'route',
  forwardedPort: 'forwarded port',
  service: 'service',
  provider: 'provider',
  dependency: 'need',
  profile: 'role',
  guestGroup: 'group of guests',
  drive: 'medium in a drive',
  snapshot: 'snapshot',
  entitlement: 'licence',
  template: 'template',
  plan: 'plan',
  planStep: 'step of a plan',
};
/** Kinds of which two may have one name: what is found somewhere, or has a place of its own. */
const MAY_REPEAT: ReadonlySet<StandAlone> = new Set(['device', 'switchLine', 'snapshot']);

type Deciders = {
  [T in keyof typeof STAND_ALONE_DESCRIPTIONS]: DeciderOf<(typeof STAND_ALONE_DESCRIPTIONS)[T]>;
};

const BY_VERB: Readonly<
  Record<
    string,
    (kind: StandAlone) => (fleet: Fleet, input: never, context: ChangeContext) => Outcome | Refusal
  >
> = {
  record: (kind) => (fleet, input: Values, context) => recordOne(fleet, kind, input, context),
  edit: (kind) => (fleet, input: Values, context) => editOne(fleet, kind, input, context),
  remove: (kind) => (fleet, input: Values, context) => removeOne(fleet, kind, input, context),
};

export const STAND_ALONE_DECIDERS = Object.fromEntries(
  Object.keys(STAND_ALONE_DESCRIPTIONS).map((type) => {
    const [slug, verb] = type.split('.') as [keyof typeof STAND_ALONE, string];
    return [type, BY_VERB[verb]!(STAND_ALONE[slug])];
  }),
) as unknown as Deciders;

function recordOne(
  fleet: Fleet,
  kind: StandAlone,
  input: Values,
  context: ChangeContext,
): Outcome | Refusal {
  const draft = draftOf(fleet, context);
  const fields = tidy(kind, input);
  const name = typeof fields.name === 'string' ? fields.name : '';
  const twin = name && taken(fleet, kind, name);
  if (twin) return twin;
  const id = draft.create(kind, fields as NewFields<typeof kind>);
  return {
    draft,
    title: `recorded ${titleOf(fleet, kind, fields)}`,
    subjects: subjectsOf(fleet, kind, id, fields),
  };
}

function editOne(
  fleet: Fleet,
  kind: StandAlone,
  input: Values,
  context: ChangeContext,
): Outcome | Refusal {
  const { id, ...fields } = input as Values & { id: string };
  const draft = draftOf(fleet, context);
  const row = editFields(fleet, draft, kind, id, fields);
  if (isRefusal(row)) return row;
  const twin = typeof fields.name === 'string' && taken(fleet, kind, fields.name, id);
  if (twin) return twin;
  return {
    draft,
    title: `edited ${titleOf(fleet, kind, row)}: ${givenWords(fields)}`,
    subjects: subjectsOf(fleet, kind, row.id, row as unknown as Values),
  };
}

function removeOne(
  fleet: Fleet,
  kind: StandAlone,
  input: Values,
  context: ChangeContext,
): Outcome | Refusal {
  const row = fleet.get(kind, String(input.id));
  if (!row) return noSuch(kind);
  const draft = draftOf(fleet, context);
  for (const part of partsOf(fleet, kind, row.id)) draft.remove(part.kind, part.id);
  draft.remove(kind, row.id);
  return {
    draft,
    title: `removed ${titleOf(fleet, kind, row)}`,
    subjects: subjectsOf(fleet, kind, row.id, row as unknown as Values),
  };
}

const taken = (fleet: Fleet, kind: StandAlone, name: string, but?: string): Refusal | undefined =>
  MAY_REPEAT.has(kind) ? undefined : nameTaken(fleet, kind, WORD[kind], name, but);

const guestName = (fleet: Fleet, id: unknown): string =>
  fleet.get('guest', typeof id === 'string' ? id : null)?.name ?? 'a guest';

/** What belongs to a record and goes with it. */
function partsOf(fleet: Fleet, kind: StandAlone, id: string): { kind: Kind; id: string }[] {
  const of = (part: Kind, rows: { id: string }[]) =>
    rows.map((row) => ({ kind: part, id: row.id }));
  if (kind === 'service') return of('provider', fleet.referring('provider', 'serviceId', id));
  if (kind === 'physicalSwitch')
    return of('switchPort', fleet.referring('switchPort', 'physicalSwitchId', id));
  if (kind === 'powerFeed') return of('powerCord', fleet.referring('powerCord', 'feedId', id));
  if (kind === 'plan') return of('planStep', fleet.referring('planStep', 'planId', id));
  if (kind !== 'device') return [];
  const ports = fleet.referring('devicePort', 'deviceId', id);
  return [
    ...ports.flatMap((port) => of('address', fleet.referring('address', 'devicePortId', port.id))),
    ...of('devicePort', ports),
    ...of('computer', fleet.referring('computer', 'deviceId', id)),
    ...of('computerDisk', fleet.referring('computerDisk', 'deviceId', id)),
    ...of('route', fleet.referring('route', 'deviceId', id)),
    ...of('forwardedPort', fleet.referring('forwardedPort', 'deviceId', id)),
  ];
}

/** The machine that a row is about: that has a route or leads a port on, provides a service, needs something. */
function routed(fleet: Fleet, values: Values): Subject | undefined {
  for (const kind of ['host', 'guest', 'device'] as const) {
    const row = fleet.get(kind, values[`${kind}Id`] as string | null);
    if (row) return { kind, id: row.id, name: row.name };
  }
  return undefined;
}

function titleOf(fleet: Fleet, kind: StandAlone, row: object): string {
  if (kind === 'route') {
    const { destination, via } = row as { destination?: string; via?: string | null };
    return `route of ${routed(fleet, row as Values)?.name ?? 'a machine'} to ${destination} ${via ? `by ${via}` : 'that leads nowhere'}`;
  }
  if (kind === 'forwardedPort') {
    const { protocol = 'tcp', port, toIp, toPort } = row as Partial<Row<'forwardedPort'>>;
    return `that port ${port}/${protocol} of ${routed(fleet, row as Values)?.name ?? 'a machine'} leads to ${toIp}, port ${toPort}`;
  }
  if (kind === 'provider')
    return `${providerName(fleet, row as Values)} as a provider of ${fleet.get('service', (row as Values).serviceId as string)?.name ?? 'a service'}`;
  if (kind === 'drive')
    return `${fleet.get('medium', (row as Values).mediumId as string)?.name ?? 'a medium'} in a drive of ${guestName(fleet, (row as Values).guestId)}`;
  if (kind === 'snapshot')
    return `snapshot ${String((row as Values).name)} of ${guestName(fleet, (row as Values).guestId)}`;
  if (kind === 'planStep') return `step of the plan ${planName(fleet, row as Values)}`;
  if (kind === 'dependency')
    return `that ${routed(fleet, row as Values)?.name ?? 'a machine'} needs ${neededName(fleet, row as Values)}`;
  return kind === 'backup' && 'guestId' in row
    ? `${WORD[kind]} of ${guestName(fleet, row.guestId)}`
    : `${WORD[kind]} ${String((row as { name?: string }).name)}`;
}

const planName = (fleet: Fleet, row: Values): string =>
  fleet.get('plan', row.planId as string | null)?.name ?? '';
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
  if (kind === 'planStep')
    return [{ kind: 'plan', id: String(values.planId), name: planName(fleet, values) }];
  if (kind === 'route' || kind === 'forwardedPort' || kind === 'dependency')
    return [routed(fleet, values)].flatMap((subject) => subject ?? []);
  return [{ kind, id, name: String(values.name ?? '') }];
}
