/**
 * Entities of the mapper. Those of the record follow from the description of the kinds; accounts are written out, since
 * they live outside the record.
 */
import {
  KIND_NAMES,
  KINDS,
  type Field,
  type FieldType,
  type InputType,
  type Kind,
} from '@insel/core';
import { ROLES } from '@insel/contract';
import {
  ArrayType,
  BigIntType,
  BooleanType,
  DeferMode,
  EntitySchema,
  TextType,
  UuidType,
  type EntitySchemaProperty as PropertyOf,
  type Type,
} from '@mikro-orm/core';
import { snake } from './snake.js';

type EntitySchemaProperty = PropertyOf<unknown, Record<string, unknown>>;

type ColumnType = Exclude<FieldType, InputType>;

const COLUMN: Record<ColumnType, string> = {
  text: 'text',
  choice: 'text',
  integer: 'bigint',
  flag: 'boolean',
  time: 'timestamptz',
  date: 'date',
  address: 'inet',
  prefix: 'cidr',
  mac: 'macaddr',
  ref: 'uuid',
  texts: 'text[]',
  addresses: 'inet[]',
};

/** What the mapper makes of a column where it is no text: numbers beyond 2^53 fail. */
const TYPE: Partial<Record<ColumnType, () => Type<unknown>>> = {
  integer: () => new BigIntType('number'),
  flag: () => new BooleanType(),
  ref: () => new UuidType(),
  texts: () => new ArrayType(),
  addresses: () => new ArrayType(),
};

/** A default of a column, as PostgreSQL says it; undefined: none. */
function defaultOf({ initial, nullable }: Field<unknown>): string | undefined {
  if (initial === undefined || initial === null || nullable) return undefined;
  if (Array.isArray(initial)) return `'{}'`;
  if (typeof initial === 'string') return `'${initial.replaceAll("'", "''")}'`;
  // PostgreSQL quotes what does not fit in four bytes.
  return Number(initial) > 2 ** 31 ? `'${String(initial)}'` : String(initial);
}

function propertyOf(kind: Kind, name: string, field: Field<unknown>): EntitySchemaProperty {
  const column = {
    fieldName: snake(name),
    columnType: COLUMN[field.type as ColumnType],
    nullable: field.nullable,
  };
  if (field.type === 'ref')
    return {
      ...column,
      kind: 'm:1',
      entity: field.to!,
      mapToPk: true,
      index: `${snake(kind)}_${snake(name)}_idx`,
      foreignKeyName: `${snake(kind)}_${snake(name)}_fkey`,
      deferMode: DeferMode.INITIALLY_DEFERRED,
      deleteRule: 'no action',
      updateRule: 'no action',
    };
  if (field.choices)
    return { ...column, enum: true, items: [...field.choices], defaultRaw: defaultOf(field) };
  const type = TYPE[field.type as ColumnType];
  return { ...column, type: type ? type() : new TextType(), defaultRaw: defaultOf(field) };
}

export const RECORD_ENTITIES = KIND_NAMES.map(
  (kind: Kind) =>
    new EntitySchema<Record<string, unknown>>({
      name: kind,
      tableName: snake(kind),
      properties: {
        id: { type: new UuidType(), primary: true },
        revision: { type: new BigIntType('number') },
        ...Object.fromEntries(
          Object.entries(KINDS[kind].fields).map(([name, field]) => [
            name,
            propertyOf(kind, name, field),
          ]),
        ),
      },
    }),
);

export interface PersonRow {
  id: string;
  name: string;
  role: (typeof ROLES)[number];
  passwordHash: string;
  active: boolean;
  createdAt: Date;
}

export const PersonEntity = new EntitySchema<PersonRow>({
  name: 'Person',
  tableName: 'person',
  properties: {
    id: { type: 'uuid', primary: true },
    name: { type: 'string', columnType: 'citext' },
    role: { enum: true, items: [...ROLES], columnType: 'text' },
    passwordHash: { type: 'string', columnType: 'text', fieldName: 'password_hash' },
    active: { type: 'boolean' },
    createdAt: { type: 'datetime', fieldName: 'created_at' },
  },
});

export interface SessionRow {
  tokenHash: string;
  personId: string;
  createdAt: Date;
  expiresAt: Date;
}

export const SessionEntity = new EntitySchema<SessionRow>({
  name: 'Session',
  tableName: 'session',
  properties: {
    tokenHash: { type: 'string', columnType: 'text', fieldName: 'token_hash', primary: true },
    personId: { type: 'uuid', fieldName: 'person_id' },
    createdAt: { type: 'datetime', fieldName: 'created_at' },
    expiresAt: { type: 'datetime', fieldName: 'expires_at' },
  },
});

export interface ApiTokenRow {
  id: string;
  tokenHash: string;
  personId: string;
  label: string;
  createdAt: Date;
  revokedAt: Date | null;
}

export const ApiTokenEntity = new EntitySchema<ApiTokenRow>({
  name: 'ApiToken',
  tableName: 'api_token',
  properties: {
    id: { type: 'uuid', primary: true },
    tokenHash: { type: 'string', columnType: 'text', fieldName: 'token_hash' },
    personId: { type: 'uuid', fieldName: 'person_id' },
    label: { type: 'string', columnType: 'text' },
    createdAt: { type: 'datetime', fieldName: 'created_at' },
    revokedAt: { type: 'datetime', fieldName: 'revoked_at', nullable: true },
  },
});
