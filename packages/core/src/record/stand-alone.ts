/**
 * Records of kinds that carry no rule beyond their fields: racks, power feeds, host groups, platforms, install media, backups, sites,
 * routing domains, devices, physical switches, lines, routes, services and needs, roles of guests, their groups, media in
 * drives, snapshots. Their changes are made from the description of the kind: one to record, one to edit, one to remove.
 */
import { change, type Description } from './describe.js';
import { ref, type Field, type Fields } from './field.js';
import { beginning, some, without, type Beginning, type Omittable } from './input-field.js';
import { fieldsOf, type Kind } from './kinds/index.js';

/** What somebody looked at, approved or paused is set by who does so, never given. */
type Given<F> = Omit<
  F,
  | ('confirmedAt' | 'confirmedBy' | 'nameAssigned')
  | ('approvedAt' | 'approvedBy' | 'pausedAt' | 'pausedWhy')
>;
type RecordInput<F> = { readonly [N in keyof Given<F>]: Beginning<F[N & keyof F]> };
type EditInput<F, X> = { readonly id: Field<string> } & {
  readonly [N in Exclude<keyof Given<F>, X>]: Omittable<F[N & keyof F]>;
};
type IdInput = { readonly id: Field<string> };

type Recording<S extends string, F> = {
  readonly [T in `${S}.record`]: Description<T, RecordInput<F> & Fields>;
};
type Editing<S extends string, F, X> = {
  readonly [T in `${S}.edit`]: Description<T, EditInput<F, X> & Fields>;
};
type Removing<S extends string> = { readonly [T in `${S}.remove`]: Description<T, IdInput> };

const HIDDEN = [
  ...['confirmedAt', 'confirmedBy', 'nameAssigned'],
  ...['approvedAt', 'approvedBy', 'pausedAt', 'pausedWhy'],
];
const givenOf = (fields: Fields): string[] =>
  without(fields).filter((name) => !HIDDEN.includes(name));

/** To record one of a kind. */
const recording = <S extends string, F extends Fields>(slug: S, word: string, fields: F) => {
  const type = `${slug}.record` as const;
  const input = beginning(fields as Fields, ...givenOf(fields));
  return {
    [type]: change({ type, title: `Record a ${word}`, input }),
  } as unknown as Recording<S, F>;
};

/** @param fixed fields that are said once, when it is recorded */
const editing = <S extends string, F extends Fields, X extends keyof F & string = never>(
  slug: S,
  word: string,
  kind: Kind,
  fields: F,
  ...fixed: readonly X[]
) => {
  const type = `${slug}.edit` as const;
  const names = givenOf(fields).filter((name) => !(fixed as readonly string[]).includes(name));
  const input = { id: ref(kind), ...some(fields as Fields, ...names) };
  return {
    [type]: change({ type, title: `Edit the ${word}`, alters: ['id'], input }),
  } as unknown as Editing<S, F, X>;
};

const removing = <S extends string>(slug: S, word: string, kind: Kind) => {
  const type = `${slug}.remove` as const;
  return {
    [type]: change({ type, title: `Remove the ${word}`, alters: ['id'], input: { id: ref(kind) } }),
  } as unknown as Removing<S>;
};

/** All three. */
const whole = <S extends string, F extends Fields, X extends keyof F & string = never>(
  slug: S,
  word: string,
  kind: Kind,
  fields: F,
  ...fixed: readonly X[]
) => ({
  ...recording(slug, word, fields),
  ...editing(slug, word, kind, fields, ...fixed),
  ...removing(slug, word, kind),
});

const device = fieldsOf('device');
const route = fieldsOf('route');
const forwardedPort = fieldsOf('forwardedPort');
const provider = fieldsOf('provider');
const dependency = fieldsOf('dependency');

export const STAND_ALONE_DESCRIPTIONS = {
  ...whole('site', 'site', 'site', fieldsOf('site')),
  ...whole('rack', 'rack', 'rack', fieldsOf('rack')),
  ...whole('power-feed', 'power feed', 'powerFeed', fieldsOf('powerFeed')),
  ...whole('host-group', 'host group', 'hostGroup', fieldsOf('hostGroup')),
  ...whole('platform', 'platform', 'platform', fieldsOf('platform')),
  ...whole('medium', 'install medium', 'medium', fieldsOf('medium')),
  ...whole('backup', 'backup', 'backup', fieldsOf('backup'), 'guestId'),
  ...whole('routing-domain', 'routing domain', 'routingDomain', fieldsOf('routingDomain')),
  ...whole('physical-switch', 'switch', 'physicalSwitch', fieldsOf('physicalSwitch')),
  ...whole('line', 'line', 'switchLine', fieldsOf('switchLine'), 'aPortId', 'bPortId'),
  ...whole('service', 'service', 'service', fieldsOf('service')),
  ...whole('profile', 'role', 'profile', fieldsOf('profile')),
  ...whole('guest-group', 'group of guests', 'guestGroup', fieldsOf('guestGroup')),
  ...whole('drive', 'medium in a drive', 'drive', fieldsOf('drive'), 'guestId', 'mediumId'),
  ...whole(
    'snapshot',
    'snapshot',
    'snapshot',
    fieldsOf('snapshot'),
    'guestId',
    'poolId',
    'takenAt',
  ),
  ...whole('entitlement', 'licence', 'entitlement', fieldsOf('entitlement')),
  ...whole('plan', 'plan', 'plan', fieldsOf('plan')),
  // A step is drawn by a change of its own; what it does stays as it was drawn.
  ...editing(
    'plan-step',
    'step of a plan',
    'planStep',
    fieldsOf('planStep'),
    'planId',
    'position',
    'type',
    'shape',
    'input',
    'seed',
    'drawnAt',
    'drawnBy',
    'basis',
    'approved',
    'doneAt',
    'doneBy',
    'found',
  ),
  ...removing('plan-step', 'step of a plan', 'planStep'),
  // A template is begun with its first version.
  ...editing('template', 'template', 'template', fieldsOf('template')),
  ...removing('template', 'template', 'template'),
  // A device is recorded with its ports, by a change of its own.
  ...editing('device', 'device', 'device', device),
  ...removing('device', 'device', 'device'),
  // What only says that two belong together is recorded and removed.
  ...recording('route', 'route', route),
  ...removing('route', 'route', 'route'),
  ...recording('forwarded-port', 'forwarded port', forwardedPort),
  ...removing('forwarded-port', 'forwarded port', 'forwardedPort'),
  ...recording('provider', 'provider', provider),
  ...removing('provider', 'provider', 'provider'),
  ...recording('need', 'need', dependency),
  ...removing('need', 'need', 'dependency'),
};

/** The kind of the first half of a type, such as of "guest-group" in "guest-group.edit". */
export const STAND_ALONE = {
  site: 'site',
  rack: 'rack',
  'power-feed': 'powerFeed',
  'host-group': 'hostGroup',
  platform: 'platform',
  medium: 'medium',
  backup: 'backup',
  'routing-domain': 'routingDomain',
  'physical-switch': 'physicalSwitch',
  line: 'switchLine',
  service: 'service',
  profile: 'profile',
  'guest-group': 'guestGroup',
  drive: 'drive',
  snapshot: 'snapshot',
  entitlement: 'entitlement',
  template: 'template',
  device: 'device',
  route: 'route',
  'forwarded-port': 'forwardedPort',
  provider: 'provider',
  need: 'dependency',
  plan: 'plan',
  'plan-step': 'planStep',
} as const satisfies Readonly<Record<string, Kind>>;
export type StandAlone = (typeof STAND_ALONE)[keyof typeof STAND_ALONE];
